import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { arc, Bundle, type Curve, line, nearest, uniformSpline } from '.'

const at = fc.double({ min: -50, max: 50, noNaN: true })
const point = fc.tuple(at, at)
const curve: fc.Arbitrary<Curve> = fc.oneof(
  fc.tuple(point, point).map(([a, b]) => line(a, b)),
  fc
    .tuple(point, fc.double({ min: 0.5, max: 30, noNaN: true }), at, at)
    .map(([c, r, s, w]) => arc(c, r, s, w / 10 || 1)),
  fc.array(point, { minLength: 4, maxLength: 12 }).map((poles) => uniformSpline(poles)),
)

describe('the nearest of many curves', () => {
  it('is the nearest found by asking each', () => {
    fc.assert(
      fc.property(fc.array(curve, { minLength: 1, maxLength: 40 }), point, (curves, p) => {
        const each = Math.min(...curves.map((c) => nearest(c, p).d))
        const hit = new Bundle(curves).nearest(p[0], p[1])!
        expect(hit.d).toBeLessThan(each + 1e-7)
        expect(hit.d).toBeGreaterThan(each - 1e-7)
        expect(nearest(curves[hit.index]!, p).d).toBeCloseTo(hit.d, 6)
      }),
      { numRuns: 300 },
    )
  })
  it('is nothing beyond the reach given, and of nothing', () => {
    const one = new Bundle([line([0, 0], [10, 0])])
    expect(one.nearest(5, 3, 2.9)).toBeNull()
    expect(one.nearest(5, 3, 3.1)).toMatchObject({ index: 0, t: 0.5, d: 3 })
    expect(new Bundle([]).nearest(0, 0)).toBeNull()
  })
})
