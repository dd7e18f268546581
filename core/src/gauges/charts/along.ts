import { add3, cross3, type P2, type P3, scale3 } from '../../math'
import { inside, slice, type TriMesh, twiceArea } from '../../mesh'
import { EvenFrames } from '../../path'
import { type Curve3, Way } from '../../surface'

/** Sections of a body square to a path: where (mm along it), area (mm2), width and height (mm), and the places. */
export interface SectionsAlong {
  at: number[]
  area: number[]
  width: number[]
  height: number[]
  places: P3[]
}

const STEPS = 96

/**
 * The sections of a closed mesh square to a path, from its start to its end: of each the part that the path goes through, or the
 * nearest to it; width and height as the frame that turns least runs along. Places where the body is not met are left out.
 */
export function sectionsAlong(mesh: TriMesh, pieces: readonly Curve3[]): SectionsAlong {
  const way = new Way(pieces)
  const frames = new EvenFrames(pieces, sideOf(pieces))
  const out: SectionsAlong = { at: [], area: [], width: [], height: [], places: [] }
  for (let k = 0; k < STEPS; k++) {
    const share = (k + 0.5) / STEPS
    const { curve, t } = way.at(share)
    const f = frames.at(curve, t)
    const near = nearestPart(slice(mesh, { origin: f.at, x: f.x, y: f.y, z: f.t }))
    if (!near) continue
    const xs = near.outer.map((p) => p[0])
    const ys = near.outer.map((p) => p[1])
    out.at.push(share * way.length)
    out.area.push(near.area)
    out.width.push(Math.max(...xs) - Math.min(...xs))
    out.height.push(Math.max(...ys) - Math.min(...ys))
    out.places.push(f.at)
  }
  return out
}

/** A section starts with its x to the right, for who looks along the path. */
function sideOf(pieces: readonly Curve3[]): P3 {
  const way = new Way(pieces)
  const [a, b] = [way.place(0), way.place(1e-3)]
  const d = add3(b, scale3(a, -1))
  const side = cross3(d, [0, 0, 1])
  return Math.hypot(...side) > 1e-3 * Math.hypot(...d) ? side : [1, 0, 0]
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
