import { bad, freshId, good, type Outcome, type P2 } from '../../math'
import { type Drawing, type Entity, endsOf, pointsOf, pruned, renamed } from '../drawing'
import { AXIS, type Relation } from '../solver'
import { holdIds, withHolds } from './holds'
import { tidy } from './places'

/** A likeness of the plane: q = origin + k R (p - about), mirrored first when asked. */
export interface Likeness {
  about: P2
  /** rad. */
  turn: number
  scale: number
  step: P2
}

export const moved = ([x, y]: P2, l: Likeness): P2 => {
  const [u, v] = [x - l.about[0], y - l.about[1]]
  const [c, s] = [Math.cos(l.turn) * l.scale, Math.sin(l.turn) * l.scale]
  return [l.about[0] + c * u - s * v + l.step[0], l.about[1] + s * u + c * v + l.step[1]]
}

/** Moves, turns and scales points that are plain numbers; those a figure drives are told. */
export function transformed(
  d: Drawing,
  places: Readonly<Record<string, P2>>,
  ids: readonly string[],
  l: Likeness,
): Outcome<Drawing> {
  if (![l.turn, l.scale, ...l.about, ...l.step].every(Number.isFinite) || l.scale === 0)
    return bad('likeness', 'Move, turn and scale need numbers, and the scale cannot be 0.')
  const driven = ids.find((id) => {
    const p = d.points[id]
    return p && (typeof p.x === 'string' || typeof p.y === 'string')
  })
  if (driven) return bad('driven', `${driven} is driven by a figure; free it first.`)
  const points = { ...d.points }
  for (const id of ids) {
    const at = places[id]
    if (!at || !points[id]) continue
    const [x, y] = moved(at, l)
    points[id] = { x: tidy(x), y: tidy(y) }
  }
  const entities = d.entities.map((e) =>
    e.kind === 'circle' && ids.includes(e.c) && typeof e.radius === 'number'
      ? { ...e, radius: tidy(e.radius * Math.abs(l.scale)) }
      : e,
  )
  return good({ ...d, points, entities })
}

/** Pieces with their points and the relations and dimensions among them, to be put elsewhere. */
export function partOf(
  d: Drawing,
  places: Readonly<Record<string, P2>>,
  ids: readonly string[],
): Drawing {
  const entities = d.entities.filter((e) => ids.includes(e.id))
  const used = new Set(entities.flatMap(pointsOf))
  const inside = (r: { points: string[]; entities: string[] }) =>
    r.points.every((p) => used.has(p)) && r.entities.every((e) => ids.includes(e))
  return {
    points: Object.fromEntries(
      [...used].map((id) => {
        const p = d.points[id]!
        const [x, y] = places[id] ?? [0, 0]
        return [id, { x: typeof p.x === 'string' ? p.x : x, y: typeof p.y === 'string' ? p.y : y }]
      }),
    ),
    entities,
    relations: (d.relations ?? []).filter(inside),
    dimensions: (d.dimensions ?? []).filter(inside),
  }
}

/** Puts a part into a drawing under fresh ids, keeping what holds it together. */
export function withPart(d: Drawing, part: Drawing): { drawing: Drawing; added: string[] } {
  const points = { ...d.points }
  const point = new Map<string, string>()
  for (const [id, p] of Object.entries(part.points)) {
    const name = freshId(Object.keys(points), 'p')
    point.set(id, name)
    points[name] = p
  }
  const entities = [...d.entities]
  const piece = new Map<string, string>()
  for (const e of part.entities) {
    const stem = e.id.replace(/\d+$/, '') || 'piece'
    const name = freshId(
      entities.map((o) => o.id),
      stem,
    )
    piece.set(e.id, name)
    entities.push(renamed(e, name, (p) => point.get(p)!))
  }
  const holds = holdIds(d)
  const again = <T extends { id: string; points: string[]; entities: string[] }>(
    r: T,
    stem: string,
  ): T => {
    const name = freshId(holds, stem)
    holds.push(name)
    return {
      ...r,
      id: name,
      points: r.points.map((p) => point.get(p)!),
      entities: r.entities.map((e) => piece.get(e)!),
    }
  }
  const relations = [...(d.relations ?? []), ...(part.relations ?? []).map((r) => again(r, 'hold'))]
  const dimensions = [
    ...(d.dimensions ?? []),
    ...(part.dimensions ?? []).map((r) => again(r, 'dim')),
  ]
  return { drawing: { ...d, points, entities, relations, dimensions }, added: [...piece.values()] }
}

