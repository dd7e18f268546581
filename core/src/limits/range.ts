import type { Diagnosis } from '../math'

/** The span of a value for which an op holds, mm or rad, and what stops it at the top. */
export interface WorkingRange {
  /** Largest value that holds; 0 when none does. */
  max: number
  /** What fails just above `max`; null when the search ended at `cap` without a failure. */
  blocker: Diagnosis | null
  cap: number
}

/** Values are told apart down to this share of the largest value searched. */
const RESOLUTION = 1e-7
/** Values tried on the way up before closing in. */
const STEPS = 18

/**
 * The largest value up to which `probe` finds nothing wrong, going up from near 0. `probe` returns
 * the reason of a failure or null. The first failing stretch ends the range, even if larger values
 * should hold again.
 */
export function workingRange(
  probe: (value: number) => Diagnosis | null,
  cap: number,
): WorkingRange {
  let good = 0
  for (let i = 1; i <= STEPS; i++) {
    // Squares: close steps where small values matter, wide ones higher up.
    const value = cap * (i / STEPS) ** 2
    const failed = probe(value)
    if (!failed) {
      good = value
      continue
    }
    let [lo, hi] = [good, value]
    let blocker = failed
    while (hi - lo > RESOLUTION * cap) {
      const m = (lo + hi) / 2
      const why = probe(m)
      if (why) {
        hi = m
        blocker = why
      } else lo = m
    }
    return { max: lo, blocker, cap }
  }
  return { max: cap, blocker: null, cap }
}
