import fc from 'fast-check'
import { expect, it } from 'vitest'
import { cross, dist, type P2, sub } from '../math'
import { intersect, line, pointAt, spline, uniformSpline } from '.'

const number = fc.integer({ min: -1000, max: 1000 }).map((x) => x / 100)
const place = fc.tuple(number, number)
const N = 600

it('a quadratic crossed twice within one short chord is met twice', () => {
  // A letter's curve and a long ray: found by areas that lost a letter.
  const bow = spline(
    2,
    [0, 0, 0, 1, 1, 1],
    [
      [-15.045679835840664, 21.540320111132573],
      [-14.646125897054057, 22.416019630348746],
      [-14.005071877240733, 22.811263572065727],
    ],
  )
  const ray = line(
    [-19.829859079800375, 12.823467365112059],
    [76.3252502820953, 188.19220729216374],
  )
  expect(intersect(ray, bow)).toHaveLength(2)
  expect(intersect(bow, ray)).toHaveLength(2)
})

it('property: a long line meets a spline as often as a dense polyline changes sides, and on both', () => {
  fc.assert(
    fc.property(
      fc.array(place, { minLength: 3, maxLength: 8 }),
      fc.integer({ min: 2, max: 4 }),
      place,
      place,
      (poles, degree, a, b) => {
        fc.pre(poles.length > degree && dist(a, b) > 0.1)
        const c =
          poles.length === degree + 1
            ? spline(degree, [...Array(degree + 1).fill(0), ...Array(degree + 1).fill(1)], poles)
            : uniformSpline(poles, degree)
        const away = (p: P2, by: number): P2 => [
          p[0] + by * (b[0] - a[0]),
          p[1] + by * (b[1] - a[1]),
        ]
        const long = line(away(a, -400 / dist(a, b)), away(a, 400 / dist(a, b)))
        const heights = Array.from(
          { length: N + 1 },
          (_, i) => cross(sub(b, a), sub(pointAt(c, i / N), a)) / dist(a, b),
        )
        // A stretch along the line is another matter.
        fc.pre(heights.filter((h) => Math.abs(h) < 1e-2).length < 20)
        let flips = 0
        // Where it nearly touches, or ends on the line, the polyline leaves the count open.
        let open = Number(Math.abs(heights[0]!) < 1e-2) + Number(Math.abs(heights[N]!) < 1e-2)
        for (let i = 1; i <= N; i++) {
          if (heights[i - 1]! < 0 !== heights[i]! < 0) flips++
          if (i === N) break
          const [p, q, r] = [heights[i - 1]!, heights[i]!, heights[i + 1]!]
          if ((q - p) * (r - q) <= 0 && Math.abs(q) < 1e-2) open += 2
        }
        const met = intersect(long, c)
        for (const m of met) expect(dist(pointAt(long, m.t), pointAt(c, m.s))).toBeLessThan(1e-6)
        expect(met.length).toBeGreaterThanOrEqual(flips - open - doubled(c, heights))
        expect(met.length).toBeLessThanOrEqual(flips + open)
      },
    ),
    { numRuns: 300, endOnFailure: true },
  )
})

/** Crossings that lie on one another: the curve goes through one place of the line more than once. */
function doubled(c: ReturnType<typeof spline>, heights: readonly number[]): number {
  const at: P2[] = []
  for (let i = 1; i <= N; i++)
    if (heights[i - 1]! < 0 !== heights[i]! < 0) at.push(pointAt(c, (i - 0.5) / N))
  return at.filter((p, i) => at.some((q, j) => j < i && dist(p, q) < 0.05)).length
}
