import { pointAt } from '../curve'
import { cross, dist, dot, type P2, sub } from '../math'
import { loopsOf } from '../profile'
import { setback, tangentCircle } from './blend'
import type { TurnedBody } from './body'
import { type Corner, isSharp } from './corners'

/** What a rounding is as its value grows: the circle or line that borders it, and its extent. */
interface Front {
  /** How far a place lies outside it, mm, negative inside. */
  beyond(p: P2): number
  /** Whether a place lies beside the piece itself, not beside its prolongation. */
  beside(p: P2): boolean
}

/** The front of a fillet of this radius; null where there is none. */
export function filletFront(corner: Corner, r: number): Front | null {
  const found = isSharp(corner) ? tangentCircle(corner, r) : null
  if (!found?.ok) return null
  const { a, c, centre } = found.value
  const [u, v] = [
    sub(pointAt(corner.before.curve, a), centre),
    sub(pointAt(corner.after.curve, c), centre),
  ]
  const turned = cross(u, v)
  return {
    beyond: (p) => dist(p, centre) - r,
    beside: (p) => cross(u, sub(p, centre)) * turned >= 0 && cross(sub(p, centre), v) * turned >= 0,
  }
}

/** The front of a chamfer with these setbacks; null where there is none. */
export function chamferFront(corner: Corner, d1: number, d2: number): Front | null {
  const a = setback(corner.before, corner.at, d1, 1)
  const c = setback(corner.after, corner.at, d2, 0)
  if (!a.ok || !c.ok) return null
  const [p1, p2] = [pointAt(corner.before.curve, a.value), pointAt(corner.after.curve, c.value)]
  const along12 = sub(p2, p1)
  const l = Math.hypot(...along12)
  const side = Math.sign(cross(along12, sub(corner.at, p1)))
  return {
    beyond: (p) => (-side * cross(along12, sub(p, p1))) / l,
    beside: (p) => {
      const t = dot(sub(p, p1), along12)
      return t >= 0 && t <= l * l
    },
  }
}

/** Values tried along the way, and places taken on each other face. */
const FRONTS = 60
const PLACES = 16

/**
 * Values below `cap` at which a growing rounding begins or ceases to run into another face: where its
 * front first and last passes over each, and over the ends of each.
 */
export function roundingMarks(
  b: TurnedBody,
  corner: Corner,
  front: (value: number) => Front | null,
  cap: number,
): number[] {
  const values = Array.from({ length: FRONTS }, (_, k) => (cap * (k + 1)) / FRONTS)
  const fronts = values.map(front)
  const marks: number[] = []
  for (const [k, f] of fronts.entries()) {
    // Where fronts end, a neighbour is used up or bends away.
    if ((f === null) !== ((fronts[k + 1] ?? f) === null)) marks.push(values[k]!)
  }
  for (const s of loopsOf(b.regions).flat()) {
    if (s === corner.before || s === corner.after) continue
    const passed = Array.from({ length: PLACES + 1 }, (_, i) =>
      passings(fronts, values, pointAt(s.curve, i / PLACES)),
    )
    // Extremes over the face and its ends; which places make them does not matter.
    for (const [i, at] of passed.entries()) {
      for (const v of at) {
        const near = [passed[i - 1], passed[i + 1]].map((o) =>
          o?.reduce((p, q) => (Math.abs(q - v) < Math.abs(p - v) ? q : p), Infinity),
        )
        if (
          near.every((o) => o === undefined || o <= v) ||
          near.every((o) => o === undefined || o >= v)
        )
          marks.push(v)
      }
    }
  }
  return marks
}

/** Values at which the front passes over a place, to first order between the values tried. */
function passings(fronts: readonly (Front | null)[], values: readonly number[], p: P2): number[] {
  const out: number[] = []
  for (let k = 1; k < fronts.length; k++) {
    const [f, g] = [fronts[k - 1], fronts[k]]
    if (!f || !g) continue
    const [x, y] = [f.beyond(p), g.beyond(p)]
    if (x > 0 === y > 0 || (!f.beside(p) && !g.beside(p))) continue
    out.push(values[k - 1]! + ((values[k]! - values[k - 1]!) * x) / (x - y))
  }
  return out
}
