import { boundsOf, evaluate, placeCurve, smoothBreaks } from '../curve'
import { integrateTo, type P2, type P3, toSpace } from '../math'
import { lineIntegral, regionArea, segsOf } from '../profile'
import { faceSegs, isWhole, type TurnedBody } from './body'

/** Volume in mm3: sweep times the first moment of the section about the axis (Pappus-Guldin). */
export const volumeOf = (b: Pick<TurnedBody, 'sweep' | 'regions'>): number =>
  (b.sweep / 2) * sectionIntegral(b, (p, d) => p[0] * p[0] * d[1])

/** Surface in mm2; a part turn has its two flat ends included. */
export function areaOf(b: TurnedBody): number {
  let round = 0
  for (const s of faceSegs(b)) {
    const breaks = smoothBreaks(s.curve)
    for (let i = 1; i < breaks.length; i++) {
      round += integrateTo(
        (t) => {
          const e = evaluate(s.curve, t)
          return e.p[0] * Math.hypot(e.d1[0], e.d1[1])
        },
        breaks[i - 1]!,
        breaks[i]!,
      )
    }
  }
  return b.sweep * round + (isWhole(b) ? 0 : 2 * sectionAreaOf(b))
}

/** Area of the half-section, mm2. */
export const sectionAreaOf = (b: TurnedBody): number =>
  b.regions.reduce((sum, r) => sum + regionArea(r), 0)

/** Centre of gravity in space, mm. */
export function centroidOf(b: TurnedBody): P3 {
  const rdA = sectionIntegral(b, (p, d) => (p[0] * p[0] * d[1]) / 2)
  const z = sectionIntegral(b, (p, d) => (p[0] * p[0] * p[1] * d[1]) / 2) / rdA
  if (isWhole(b)) return toSpace(b.frame, 0, 0, z)
  const rrdA = sectionIntegral(b, (p, d) => (p[0] ** 3 * d[1]) / 3)
  const arm = ((2 * Math.sin(b.sweep / 2)) / b.sweep) * (rrdA / rdA)
  const mid = b.start + b.sweep / 2
  return toSpace(b.frame, arm * Math.cos(mid), arm * Math.sin(mid), z)
}

/** Centroid of the half-section area, [r, z] mm. */
export function sectionCentroid(b: TurnedBody): P2 {
  const a = sectionAreaOf(b)
  return [
    sectionIntegral(b, (p, d) => (p[0] * p[0] * d[1]) / 2) / a,
    sectionIntegral(b, (p, d) => (-p[1] * p[1] * d[0]) / 2) / a,
  ]
}

const sectionIntegral = (b: Pick<TurnedBody, 'regions'>, f: (p: P2, d: P2) => number): number =>
  segsOf(b.regions).reduce((sum, s) => sum + lineIntegral(s.curve, f), 0)

/** Exact bounding box in space, mm. */
export function spaceBounds(b: TurnedBody): { min: P3; max: P3 } {
  const reach = (axis: 0 | 1 | 2, sign: 1 | -1): number => {
    const [x, y, z] = [b.frame.x[axis] * sign, b.frame.y[axis] * sign, b.frame.z[axis] * sign]
    const radial = radialReach(b, x, y)
    // Support of the section in direction (radial, z), by turning that direction upright.
    const n = Math.hypot(radial, z)
    if (n === 0) return b.frame.origin[axis] * sign
    const [u, v] = [radial / n, z / n]
    const turned = { origin: [0, 0] as P2, x: [v, u] as P2, y: [-u, v] as P2 }
    let most = Number.NEGATIVE_INFINITY
    for (const s of segsOf(b.regions)) {
      most = Math.max(most, boundsOf(placeCurve(s.curve, turned)).max[1])
    }
    return b.frame.origin[axis] * sign + most * n
  }
  const side = (sign: 1 | -1): P3 => [
    sign * reach(0, sign),
    sign * reach(1, sign),
    sign * reach(2, sign),
  ]
  return { min: side(-1), max: side(1) }
}

/** Largest x cos(theta) + y sin(theta) over the swept angles. */
function radialReach(b: TurnedBody, x: number, y: number): number {
  const best = Math.atan2(y, x)
  const from = b.start
  const lead = (((best - from) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI)
  if (isWhole(b) || lead <= b.sweep) return Math.hypot(x, y)
  const at = (a: number) => x * Math.cos(a) + y * Math.sin(a)
  return Math.max(at(from), at(from + b.sweep))
}

/** Box of the half-section in [r, z]. */
export function sectionBounds(b: Pick<TurnedBody, 'regions'>): { min: P2; max: P2 } {
  const boxes = segsOf(b.regions).map((s) => boundsOf(s.curve))
  return {
    min: [Math.min(...boxes.map((x) => x.min[0])), Math.min(...boxes.map((x) => x.min[1]))],
    max: [Math.max(...boxes.map((x) => x.max[0])), Math.max(...boxes.map((x) => x.max[1]))],
  }
}
