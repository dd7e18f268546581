import { pointAt, type Spline, uniformSpline } from '../../../curve'
import type { P2 } from '../../../math'

/** How often the curve is let out, and how far each time, as a share of what is free. */
const [ROUNDS, SHARE] = [60, 0.9]

/**
 * The widest smooth curve that is found under some reaches: r over z, cubic, with so many control points between the first height and
 * the last. It begins below all reaches and is let out by what is free; a control point moves by the least that is free along all it
 * has a part in, so that no reach is ever passed (functions of a B-spline are positive and make up one).
 */
export function curveUnder(
  heights: readonly number[],
  reaches: readonly number[],
  count: number,
): Spline {
  const [z0, z1] = [heights[0]!, heights[heights.length - 1]!]
  const { knots, degree } = uniformSpline(Array.from({ length: count }, (): P2 => [0, 0]))
  const n = knots.length - degree - 1
  const share = (z: number) => (z - z0) / (z1 - z0)
  // Heights that each control point has a part in; where there are none between, those beside.
  const held = Array.from({ length: n }, (_, j) => {
    const [a, b] = [knots[j]!, knots[j + degree + 1]!]
    return heights.flatMap((z, i) => {
      const [before, after] = [share(heights[i - 1] ?? z), share(heights[i + 1] ?? z)]
      return after >= a && before <= b ? [i] : []
    })
  })
  const least = (of: readonly number[], j: number) => Math.min(...held[j]!.map((i) => of[i]!))
  const r = held.map((_, j) => least(reaches, j))
  const curve = (): Spline =>
    uniformSpline(
      r.map((x, j): P2 => {
        // At the means of its inner knots a control point makes z run evenly.
        let sum = 0
        for (let k = 1; k <= degree; k++) sum += knots[j + k]!
        return [x, z0 + ((z1 - z0) * sum) / degree]
      }),
    )
  for (let k = 0; k < ROUNDS; k++) {
    const now = curve()
    const free = heights.map((z, i) => reaches[i]! - pointAt(now, share(z))[0])
    for (let j = 0; j < n; j++) r[j]! += SHARE * Math.max(0, least(free, j))
  }
  return curve()
}

/** The curve nearer the axis by some mm. */
export const drawnIn = (c: Spline, by: number): Spline => ({
  ...c,
  poles: c.poles.map(([r, z]): P2 => [r - by, z]),
})
