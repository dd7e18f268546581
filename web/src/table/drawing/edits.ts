import type { P2 } from '@ivory/core/math'
import { freshId, rounded } from '@ivory/core/math'
import { DRAWING_REACH, type Drawing, type Entity, pointsOf, pruned } from '@ivory/core/profile'

/** What the drawing tools make. */
export type DrawTool =
  | 'line'
  | 'arc'
  | 'centre-arc'
  | 'tangent-arc'
  | 'circle'
  | 'elliptic'
  | 'fit'
  | 'poles'
  | 'axis'
/** A place clicked or typed: an existing point by id, or a new one. */
export type Spot = {
  at: P2
  id?: string
  /** What the place was snapped to, which may be held from then on. */
  holds?: Hint[]
}
export type Hint = 'axis' | 'base' | 'level' | 'upright'

/** Coordinates are kept to a thousandth of a millimetre unless they were typed finer. */
export const tidy = (x: number): number => rounded(x, 3) + 0

/** The drawing with the spot as a point of it, and that point's id. */
function withPoint(d: Drawing, spot: Spot): [Drawing, string] {
  if (spot.id && spot.id in d.points) return [d, spot.id]
  const id = freshId(Object.keys(d.points), 'p')
  return [{ ...d, points: { ...d.points, [id]: { x: tidy(spot.at[0]), y: tidy(spot.at[1]) } } }, id]
}

const ENTITY_STEM: Record<DrawTool, string> = {
  line: 'line',
  arc: 'arc',
  'centre-arc': 'arc',
  'tangent-arc': 'arc',
  circle: 'circle',
  elliptic: 'oval',
  fit: 'curve',
  poles: 'spline',
  axis: 'axis',
}

/** How many spots a tool takes; null for as many as one likes. */
export const SPOTS: Record<DrawTool, number | null> = {
  line: 2,
  arc: 3,
  'centre-arc': 3,
  'tangent-arc': 2,
  circle: 2,
  elliptic: 3,
  fit: null,
  poles: null,
  axis: 2,
}

/** Adds an entity through the spots. `via` is the through-point the centre and tangent arcs work out. */
export function addEntity(
  d: Drawing,
  tool: DrawTool,
  spots: Spot[],
  options: { construction: boolean; via?: P2 | undefined },
): { drawing: Drawing; entity: string; last: string } {
  let drawing = d
  const ids = spots.map((s) => {
    const [next, id] = withPoint(drawing, s)
    drawing = next
    return id
  })
  const id = freshId(
    drawing.entities.map((e) => e.id),
    ENTITY_STEM[tool],
  )
  const common = { id, ...(options.construction ? { construction: true } : {}) }
  const entity = (): Entity => {
    switch (tool) {
      case 'line':
        return { ...common, kind: 'line', a: ids[0]!, b: ids[1]! }
      case 'axis':
        return { ...common, kind: 'axis', a: ids[0]!, b: ids[1]! }
      case 'arc':
        return { ...common, kind: 'arc', a: ids[0]!, via: ids[1]!, b: ids[2]! }
      case 'centre-arc':
      case 'tangent-arc': {
        const [next, via] = withPoint(drawing, { at: options.via ?? spots[0]!.at })
        drawing = next
        const [a, b] = tool === 'centre-arc' ? [ids[1]!, ids[2]!] : [ids[0]!, ids[1]!]
        return { ...common, kind: 'arc', a, via, b }
      }
      case 'circle': {
        const [c, rim] = [spots[0]!.at, spots[1]!.at]
        return {
          ...common,
          kind: 'circle',
          c: ids[0]!,
          radius: tidy(Math.hypot(rim[0] - c[0], rim[1] - c[1])),
        }
      }
      case 'elliptic':
        return { ...common, kind: 'elliptic', c: ids[0]!, a: ids[1]!, b: ids[2]!, sweep: 90 }
      case 'fit':
        return { ...common, kind: 'fit', points: ids, handles: ids.map(() => ({ hold: 'auto' })) }
      case 'poles':
        return { ...common, kind: 'poles', points: ids, degree: Math.min(3, ids.length - 1) }
    }
  }
  const made = entity()
  drawing = { ...drawing, entities: [...drawing.entities, made] }
  return { drawing: pruned(drawing), entity: id, last: ids[ids.length - 1]! }
}

