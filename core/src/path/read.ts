import { good, type Outcome, type P3 } from '../math'
import { type Curve3, evenBasis, greville, interpolated3, place3 } from '../surface'

/** How many functions a reading along a curve has: as many as are needed, up to the last of these. */
const COUNTS = [16, 32, 64, 128]

/** What was read along a curve as a curve over its parameter, and where it is worst between the readings, and by how much. */
export interface ReadAlong {
  curve: Curve3 & { kind: 'spline' }
  off: number
  at: P3
}

/**
 * Something read at places of a curve, as a curve: at more of them until between them it is off by no more than `near`, as `off`
 * tells it of what the curve has and what was read. What is still worse at the most places is given as it is.
 */
export function readAlong(
  c: Curve3,
  read: (from: P3[]) => Outcome<P3[]>,
  off: (has: P3, told: P3) => number,
  near: number,
): Outcome<ReadAlong> {
  let made: ReadAlong | null = null
  for (const count of COUNTS) {
    const basis = evenBasis(5, count)
    const at = Array.from(greville(basis))
    const between = at.slice(1).map((t, k) => (t + at[k]!) / 2)
    const all = [...at, ...between]
    const told = read(all.map((t) => place3(c, t)))
    if (!told.ok) return told
    const known = new Map(all.map((t, k) => [t, told.value[k]!]))
    const curve = interpolated3(basis, (t) => known.get(t)!)
    const offs = between.map((t) => off(place3(curve, t), known.get(t)!))
    const worst = Math.max(...offs)
    made = { curve, off: worst, at: place3(c, between[offs.indexOf(worst)]!) }
    if (worst <= near) break
  }
  return good(made!)
}
