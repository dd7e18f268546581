import { type Frame, inSpace, type P2, type P3 } from '@ivory/core/math'
import { faceName } from '../../bench/names'
import { pickedRefs, sameEdge, sameFace, toggleEdge, toggleFace } from '../../bench/picking'
import type { BodyView } from '../../engine'
import { useInPlace } from '../../session/ghost'
import { useSession } from '../../session/session'
import { sectionPath } from '../drawing/outlines'
import { onPlane, seenOn } from '../frame'
import type { Canvas } from '../useCanvasView'
import { WallDims } from './WallDims'

/** The finished half-section with its real wall, its mirror image, gauge places and what is picked. */
export function SectionLayer({
  canvas,
  frame,
  pickBody,
}: {
  canvas: Canvas
  frame: Frame
  pickBody: BodyView | null
}) {
  const view = useSession((s) => s.view)
  const selected = useSession((s) => s.selected)
  const cutWalls = useSession((s) => s.cutWalls)
  const report = view?.reports.find((r) => r.id === selected)
  const inPlace = useInPlace()
  const bodies = (inPlace ?? view?.bodies ?? []).filter((b) => b.section.length > 0)
  const at = (b: BodyView, p: P2) => canvas.toScreen(onPlane(frame, b.frame, p))
  const spot = (b: BodyView, p: P2 | P3) =>
    inSpace(p) ? canvas.toScreen(seenOn(frame, p)) : at(b, p)
  return (
    <g>
      <defs>
        <pattern
          id="hatch"
          width="7"
          height="7"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="7" height="7" fill="#f3e7c8" />
          <path d="M0 0V7" stroke="#c9a961" strokeWidth="1.3" />
        </pattern>
      </defs>
      {bodies.map((b) => (
        <g key={b.id}>
          {b.turned && (
            <path
              d={sectionPath(b, (p) => at(b, [-p[0], p[1]]))}
              fill="none"
              stroke="#b9ad94"
              strokeWidth={1}
            />
          )}
          <path
            data-testid="section"
            d={sectionPath(b, (p) => at(b, p))}
            fill={b.content ? '#8aa39d' : 'url(#hatch)'}
            fillOpacity={b.content ? 0.15 : 1}
            fillRule="evenodd"
            stroke="#4a4033"
            strokeWidth={b.content ? 1 : 1.4}
            strokeDasharray={b.content ? '6 4' : undefined}
          />
        </g>
      ))}
      {cutWalls &&
        !pickBody &&
        bodies
          .filter((b) => !b.turned)
          .map((b) => <WallDims key={b.id} body={b} at={(p) => at(b, p)} />)}
      {pickBody && (
        <path
          data-testid="ghost"
          d={sectionPath(pickBody, (p) => at(pickBody, p))}
          fill="none"
          stroke="#7a5310"
          strokeWidth={1.4}
          strokeDasharray="5 4"
        />
      )}
      {report &&
        report.kind !== 'profile' &&
        bodies[0] &&
        report.diagnoses
          .flatMap((d) => d.places)
          .slice(0, 12)
          .map((p) => (
            <PlaceMark
              key={`${p.at.join()}${p.label ?? ''}`}
              at={spot(bodies[0]!, p.at)}
              grave={report.status === 'fail'}
            />
          ))}
      {bodies[0] && !pickBody && <GaugePlaces at={(p) => spot(bodies[0]!, p)} />}
      {pickBody && <Picks body={pickBody} at={(p) => at(pickBody, p)} />}
    </g>
  )
}

function PlaceMark({ at, grave }: { at: P2; grave: boolean }) {
  const color = grave ? '#93321d' : '#7d5600'
  return (
    <g stroke={color} fill="none" strokeWidth={2}>
      <circle cx={at[0]} cy={at[1]} r={8} />
      <path
        d={`M${at[0] - 13} ${at[1]}h6M${at[0] + 7} ${at[1]}h6M${at[0]} ${at[1] - 13}v6M${at[0]} ${at[1] + 7}v6`}
      />
    </g>
  )
}

/** Where the wall is thinnest and thickest. */
function GaugePlaces({ at }: { at(p: P2 | P3): P2 }) {
  const gauge = useSession((s) => s.settled?.gauges.find((g) => g.kind === 'wall'))
  if (!gauge?.reading) return null
  return (
    <g>
      {gauge.reading.places.map((p) => {
        const [x, y] = at(p.at)
        return (
          <g key={p.label}>
            <circle cx={x} cy={y} r={3} fill="#2b2620" />
            <path d={`M${x} ${y}l26 -14h4`} stroke="#2b2620" strokeWidth={0.8} fill="none" />
            <text x={x + 32} y={y - 11} fontSize={12} fill="#2b2620" className="figures">
              {p.label}
            </text>
          </g>
        )
      })}
    </g>
  )
}

function Picks({ body, at }: { body: BodyView; at(p: P2): P2 }) {
  const doc = useSession((s) => s.doc)!
  const picking = useSession((s) => s.picking)!
  const refs = pickedRefs(doc, picking) as never[]
  const tell = (hover: string) => useSession.setState({ hover })
  if (picking.what === 'edges') {
    return (
      <g>
        {body.edges
          .flatMap((e) => (e.sharp && e.at ? [{ ...e, spot: at(e.at) }] : []))
          .map((e) => {
            const [x, y] = e.spot
            const on = refs.some((r) => sameEdge(r, e.ref))
            const name = `${faceName(doc, e.ref.edge[0])} / ${faceName(doc, e.ref.edge[1])}`
            return (
              <circle
                key={`${e.ref.edge.join()}${e.ref.index}`}
                data-testid="pick-edge"
                data-name={e.ref.edge.join('|')}
                cx={x}
                cy={y}
                r={on ? 7 : 6}
                fill={on ? '#7a5310' : '#fcf9f1'}
                stroke="#7a5310"
                strokeWidth={2}
                className="cursor-pointer"
                onPointerDown={(ev) => ev.stopPropagation()}
                onPointerEnter={() => tell(`edge between ${name}`)}
                onClick={() => toggleEdge(e.ref)}
              />
            )
          })}
      </g>
    )
  }
  return (
    <g>
      {body.faces.map((f) => {
        const piece = body.section.find((s) => s.name === f.ref.face)
        if (!piece) return null
        const on = refs.some((r) => sameFace(r, f.ref))
        const d = piece.points.map((p, i) => `${i === 0 ? 'M' : 'L'}${at(p).join(' ')}`).join('')
        return (
          <path
            key={`${f.ref.face}${f.ref.index}`}
            data-testid="pick-face"
            data-name={f.ref.face}
            d={d}
            fill="none"
            stroke={on ? '#7a5310' : '#c9a961'}
            strokeOpacity={on ? 1 : 0.35}
            strokeWidth={on ? 7 : 9}
            className="cursor-pointer hover:stroke-[#7a5310]"
            onPointerDown={(ev) => ev.stopPropagation()}
            onPointerEnter={() => tell(faceName(doc, f.ref.face))}
            onClick={() => toggleFace(f.ref)}
          />
        )
      })}
    </g>
  )
}