/** Takes entities away, and fit points or poles; entities left with too few points go too. */
export function removeFrom(d: Drawing, entities: string[], points: string[]): Drawing {
  const kept = d.entities.flatMap((e): Entity[] => {
    if (entities.includes(e.id)) return []
    const hit = pointsOf(e).filter((p) => points.includes(p))
    if (hit.length === 0) return [e]
    if (e.kind === 'fit') {
      const stay = e.points
        .map((p, i) => [p, e.handles[i]!] as const)
        .filter(([p]) => !points.includes(p))
      return stay.length < 2
        ? []
        : [{ ...e, points: stay.map(([p]) => p), handles: stay.map(([, h]) => h) }]
    }
    if (e.kind === 'poles') {
      const stay = e.points.filter((p) => !points.includes(p))
      return stay.length < 2 ? [] : [onPoles(e, stay)]
    }
    return []
  })
  return pruned({ ...d, entities: kept })
}

/** A spline on other control points: its knots are spaced evenly again. */
function onPoles({ knots: _, ...e }: Extract<Entity, { kind: 'poles' }>, points: string[]): Entity {
  return { ...e, points, degree: Math.min(e.degree, points.length - 1) }
}

/** Splits a line or adds a fit point (or pole) at `at`; `index` says after which point. */
export function insertPoint(d: Drawing, entity: string, at: P2, index: number): Drawing {
  const e = d.entities.find((x) => x.id === entity)
  if (!e) return d
  const [drawing, id] = withPoint(d, { at })
  const swap = (next: Entity[]): Drawing => ({
    ...drawing,
    entities: drawing.entities.flatMap((x) => (x.id === entity ? next : [x])),
  })
  if (e.kind === 'line') {
    const second = freshId(
      d.entities.map((x) => x.id),
      'line',
    )
    return swap([
      { ...e, b: id },
      { ...e, id: second, a: id },
    ])
  }
  if (e.kind === 'fit') {
    const points = [...e.points.slice(0, index + 1), id, ...e.points.slice(index + 1)]
    const handles = [
      ...e.handles.slice(0, index + 1),
      { hold: 'auto' as const },
      ...e.handles.slice(index + 1),
    ]
    return swap([{ ...e, points, handles }])
  }
  if (e.kind === 'poles')
    return swap([onPoles(e, [...e.points.slice(0, index + 1), id, ...e.points.slice(index + 1)])])
  return d
}

/** Moves points by a step; coordinates that are expressions stay where their figure puts them. */
export function movePoints(d: Drawing, from: Drawing, ids: string[], step: P2): Drawing {
  const points = { ...d.points }
  for (const id of ids) {
    const p = from.points[id]
    if (!p) continue
    points[id] = {
      x: typeof p.x === 'number' ? tidy(p.x + step[0]) : p.x,
      y: typeof p.y === 'number' ? tidy(p.y + step[1]) : p.y,
    }
  }
  return { ...d, points }
}

/** Reads a typed place: `40 25`, `+10 -5` from the last point, or `30 < 45` (length and angle, deg). */
export function typedSpot(text: string, last: P2 | null): P2 | string {
  const spot = readSpot(text, last)
  if (typeof spot !== 'string' && Math.max(...spot.map(Math.abs)) > DRAWING_REACH)
    return `That is too far out: a drawing reaches ${DRAWING_REACH / 1000} m at most.`
  return spot
}

function readSpot(text: string, last: P2 | null): P2 | string {
  const number = '([-+]?\\d*[.,]?\\d+)'
  const num = (s: string) => Number(s.replace(',', '.'))
  const polar = new RegExp(`^\\s*${number}\\s*<\\s*${number}\\s*$`).exec(text)
  if (polar) {
    if (!last) return 'A length and an angle need a point to start from.'
    const [l, a] = [num(polar[1]!), (num(polar[2]!) * Math.PI) / 180]
    return [last[0] + l * Math.cos(a), last[1] + l * Math.sin(a)]
  }
  const pair = new RegExp(`^\\s*${number}[\\s;]+${number}\\s*$`).exec(text)
  if (!pair) return 'Type two numbers (r z), a step (+r +z) or length < angle.'
  const relative = /^\s*\+/.test(text) && last
  const p: P2 = [num(pair[1]!), num(pair[2]!)]
  return relative ? [last[0] + p[0], last[1] + p[1]] : p
}