/** Mirrors pieces in a line (`axis`: the turning axis) and holds each pair of points to it. */
export function mirrored(
  d: Drawing,
  places: Readonly<Record<string, P2>>,
  ids: readonly string[],
  line: string,
): Outcome<Drawing> {
  const chosen = d.entities.filter((e) => ids.includes(e.id) && e.id !== line)
  if (chosen.length === 0) return bad('nothing', 'Choose the pieces to mirror.')
  const ends = mirrorLine(d, places, line)
  if (!ends) return bad('no-line', 'Choose a straight line to mirror in.')
  const [a, b] = ends
  const [ux, uy] = [b[0] - a[0], b[1] - a[1]]
  const q = ux * ux + uy * uy
  if (q < 1e-12) return bad('no-line', 'The mirror line has no length.')
  const over = ([x, y]: P2): P2 => {
    const t = ((x - a[0]) * ux + (y - a[1]) * uy) / q
    return [2 * (a[0] + t * ux) - x, 2 * (a[1] + t * uy) - y]
  }
  const part = partOf(
    d,
    places,
    chosen.map((e) => e.id),
  )
  const points: Drawing['points'] = {}
  const onLine = new Set<string>()
  for (const id of Object.keys(part.points)) {
    const at = places[id]!
    const [x, y] = over(at)
    if (Math.hypot(x - at[0], y - at[1]) < 1e-6) onLine.add(id)
    points[id] = { x: tidy(x), y: tidy(y) }
  }
  const flipped = part.entities.map(
    (e): Entity =>
      e.kind === 'fit'
        ? {
            ...e,
            handles: e.handles.map((h) => {
              if (h.hold !== 'free') return h
              const tip = over([a[0] + h.d[0], a[1] + h.d[1]])
              return { ...h, d: [tip[0] - a[0], tip[1] - a[1]] as [number, number] }
            }),
          }
        : e,
  )
  const { drawing, added } = withPart(d, { points, entities: flipped })
  // Points on the line are shared by both halves; the others mirror each other from now on.
  const twin = new Map<string, string>()
  for (const [i, e] of chosen.entries()) {
    const made = drawing.entities.find((x) => x.id === added[i])!
    for (const [k, p] of pointsOf(e).entries()) twin.set(pointsOf(made)[k]!, p)
  }
  const shared = (p: string) => (onLine.has(twin.get(p) ?? '') ? twin.get(p)! : p)
  const relations: Omit<Relation, 'id'>[] = []
  const via = new Set(drawing.entities.flatMap((e) => (e.kind === 'arc' ? [e.via] : [])))
  for (const [copy, of] of twin)
    if (!onLine.has(of) && !via.has(copy))
      relations.push({ kind: 'symmetric', points: [of, copy], entities: [line] })
  for (const [i, e] of chosen.entries())
    if (e.kind === 'arc' || e.kind === 'circle')
      relations.push({ kind: 'equal', points: [], entities: [e.id, added[i]!] })
  const entities = drawing.entities.map((e) =>
    added.includes(e.id) ? renamed(e, e.id, shared) : e,
  )
  return good(withHolds(pruned({ ...drawing, entities }), relations))
}

function mirrorLine(
  d: Drawing,
  places: Readonly<Record<string, P2>>,
  line: string,
): [P2, P2] | null {
  const e =
    d.entities.find((x) => x.id === line) ??
    (line === AXIS ? d.entities.find((x) => x.kind === 'axis') : undefined)
  if (!e)
    return line === AXIS
      ? [
          [0, 0],
          [0, 1],
        ]
      : null
  const ends = e.kind === 'line' || e.kind === 'axis' ? endsOf(e)! : null
  return ends ? [places[ends[0]]!, places[ends[1]]!] : null
}
