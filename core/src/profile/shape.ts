import { arc, arcThrough, type Curve, fitSpline, line, uniformSpline } from '../curve'
import { dist, type P2, unit } from '../math'
import type { Drawing, Entity, Value } from './drawing'

/** One drawn entity as a curve. */
export interface Drawn {
  id: string
  curve: Curve
  construction: boolean
}
/** A drawing with every expression worked out. */
export interface Shape {
  points: Record<string, P2>
  /** Everything with a length, construction included; entities of no extent are left out. */
  drawn: Drawn[]
  /** Entities that have no extent (their points coincide). */
  empty: string[]
  axis: Axis
}
/** The turning axis in the drawing plane: a point on it and its unit direction (along +z). */
export interface Axis {
  origin: P2
  dir: P2
}

const UPRIGHT: Axis = { origin: [0, 0], dir: [0, 1] }

/** Works the drawing out. `read` turns a value into mm; what it throws passes through. */
export function shapeOf(drawing: Drawing, read: (v: Value) => number): Shape {
  const points: Record<string, P2> = {}
  for (const [id, p] of Object.entries(drawing.points)) points[id] = [read(p.x), read(p.y)]
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
    const curve = curveOf(e, points, read)
    if (curve) drawn.push({ id: e.id, curve, construction: Boolean(e.construction) })
    else empty.push(e.id)
  }
  return { points, drawn, empty, axis }
}

/** The curve of one entity, or null where its points coincide. */
function curveOf(
  e: Exclude<Entity, { kind: 'axis' }>,
  points: Record<string, P2>,
  read: (v: Value) => number,
): Curve | null {
  switch (e.kind) {
    case 'line':
      return dist(points[e.a]!, points[e.b]!) < 1e-9 ? null : line(points[e.a]!, points[e.b]!)
    case 'arc':
      return dist(points[e.a]!, points[e.b]!) < 1e-9
        ? null
        : arcThrough(points[e.a]!, points[e.via]!, points[e.b]!)
    case 'circle': {
      const r = read(e.radius)
      return r > 1e-9 ? arc(points[e.c]!, r, 0, 2 * Math.PI) : null
    }
    case 'fit':
    case 'poles': {
      const at = e.points.map((id) => points[id]!)
      if (at.every((p) => dist(p, at[0]!) < 1e-9)) return null
      return e.kind === 'fit' ? fitSpline(at, e.handles) : uniformSpline(at, e.degree)
    }
  }
}
