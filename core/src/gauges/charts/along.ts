import { polygonHull } from 'd3-polygon'
import type { P2, P3 } from '../../math'
import { inside, slice, type TriMesh, twiceArea } from '../../mesh'
import { EvenFrames } from '../../path'
import { type Curve3, Way } from '../../surface'

/** Sections of a body square to a path: where (mm along it), area (mm2), the sides of the least rectangle about each (mm), and the places. */
export interface SectionsAlong {
  at: number[]
  area: number[]
  long: number[]
  short: number[]
  places: P3[]
}

const STEPS = 96

/**
 * The sections of a closed mesh square to a path, from its start to its end: of each the part that the path goes through, or the
 * nearest to it. Places where the body is not met are left out.
 */
export function sectionsAlong(mesh: TriMesh, pieces: readonly Curve3[]): SectionsAlong {
  const way = new Way(pieces)
  const frames = new EvenFrames(pieces, [1, 0, 0])
  const out: SectionsAlong = { at: [], area: [], long: [], short: [], places: [] }
  for (let k = 0; k < STEPS; k++) {
    const share = (k + 0.5) / STEPS
    const { curve, t } = way.at(share)
    const f = frames.at(curve, t)
    const near = nearestPart(slice(mesh, { origin: f.at, x: f.x, y: f.y, z: f.t }))
    if (!near) continue
    const [long, short] = leastRectangle(near.outer)
    out.at.push(share * way.length)
    out.area.push(near.area)
    out.long.push(long)
    out.short.push(short)
    out.places.push(f.at)
  }
  return out
}

/** The sides of the rectangle of least area about places, the longer first: one of them runs along an edge of their hull. */
function leastRectangle(places: readonly P2[]): [number, number] {
  const hull = polygonHull(places.map(([x, y]): [number, number] => [x, y])) ?? []
  let best: [number, number] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY]
  for (const [i, a] of hull.entries()) {
    const b = hull[(i + 1) % hull.length]!
    const l = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1
    const [x, y] = [(b[0] - a[0]) / l, (b[1] - a[1]) / l]
    const along = hull.map((p) => p[0] * x + p[1] * y)
    const across = hull.map((p) => p[1] * x - p[0] * y)
    const w = Math.max(...along) - Math.min(...along)
    const h = Math.max(...across) - Math.min(...across)
    if (w * h < best[0] * best[1]) best = [Math.max(w, h), Math.min(w, h)]
  }
  return best
}

/** The outline about the origin, or the nearest to it, with what is left of its inside. */
function nearestPart(loops: readonly P2[][]): { outer: P2[]; area: number } | null {
  let best: { outer: P2[]; off: number } | null = null
  for (const outer of loops.filter((l) => twiceArea(l) > 0)) {
    const off = inside([0, 0], outer) ? 0 : Math.min(...outer.map((p) => Math.hypot(...p)))
    // Of several about it the innermost is the one the path goes through.
    if (!best || off < best.off || (off === best.off && twiceArea(outer) < twiceArea(best.outer)))
      best = { outer, off }
  }
  if (!best) return null
  const { outer } = best
  const holes = loops.filter((l) => twiceArea(l) < 0 && inside(l[0]!, outer))
  return { outer, area: [outer, ...holes].reduce((s, l) => s + twiceArea(l) / 2, 0) }
}
