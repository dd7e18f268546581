import { arcAbout, arcTangent, pointAt } from '@ivory/core/curve'
import type { P2 } from '@ivory/core/math'
import { type Drawing, endsOf } from '@ivory/core/profile'
import type { ShapeTool } from '@ivory/core/rebuild'
import { useCallback, useEffect, useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { useSession } from '../../session/session'
import { addEntity, type DrawTool, SPOTS, type Spot } from './edits'
import { withHints } from './holding'
import { reshapeProfile } from './reshaping'

/** Tools that change the piece clicked. */
export const CUTS = ['trim', 'extend', 'break'] as const
export type CutTool = (typeof CUTS)[number]
export type Tool = 'select' | DrawTool | ShapeTool | CutTool
/** What the table's tools are called. */
export const TOOL_LABELS: Record<Tool, string> = {
  select: 'Choose and drag',
  line: 'Lines',
  arc: 'Arc through three points',
  'centre-arc': 'Arc about a centre',
  'tangent-arc': 'Arc going on smoothly',
  circle: 'Circle',
  elliptic: 'Arc of an ellipse',
  fit: 'Curve through points',
  poles: 'Spline by control points',
  axis: 'Turning axis',
  rectangle: 'Rectangle by corners',
  'rectangle-about': 'Rectangle about its middle',
  polygon: 'Regular polygon',
  slot: 'Slot',
  ellipse: 'Ellipse',
  circle3: 'Circle through three points',
  trim: 'Trim to the crossings',
  extend: 'Lengthen to the next piece',
  break: 'Break at the crossings',
}
/** Keys of the table's tools. */
export const TOOL_KEYS: Record<Tool, string> = {
  select: 's',
  line: 'n',
  arc: 'a',
  'centre-arc': 'm',
  'tangent-arc': 't',
  circle: 'c',
  fit: 'f',
  poles: 'p',
  axis: 'y',
  rectangle: 'r',
  'rectangle-about': 'shift+r',
  polygon: 'shift+p',
  slot: 'shift+o',
  ellipse: 'e',
  elliptic: 'shift+e',
  circle3: 'shift+c',
  trim: 'q',
  extend: 'shift+q',
  break: 'shift+x',
}

const SHAPE_SPOTS: Record<ShapeTool, number> = {
  rectangle: 2,
  'rectangle-about': 2,
  polygon: 2,
  slot: 3,
  ellipse: 3,
  circle3: 3,
}
const isShape = (t: Tool): t is ShapeTool => t in SHAPE_SPOTS
const isDraw = (t: Tool): t is DrawTool => t in SPOTS
export const isCut = (t: Tool): t is CutTool => (CUTS as readonly string[]).includes(t)

/** The drawing tool in hand, the spots placed so far and what comes of them. */
export function useDrawing({
  op,
  drawing,
  points,
  put,
  enabled,
}: {
  op: string
  drawing: Drawing
  points: Record<string, P2>
  put(d: Drawing): void
  enabled: boolean
}) {
  const [tool, setTool] = useState<Tool>('select')
  const [spots, setSpots] = useState<Spot[]>([])
  const [over, setOver] = useState<P2 | null>(null)
  const [construction, setConstruction] = useState(false)
  const [infer, setInfer] = useState(true)
  const [sides, setSides] = useState(6)

  const choose = useCallback((t: Tool) => {
    setTool(t)
    setSpots([])
    if (t !== 'select') useSession.setState({ drawn: { points: [], entities: [] } })
  }, [])
  useEffect(() => {
    if (!enabled) choose('select')
  }, [enabled, choose])

  useEffect(() => {
    const take = (e: Event) => enabled && choose((e as CustomEvent<Tool>).detail)
    window.addEventListener('table-tool', take)
    return () => window.removeEventListener('table-tool', take)
  }, [enabled, choose])

  const commit = (t: DrawTool, all: Spot[]) => {
    const made = addEntity(drawing, t, all, { construction, via: viaOf(t, all, drawing, points) })
    put(infer ? withHints(made.drawing, made.entity, t, all) : made.drawing)
    const end = all[all.length - 1]!
    // Lines and tangent arcs go on from where they end; a chain that came back to a point is done.
    const goesOn = (t === 'line' || t === 'tangent-arc') && !end.id
    setSpots(goesOn ? [{ at: end.at, id: made.last }] : [])
    useSession.setState({ drawn: { points: [], entities: [made.entity] } })
  }
  const place = (given: Spot) => {
    if (tool === 'select' || isCut(tool)) return
    const spot = onPoint(given, points)
    const last = spots[spots.length - 1]
    if (last && Math.hypot(last.at[0] - spot.at[0], last.at[1] - spot.at[1]) < 1e-6) return
    const all = [...spots, spot]
    if (isShape(tool)) {
      if (all.length < SHAPE_SPOTS[tool]) setSpots(all)
      else {
        void reshapeProfile(op, { do: 'shape', shape: tool, spots: all.map((s) => s.at), sides })
        setSpots([])
      }
    } else if (SPOTS[tool] === all.length) commit(tool, all)
    else setSpots(all)
  }
  const finish = () => {
    if (isDraw(tool) && SPOTS[tool] === null && spots.length >= 2) commit(tool, spots)
    else setSpots([])
  }

  for (const [t, key] of Object.entries(TOOL_KEYS)) {
    // biome-ignore lint/correctness/useHookAtTopLevel: the list of tools is fixed
    useHotkeys(key, () => choose(t as Tool), { enabled })
  }
  useHotkeys('enter', finish, { enabled: enabled && tool !== 'select' })
  useHotkeys('escape', () => (spots.length > 0 ? setSpots([]) : choose('select')), { enabled })

  const last = spots[spots.length - 1]?.at ?? null
  const preview = tool !== 'select' && !isCut(tool) && over ? [...spots.map((s) => s.at), over] : []
  return {
    tool,
    choose,
    place,
    finish,
    hover: (s: Spot) => setOver(s.at),
    last,
    construction,
    setConstruction,
    infer,
    setInfer,
    sides,
    setSides,
    preview: {
      tool,
      points: preview,
      via: isDraw(tool)
        ? viaOf(
            tool,
            preview.map((at) => ({ at })),
            drawing,
            points,
          )
        : undefined,
    },
    placed: spots.length,
  }
}
export type DrawingState = ReturnType<typeof useDrawing>

/** A place on a point that is there is that point, typed or clicked. */
function onPoint(spot: Spot, points: Record<string, P2>): Spot {
  if (spot.id) return spot
  const [x, y] = spot.at
  const there = Object.entries(points).find(([, p]) => Math.hypot(p[0] - x, p[1] - y) < 1e-6)
  return there ? { ...spot, id: there[0] } : spot
}

/** The point half-way along a centre or tangent arc through the spots, once they settle it. */
function viaOf(
  tool: DrawTool,
  spots: Spot[],
  drawing: Drawing,
  points: Record<string, P2>,
): P2 | undefined {
  if (tool === 'centre-arc' && spots.length === 3) {
    const [c, a, b] = [spots[0]!.at, spots[1]!.at, spots[2]!.at]
    const toLeft = (a[0] - c[0]) * (b[1] - c[1]) - (a[1] - c[1]) * (b[0] - c[0]) > 0
    const r = Math.hypot(a[0] - c[0], a[1] - c[1])
    const n = Math.hypot(b[0] - c[0], b[1] - c[1]) || 1
    return pointAt(
      arcAbout(c, a, [c[0] + ((b[0] - c[0]) * r) / n, c[1] + ((b[1] - c[1]) * r) / n], toLeft),
      0.5,
    )
  }
  if (tool === 'tangent-arc' && spots.length === 2) {
    return pointAt(
      arcTangent(spots[0]!.at, headingAt(spots[0]!, drawing, points), spots[1]!.at),
      0.5,
    )
  }
  return undefined
}

/** Direction in which the piece that ends at the spot arrives there; level when there is none. */
function headingAt(spot: Spot, drawing: Drawing, points: Record<string, P2>): P2 {
  for (const e of [...drawing.entities].reverse()) {
    const ends = endsOf(e)
    if (!ends) continue
    const [a, b] = ends.map((id) => points[id])
    if (!a || !b) continue
    const near = (p: P2) => Math.hypot(p[0] - spot.at[0], p[1] - spot.at[1]) < 1e-6
    const inner =
      e.kind === 'arc'
        ? points[e.via]
        : e.kind === 'fit' || e.kind === 'poles'
          ? points[e.points[e.points.length - 2]!]
          : a
    if (near(b) && e.kind === 'arc' && inner) {
      // The tangent at the end of an arc through three points mirrors the chord about the last chord.
      return arcEnd(a, inner, b)
    }
    if (near(b)) return [b[0] - (inner ?? a)[0], b[1] - (inner ?? a)[1]]
    if (near(a)) return [a[0] - b[0], a[1] - b[1]]
  }
  return [1, 0]
}

function arcEnd(a: P2, m: P2, b: P2): P2 {
  const turnOf = (u: P2, v: P2) => Math.atan2(u[0] * v[1] - u[1] * v[0], u[0] * v[0] + u[1] * v[1])
  const [u, v]: [P2, P2] = [
    [m[0] - a[0], m[1] - a[1]],
    [b[0] - m[0], b[1] - m[1]],
  ]
  // Inscribed angles: the turn from chord m-b to the tangent equals that between the chords seen from a.
  const k = turnOf([b[0] - a[0], b[1] - a[1]], v)
  const [c, s] = [Math.cos(k), Math.sin(k)]
  const along: P2 = Math.abs(turnOf(u, v)) < 1e-12 ? v : [b[0] - m[0], b[1] - m[1]]
  return [along[0] * c - along[1] * s, along[0] * s + along[1] * c]
}
