import { MET, solveLeast } from './least'
import type { Equation } from './system'

/** Smallest step of the way that is still taken. */
const LEAST_STEP = 1 / 1024

/**
 * The Newton homotopy: what is off at the start is let go to nothing little by little, each step starting
 * where the one before ended (Allgower and Georg, Numerical Continuation Methods; citation from memory).
 * `most` has the first step and how many solves are spent on the way.
 */
export function homotopy(
  eqs: readonly Equation[],
  start: Float64Array,
  reach: number,
  most = { step: 0.25, solves: 40 },
): Float64Array | null {
  const off = eqs.map((e) => e.value(start).v)
  let [x, done, step] = [start, 0, most.step]
  for (let solves = 0; done < 1; solves++) {
    if (solves === most.solves) return null
    const share = Math.min(1, done + step)
    const shifted = eqs.map((e, i): Equation => {
      const left = (1 - share) * off[i]!
      return {
        ...e,
        value: (at) => {
          const d = e.value(at)
          return { v: d.v - left, g: d.g }
        },
      }
    })
    const s = solveLeast(shifted, x, { reach: reach / 2 })
    if (s.residual <= MET) {
      x = s.x
      done = share
      step *= 1.6
    } else {
      step /= 2
      if (step < LEAST_STEP) return null
    }
  }
  return x
}
