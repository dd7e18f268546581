import {
  arc,
  arcThrough,
  type Curve,
  conjugates,
  ellipse,
  fitSpline,
  line,
  pointAt,
} from '../curve'
import { cross, dist, type P2, POINT, unit } from '../math'
import { type Drawing, type Drawn, type Entity, endsOf, type Read } from './drawing'
import { heldHandles } from './handles'
import type { Row } from './pattern'
import { repeated } from './repeat'
import { DIMENSIONS, type HoldState, hold, type Loose, splineOf } from './solver'

/** A drawing with every expression worked out. */
export interface Shape {
  points: Record<string, P2>
  /** Radii of the circles, mm. */
  radii: Record<string, number>
  /** Everything with a length, construction included; entities of no extent are left out. */
  drawn: Drawn[]
  /** Entities that have no extent (their points coincide). */
  empty: string[]
  axis: Axis
  /** Points that projected pieces put where they are. */
  given: ReadonlySet<string>
  /** What the dimensions are to be, mm or rad. */
  targets: Readonly<Record<string, number>>
  /** What each row of copies comes to. */
  rows: Readonly<Record<string, Row>>
  /** How far it is held: freedoms, conflicts, what dimensions measure. */
  hold: HoldState
}
/** The turning axis in the drawing plane: a point on it and its unit direction (along +z). */
export interface Axis {
  origin: P2
  dir: P2
}

const UPRIGHT: Axis = { origin: [0, 0], dir: [0, 1] }

/** The curve a projected piece follows, or why there is none. */
export type Sources = (entity: string) => Curve | { kind: 'none'; why: string } | null
const NONE: Sources = () => null

/** Where a projected curve puts the points of its piece. */
function placesOn(e: Entity, curve: Curve): [string, P2][] {
  if (e.kind === 'circle') return curve.kind === 'arc' ? [[e.c, curve.c]] : []
  const ends = endsOf(e)
  if (!ends) return []
  const at = (t: number): P2 => pointAt(curve, t)
  const places: [string, P2][] = [
    [ends[0], at(0)],
    [ends[1], at(1)],
  ]
  if (e.kind === 'arc') places.push([e.via, at(0.5)])
  return places
}

/** The drawing with its expressions worked out and nothing solved yet. */
function looseOf(
  drawing: Drawing,
  read: Read,
  sources: Sources,
): Loose & { given: ReadonlySet<string> } {
  const points: Record<string, P2> = {}
  for (const [id, p] of Object.entries(drawing.points))
    points[id] = [read(p.x, 'length'), read(p.y, 'length')]
  const given = new Set<string>()
  for (const e of drawing.entities) {
    const curve = e.source && sources(e.id)
    if (!curve || curve.kind === 'none') continue
    for (const [id, at] of placesOn(e, curve)) {
      points[id] = at
      given.add(id)
    }
  }
  const radii: Record<string, number> = {}
  for (const e of drawing.entities) {
    if (e.kind !== 'circle') continue
    const seen = e.source && sources(e.id)
    radii[e.id] = seen?.kind === 'arc' ? seen.radius : read(e.radius, 'length')
  }
  const targets: Record<string, number> = {}
  for (const d of drawing.dimensions ?? [])
    if (!d.read) targets[d.id] = read(d.value, DIMENSIONS[d.kind].unit)
  return { drawing, points, radii, targets, given }
}

/** Works the drawing out: expressions, then everything its relations and dimensions hold. */
export function shapeOf(drawing: Drawing, read: Read, sources: Sources = NONE): Shape {
  const loose = looseOf(drawing, read, sources)
  const held = hold(loose)
  const points: Record<string, P2> = held.points
  const byId = new Map(drawing.entities.map((e) => [e.id, e]))
  const curves = new Map<string, Curve | null>()
  const unmet: string[] = []
  const projected: { id: string; message: string }[] = []
  const curve = (id: string): Curve | null => {
    const known = curves.get(id)
    if (known !== undefined) return known
    const e = byId.get(id)
    if (!e || e.kind === 'axis') return null
    const seen = e.source && sources(e.id)
    if (seen) {
      if (seen.kind === 'none') projected.push({ id, message: seen.why })
      else {
        curves.set(id, seen)
        return seen
      }
    }
    // A curve that is asked for while it waits for another is taken with its own handles.
    curves.set(id, curveOf(e, points, held.radii))
    if (e.kind !== 'fit') return curves.get(id)!
    const { handles, unmet: left } = heldHandles(e, drawing, points, curve)
    unmet.push(...left)
    curves.set(id, curveOf({ ...e, handles }, points, held.radii))
    return curves.get(id)!
  }
  const drawn: Drawn[] = []
  const empty: string[] = []
  let axis = UPRIGHT
  for (const e of drawing.entities) {
    if (e.kind === 'axis') {
      const [a, b] = [points[e.a]!, points[e.b]!]
      if (dist(a, b) < 1e-9) {
        empty.push(e.id)
        continue
      }
      const d = unit([b[0] - a[0], b[1] - a[1]])
      axis = {
        origin: a,
        dir: d[1] < -1e-12 || (Math.abs(d[1]) <= 1e-12 && d[0] < 0) ? [-d[0], -d[1]] : d,
      }
      continue
    }
    const made = curve(e.id)
    if (made) drawn.push({ id: e.id, curve: made, construction: Boolean(e.construction) })
    else empty.push(e.id)
  }
  const copies = repeated(drawing, drawn, points, read)
  drawn.push(...copies.drawn)
  const unfit = [
    ...copies.unfit,
    ...projected,
    ...held.state.unfit,
    ...unmet.map((id) => ({ id, message: 'The curve cannot be made to go on that way here.' })),
  ]
  return {
    points,
    radii: held.radii,
    drawn,
    empty,
    axis,
    given: loose.given,
    targets: loose.targets,
    rows: copies.rows,
    hold: { ...held.state, unfit },
  }
}

/** The curve of one entity, or null where its points coincide. */
function curveOf(
  e: Exclude<Entity, { kind: 'axis' }>,
  points: Record<string, P2>,
  radii: Record<string, number>,
): Curve | null {
  switch (e.kind) {
    case 'line':
      return dist(points[e.a]!, points[e.b]!) < 1e-9 ? null : line(points[e.a]!, points[e.b]!)
    case 'arc':
      return dist(points[e.a]!, points[e.b]!) < 1e-9
        ? null
        : arcThrough(points[e.a]!, points[e.via]!, points[e.b]!)
    case 'circle': {
      const r = radii[e.id]!
      return r > 1e-9 ? arc(points[e.c]!, r, 0, 2 * Math.PI) : null
    }
    case 'fit':
    case 'poles': {
      const at = e.points.map((id) => points[id]!)
      if (at.every((p) => dist(p, at[0]!) <= POINT)) return null
      if (e.kind === 'fit') return fitSpline(at, e.handles, e.ends)
      return splineOf(e, at)
    }
    case 'ellipse': {
      const [c, a] = [points[e.c]!, points[e.end]!]
      const u: P2 = [a[0] - c[0], a[1] - c[1]]
      return dist(c, a) < 1e-9 ? null : ellipse(c, u, [-u[1] * e.ratio, u[0] * e.ratio])
    }
    case 'elliptic': {
      const sweep = (e.sweep * Math.PI) / 180
      const c = points[e.c]!
      const [u, v] = conjugates(c, points[e.a]!, points[e.b]!, sweep)
      const flat = Math.abs(cross(u, v)) < 1e-9
      return flat ? null : ellipse(c, u, v, 0, sweep)
    }
  }
}
