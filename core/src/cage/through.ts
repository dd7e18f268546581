import { norm3, type P3, sub3 } from '../math'

/** Rounds of Gauss and Seidel; each leaves at most a third of what was off. */
const ROUNDS = 60
/** Goes on until no point moves by more, mm. */
const STILL = 1e-12

/**
 * Points whose uniform cubic goes through given places at its knots: closed, or with the two ends where they are. A crease of a cage runs
 * through them so.
 */
export function throughPlaces(goals: readonly P3[], closed: boolean): P3[] {
  const points = goals.map((g): [number, number, number] => [...g])
  const n = goals.length
  const [from, to] = closed ? [0, n] : [1, n - 1]
  for (let round = 0; round < ROUNDS; round++) {
    let most = 0
    for (let i = from; i < to; i++) {
      const [g, a, b] = [goals[i]!, points[(i + n - 1) % n]!, points[(i + 1) % n]!]
      const now: P3 = [0, 1, 2].map((d) => (6 * g[d]! - a[d]! - b[d]!) / 4) as unknown as P3
      most = Math.max(most, norm3(sub3(now, points[i]!)))
      points[i] = [...now]
    }
    if (most < STILL) break
  }
  return points
}
