import { fixed, type P2, type P3 } from '@ivory/core/math'
import { Maximize } from 'lucide-react'
import { type PointerEvent, useCallback, useEffect, useRef, useState } from 'react'
import { opOf, preview, settle, useSession } from '../../session/session'
import { addStop, holdsOf, movedStop, putStops, type StopDoc, stopsOf } from '../../session/tracing'
import type { PathDatum } from '../../stage/drawn/PathLine'
import { IconButton } from '../../ui/controls'
import { HoldDim } from '../dimensions/HoldDim'

/** Two views of space on one sheet: looked at from above, and from the front below it. */
const VIEWS = {
  plan: { title: 'plan, from above', up: 1, axis: 'y' },
  elevation: { title: 'elevation, from the front', up: 2, axis: 'z' },
} as const
type ViewName = keyof typeof VIEWS

/** Places that are dragged fall on tenths of a millimetre. */
const SNAP = 0.1
const MARGIN = 34

/** A place that is dragged: in which view, where it was, and all places as they were. */
interface Held {
  stop: number
  view: ViewName
  from: P3
  stops: StopDoc[]
}

/** Where the sheet shows what: x alike in both views, mm a pixel, and the middle of each. */
interface Laid {
  scale: number
  middle: P3
}

/**
 * A path through places as it stands on a drawing board: plan above elevation, x in line. A place dragged in one moves in the
 * other; while it is drawn on the Stage a click here adds a place too, as deep as the last one.
 */
