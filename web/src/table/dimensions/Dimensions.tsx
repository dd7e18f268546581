import type { P2 } from '@ivory/core/math'
import { fixed } from '@ivory/core/math'
import { DRAWING_REACH, type Drawing, pointsOf } from '@ivory/core/profile'
import { toast } from 'sonner'
import { edit, useSession } from '../../session/session'
import { typedRadius, typedValue } from '../drawing/typed'
import type { Canvas } from '../useCanvasView'
import { Dim } from './Dim'

/** Dimensions of the chosen points (or of all ends of chosen pieces), drawn as on a drawing; click to type. */
export function Dimensions({
  canvas,
  op,
  drawing,
  points,
}: {
  canvas: Canvas
  op: string
  drawing: Drawing
  points: Record<string, P2>
}) {
  const drawn = useSession((s) => s.drawn)
  const ids = drawn.points.length > 0 ? drawn.points : endsOfChosen(drawing, drawn.entities)
  const { toScreen } = canvas
  // Heights stand side by side right of everything chosen, the lowest nearest.
  const right = Math.max(...ids.map((id) => (points[id] ? toScreen(points[id])[0] : 0)))
  const byHeight = ids
    .filter((id) => Math.abs(points[id]?.[1] ?? 0) > 1e-6)
    .sort((a, b) => Math.abs(points[a]![1]) - Math.abs(points[b]![1]))
  const wide = (id: string) => Math.abs(points[id]?.[0] ?? 0) > 1e-6
  const farOf = (id: string) => right + 40 + 46 * byHeight.indexOf(id)
  return (
    <>
      <svg
        width="100%"
        height="100%"
        className="pointer-events-none absolute inset-0"
        aria-hidden="true"
      >
        {ids.map((id) => {
          const p = points[id]
          if (!p) return null
          const [x, y] = toScreen(p)
          const [ax] = toScreen([0, p[1]])
          const [, by] = toScreen([p[0], 0])
          const far = farOf(id)
          const tall = byHeight.includes(id)
          return (
            <g key={id} stroke="#635a4c" strokeWidth={0.9} fill="none">
              {wide(id) && (
                <path
                  d={`M${ax} ${y - 5}v10M${ax} ${y}H${x - 6}M${ax + 7} ${y - 3}L${ax} ${y}l7 3M${x - 13} ${y - 3}L${x - 6} ${y}l-7 3`}
                />
              )}
              {tall && (
                <path
                  d={`M${x + 6} ${y}H${far + 5}M${x + 6} ${by}H${far + 5}M${far} ${y}V${by}M${far - 3} ${y + 7}L${far} ${y}l3 7M${far - 3} ${by - 7}L${far} ${by}l3 -7`}
                />
              )}
            </g>
          )
        })}
      </svg>
      {ids.map((id) => {
        const p = points[id]
        const source = drawing.points[id]
        if (!p || !source) return null
        const [x, y] = toScreen(p)
        const [ax] = toScreen([0, p[1]])
        const [, by] = toScreen([p[0], 0])
        return (
          <div key={id}>
            {(wide(id) || ids.length === 1) && (
              <Dim
                label={`⌀ ${fixed(2 * p[0], 2)}`}
                name={`${id} distance from the axis`}
                value={source.x}
                at={[(ax + x) / 2, y - 11]}
                onCommit={(v) => setCoordinate(op, id, 'x', v)}
              />
            )}
            {(byHeight.includes(id) || ids.length === 1) && (
              <Dim
                label={fixed(p[1], 2)}
                name={`${id} height`}
                value={source.y}
                at={[byHeight.includes(id) ? farOf(id) : x + 46, (y + by) / 2]}
                onCommit={(v) => setCoordinate(op, id, 'y', v)}
              />
            )}
          </div>
        )
      })}
    </>
  )
}

const endsOfChosen = (d: Drawing, entities: string[]): string[] => [
  ...new Set(
    d.entities
      .filter((e) => entities.includes(e.id))
      .flatMap((e) => (e.kind === 'arc' ? [e.a, e.b] : pointsOf(e))),
  ),
]

export function setCoordinate(op: string, id: string, axis: 'x' | 'y', text: string) {
  const typed = Number(text)
  if (Math.abs(typed) > DRAWING_REACH) {
    toast.error(`That is too far out: a drawing reaches ${DRAWING_REACH / 1000} m at most.`)
    return
  }
  edit((d) => {
    const drawing = d.route.find((o) => o.id === op)?.inputs.drawing as Drawing | undefined
    const value = axis === 'x' ? typedRadius(text, d.unit) : typedValue(text, d.unit)
    if (drawing?.points[id] && value !== null) drawing.points[id][axis] = value
  })
}
