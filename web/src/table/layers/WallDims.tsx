import { fixed, type P2 } from '@ivory/core/math'
import { sectionWalls } from '@ivory/core/mesh'
import { useMemo } from 'react'
import type { BodyView } from '../../engine'
import { useSession } from '../../session/session'
import { outlinesOf } from '../drawing/outlines'

/** Dimensions across the walls of a section: the thinnest, and others all round. */
export function WallDims({ body, at }: { body: BodyView; at(p: P2): P2 }) {
  const unit = useSession((s) => s.doc?.unit)
  const walls = useMemo(() => sectionWalls(outlinesOf(body.section)), [body.section])
  return (
    <g stroke="#2b2620" fill="none" strokeWidth={1} data-testid="wall-dims">
      {walls.map((w, i) => {
        const [a, b] = [at(w.at), at(w.to)]
        const long = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1
        const [ux, uy] = [(b[0] - a[0]) / long, (b[1] - a[1]) / long]
        // Arrows from outside where the wall is too thin to hold them; the figure stands outside.
        const out = (p: P2, s: number): P2 => [p[0] + s * ux, p[1] + s * uy]
        const arrow = (p: P2, s: number) => {
          const [q, r] = [out(p, s * 6), [-uy * 2.5, ux * 2.5]]
          return `M${q[0] + r[0]!} ${q[1] + r[1]!}L${p[0]} ${p[1]}L${q[0] - r[0]!} ${q[1] - r[1]!}`
        }
        const text = out(a, -22)
        return (
          <g key={`${w.at.join()}`}>
            <path
              d={`M${out(a, -16).join(' ')}L${out(b, 12).join(' ')}${arrow(a, -1)}${arrow(b, 1)}`}
            />
            <text
              x={text[0]}
              y={text[1] + 4}
              textAnchor={ux > 0.5 ? 'end' : ux < -0.5 ? 'start' : 'middle'}
              fontSize={12}
              fill={i === 0 ? '#7a5310' : '#2b2620'}
              fontWeight={i === 0 ? 600 : 400}
              stroke="#fcf9f1"
              strokeWidth={3}
              paintOrder="stroke"
              className="figures"
            >
              {unit === 'in' ? `${fixed(w.d / 25.4, 3)}″` : fixed(w.d, 2)}
            </text>
          </g>
        )
      })}
    </g>
  )
}
