import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dist, type P2 } from '../math'
import { evaluate, fitSpline, type Handle, pointAt, type Spline } from '.'

const auto = (n: number): Handle[] => Array.from({ length: n }, () => ({ hold: 'auto' }))
const fit = (points: P2[], ends?: 'natural' | 'parabolic' | 'periodic') =>
  fitSpline(points, auto(points.length), ends)
/** Parameters at which the pieces of a spline through points meet. */
const breaks = (s: Spline) => [...new Set(s.knots)]
const size = (p: P2) => Math.hypot(...p)

/** Points in a rough ring, none on another. */
const ring = fc
  .array(fc.double({ min: 8, max: 30, noNaN: true }), { minLength: 3, maxLength: 12 })
  .map((radii) =>
    radii.map((r, i): P2 => {
      const a = (2 * Math.PI * i) / radii.length
      return [r * Math.cos(a), r * Math.sin(a)]
    }),
  )

describe('end conditions of a fitted spline', () => {
  it('natural: it runs out without bend', () => {
    const s = fit([
      [0, 0],
      [10, 4],
      [18, -3],
      [30, 2],
    ])
    for (const t of [0, 1]) expect(size(evaluate(s, t).d2)).toBeLessThan(1e-6)
  })
  it('parabolic: its end pieces keep their second derivative', () => {
    const s = fit(
      [
        [0, 0],
        [10, 4],
        [18, -3],
        [30, 2],
      ],
      'parabolic',
    )
    const [, a, b] = breaks(s)
    const near = 1e-9
    const [p, q] = [evaluate(s, 0).d2, evaluate(s, a! - near).d2]
    expect(dist(p, q) / size(p)).toBeLessThan(1e-6)
    const [u, v] = [evaluate(s, b! + near).d2, evaluate(s, 1).d2]
    expect(dist(u, v) / size(v)).toBeLessThan(1e-6)
    expect(size(p)).toBeGreaterThan(1)
  })
  it('parabolic through points of a parabola run evenly along x is that parabola', () => {
    // Chords of one length: symmetric points alone have them, so three are enough to see it.
    const s = fit(
      [
        [-10, 5],
        [0, 0],
        [10, 5],
      ],
      'parabolic',
    )
    for (let t = 0; t <= 1; t += 0.1) {
      const [x, y] = pointAt(s, t)
      expect(y).toBeCloseTo((x * x) / 20, 10)
    }
  })
  it('periodic: through a square it leaves each corner along the diagonal of its sides, 3/4 as fast', () => {
    // D(i-1) + 4 D(i) + D(i+1) = 3 (s + s'), and D(i-1) = -D(i+1) by symmetry: D = 3/4 (s + s').
    const s = fit(
      [
        [1, 1],
        [-1, 1],
        [-1, -1],
        [1, -1],
      ],
      'periodic',
    )
    const { d1 } = evaluate(s, 0)
    // Slopes are per mm of chord; the parameter runs over four chords of 2 mm.
    expect(d1[0] / 8).toBeCloseTo(-0.75, 12)
    expect(d1[1] / 8).toBeCloseTo(0.75, 12)
  })
  it('periodic: closes without a seam, whatever it goes through', () => {
    fc.assert(
      fc.property(ring, (points) => {
        const s = fit(points, 'periodic')
        const [a, b] = [evaluate(s, 0), evaluate(s, 1)]
        expect(dist(a.p, b.p)).toBeLessThan(1e-9)
        expect(dist(a.d1, b.d1)).toBeLessThan(1e-7 * size(a.d1))
        expect(dist(a.d2, b.d2)).toBeLessThan(1e-5 * (1 + size(a.d2)))
        for (const [i, t] of breaks(s).slice(0, -1).entries())
          expect(dist(pointAt(s, t), points[i]!)).toBeLessThan(1e-9)
      }),
    )
  })
  it('periodic: approaches a circle with the fourth power of the step', () => {
    const off = (n: number) => {
      const at = Array.from({ length: n }, (_, i): P2 => {
        const a = (2 * Math.PI * i) / n
        return [10 * Math.cos(a), 10 * Math.sin(a)]
      })
      const s = fit(at, 'periodic')
      return Math.max(
        ...Array.from({ length: 400 }, (_, i) => Math.abs(size(pointAt(s, i / 400)) - 10)),
      )
    }
    expect(off(16) / off(32)).toBeGreaterThan(14)
    expect(off(16) / off(32)).toBeLessThan(18)
  })
  it('points on the one before count once, and a closed curve needs its first only once', () => {
    const points: P2[] = [
      [10, 0],
      [0, 10],
      [-10, 0],
      [0, -10],
    ]
    const once = fit(points, 'periodic')
    expect(fit([...points, points[0]!], 'periodic')).toEqual(once)
    const doubled = points.flatMap((p) => [p, [p[0] + 1e-9, p[1]] as P2])
    expect(fit(doubled, 'periodic').knots).toHaveLength(once.knots.length)
  })
  it('periodic with a handle held, and with too few points to close', () => {
    const points: P2[] = [
      [10, 0],
      [0, 10],
      [-10, 0],
      [0, -10],
    ]
    const handles: Handle[] = [{ hold: 'level' }, ...auto(3)]
    const s = fitSpline(points, handles, 'periodic')
    for (const t of [0, 1]) expect(Math.abs(evaluate(s, t).d1[1])).toBeLessThan(1e-9)
    const line = fit(
      [
        [0, 0],
        [5, 0],
      ],
      'periodic',
    )
    expect(pointAt(line, 1)).toEqual([5, 0])
  })
})