export function PlanElevation({ path }: { path: PathDatum }) {
  const box = useRef<HTMLDivElement>(null)
  const [size, setSize] = useState({ w: 0, h: 0 })
  const [laid, setLaid] = useState<Laid | null>(null)
  const [held, setHeld] = useState<Held | null>(null)
  const tracing = useSession((s) => s.tracing)
  const holds = useSession((s) => holdsOf(opOf(s.doc, path.id)))
  const dims = holds.flatMap((hold, index) => (hold.kind === 'apart' ? [{ hold, index }] : []))
  const fit = useCallback(() => {
    if (size.w > 0) setLaid(laidFor(path, size))
  }, [path, size])
  useEffect(() => {
    const el = box.current
    if (!el) return
    const watch = new ResizeObserver(([e]) =>
      setSize({ w: e!.contentRect.width, h: e!.contentRect.height }),
    )
    watch.observe(el)
    return () => watch.disconnect()
  }, [])
  // It fits when it is opened; after that only when asked.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the path's own changes must not move the view
  useEffect(fit, [size, path.id])

  const half = size.h / 2
  // What was typed or drawn beyond a view brings it back into sight, never while a place is dragged.
  const lost =
    laid !== null &&
    held === null &&
    path.stops.some(
      (p) =>
        [1, 2].some((k) => Math.abs(p[k]! - laid.middle[k]!) / laid.scale > half / 2) ||
        Math.abs(p[0] - laid.middle[0]) / laid.scale > size.w / 2,
    )
  useEffect(() => {
    if (lost) fit()
  }, [lost, fit])
  const put = (view: ViewName, p: P3): P2 => {
    const { scale, middle } = laid!
    const k = VIEWS[view].up
    const y = (view === 'plan' ? 0 : half) + half / 2 - (p[k]! - middle[k]!) / scale
    return [size.w / 2 + (p[0] - middle[0]) / scale, y]
  }
  /** The place under the pointer in a view, as deep as another. */
  const taken = (view: ViewName, e: PointerEvent, as: P3): P3 => {
    const r = box.current!.getBoundingClientRect()
    const { scale, middle } = laid!
    const k = VIEWS[view].up
    const x = middle[0] + (e.clientX - r.left - size.w / 2) * scale
    const up = middle[k]! - (e.clientY - r.top - (view === 'plan' ? 0 : half) - half / 2) * scale
    const whole = (v: number) => Math.round(v / SNAP) * SNAP
    const out: [number, number, number] = [whole(x), as[1], as[2]]
    out[k] = whole(up)
    return out
  }
  const viewAt = (e: PointerEvent): ViewName =>
    e.clientY - box.current!.getBoundingClientRect().top < half ? 'plan' : 'elevation'
  const tell = (p: P3) => useSession.setState({ hover: p.map((c) => fixed(c, 1)).join(', ') })

  const move = (e: PointerEvent) => {
    if (!laid) return
    const tip = path.stops.at(-1) ?? [0, 0, 0]
    if (!held) {
      tell(taken(viewAt(e), e, tip))
      return
    }
    const { from } = held
    const to = taken(held.view, e, from)
    tell(to)
    // From where it was taken: what is shown may lag behind the pointer.
    const by: P3 = [to[0] - from[0], to[1] - from[1], to[2] - from[2]]
    putStops(path.id, movedStop(held.stops, held.stop, by), preview)
  }
  return (
    <section
      data-theme="light"
      ref={box}
      aria-label="Plan and elevation"
      className="relative h-full touch-none select-none overflow-hidden bg-sheet"
      onPointerMove={move}
      onPointerUp={() => {
        setHeld(null)
        settle()
      }}
      onPointerLeave={() => useSession.setState({ hover: '' })}
      onClick={(e) => {
        if (!tracing || !laid || (e.target as Element).closest('button, circle, input')) return
        const event = e as unknown as PointerEvent
        addStop(path.id, taken(viewAt(event), event, path.stops.at(-1) ?? [0, 0, 0]), tracing.by)
      }}
    >
      {laid && (
        <svg width={size.w} height={size.h} aria-hidden="true">
          <path d={`M0 ${half}H${size.w}`} stroke="#cfc4aa" />
          {(Object.keys(VIEWS) as ViewName[]).map((view) => {
            const [ox, oy] = put(view, [0, 0, 0])
            const top = view === 'plan' ? 0 : half
            return (
              <g key={view} clipPath={`url(#clip-${view})`}>
                <clipPath id={`clip-${view}`}>
                  <rect x={0} y={top} width={size.w} height={half} />
                </clipPath>
                <path
                  d={`M${ox} ${top}v${half}M0 ${oy}H${size.w}`}
                  stroke="#dfd5bd"
                  strokeDasharray="10 4 2 4"
                />
                <text x={8} y={top + half - 8} className="fill-soft text-xs">
                  {VIEWS[view].title}: x across, {VIEWS[view].axis} up
                </text>
                {path.pieces.map((piece, i) => (
                  <polyline
                    // biome-ignore lint/suspicious/noArrayIndexKey: pieces are told apart by their order
                    key={i}
                    points={piece.map((p) => put(view, p).join()).join(' ')}
                    fill="none"
                    stroke="#9a5b00"
                    strokeWidth={1.6}
                  />
                ))}
                <polyline
                  points={path.stops.map((p) => put(view, p).join()).join(' ')}
                  fill="none"
                  stroke="#b8862f"
                  strokeDasharray="3 3"
                  opacity={0.6}
                />
                {dims.map(({ hold, index }) => (
                  <HoldDim
                    key={index}
                    op={path.id}
                    view={view}
                    index={index}
                    hold={hold}
                    a={path.stops[hold.place - 1]}
                    b={path.stops[hold.other - 1]}
                    put={(p) => put(view, p)}
                  />
                ))}
                {path.stops.map((p, i) => {
                  const [x, y] = put(view, p)
                  return (
                    // biome-ignore lint/suspicious/noArrayIndexKey: places are told apart by their order
                    <g key={i}>
                      <circle
                        cx={x}
                        cy={y}
                        r={held?.stop === i ? 6 : 4.5}
                        data-testid={`${view}-${i + 1}`}
                        className="cursor-grab fill-sheet stroke-brass hover:fill-brass-wash"
                        strokeWidth={1.6}
                        onPointerDown={(e) => {
                          e.stopPropagation()
                          const op = opOf(useSession.getState().doc, path.id)
                          setHeld({ stop: i, view, from: p, stops: stopsOf(op) })
                        }}
                      />
                      <text x={x + 8} y={y - 6} className="figures fill-soft text-xs">
                        {i + 1}
                      </text>
                    </g>
                  )
                })}
              </g>
            )
          })}
        </svg>
      )}
      <div className="absolute top-2 left-2 rounded-sm border border-rule bg-sheet/90 p-0.5">
        <IconButton label="Fit both views" onClick={fit}>
          <Maximize size={16} />
        </IconButton>
      </div>
    </section>
  )
}

/** A scale and a middle at which the path fills both views. */
function laidFor(path: PathDatum, size: { w: number; h: number }): Laid {
  const all = [...path.pieces.flat(), ...path.stops]
  const span = (k: number) => {
    const xs = all.map((p) => p[k]!)
    return [Math.min(...xs), Math.max(...xs)] as const
  }
  const spans = [span(0), span(1), span(2)] as const
  const wide = Math.max(20, spans[0][1] - spans[0][0])
  const deep = Math.max(20, spans[1][1] - spans[1][0], spans[2][1] - spans[2][0])
  const scale = Math.max(
    wide / Math.max(40, size.w - 4 * MARGIN),
    deep / Math.max(40, size.h / 2 - 2 * MARGIN),
  )
  const middle = spans.map(([a, b]) => (a + b) / 2) as unknown as P3
  return { scale, middle }
}
