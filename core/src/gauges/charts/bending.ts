import { norm3, type P3 } from '../../math'
import { bend3, type Curve3, place3, speed3, Way } from '../../surface'

/** How a path bends along its length: mm, 1/mm, 1/mm2, and the places. */
export interface Bending {
  at: number[]
  bend: number[]
  change: number[]
  places: P3[]
}

/** Looks at each piece, besides its ends. */
const LOOKS = 100
/** The share of a piece by which the curvature on both sides is compared for its change. */
const STEP = 1e-4

/** Both sides of a joint are told: jumps of the curvature are upright there. */
export function bendingOf(pieces: readonly Curve3[]): Bending {
  const { length, starts } = new Way(pieces)
  const out: Bending = { at: [], bend: [], change: [], places: [] }
  for (const [i, c] of pieces.entries()) {
    const [from, to] = [starts[i]! * length, starts[i + 1]! * length]
    const bend = (t: number) => norm3(bend3(c, t))
    const n = c.kind === 'spline' ? LOOKS : 8
    const own = c.kind === 'spline' ? new Way([c]) : null
    for (let k = 0; k <= n; k++) {
      const t = own ? own.at(k / n).t : k / n
      const [a, b] = [Math.max(0, t - STEP), Math.min(1, t + STEP)]
      out.at.push(from + (k / n) * (to - from))
      out.bend.push(bend(t))
      out.change.push((bend(b) - bend(a)) / ((b - a) * speed3(c, t) || 1))
      out.places.push(place3(c, t))
    }
  }
  return out
}
