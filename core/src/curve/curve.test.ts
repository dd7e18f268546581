import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dist, type P2 } from '../math'
import {
  arc,
  arcTangent,
  arcThrough,
  basis,
  boundsOf,
  type Curve,
  curvatureAt,
  elevate,
  evaluate,
  extremes,
  findSpan,
  fitSpline,
  insertKnot,
  intersect,
  lengthOf,
  line,
  nearest,
  offsetCurve,
  pointAt,
  reverse,
  type Spline,
  selfIntersect,
  spline,
  subCurve,
  tangentAt,
  uniformSpline,
} from '.'

const close = (a: P2, b: P2, tol: number) => expect(dist(a, b)).toBeLessThan(tol)
const bezier = (...p: P2[]): Spline => spline(3, [0, 0, 0, 0, 1, 1, 1, 1], p)

describe('B-splines against the textbook', () => {
  // The NURBS Book, Ex 2.3 (reference row C7); knots scaled from [0, 5] to [0, 1].
  it('basis functions at u = 5/2', () => {
    const poles: P2[] = Array.from({ length: 8 }, (_, i) => [i, 0])
    const s = spline(2, [0, 0, 0, 1, 2, 3, 4, 4, 5, 5, 5], poles)
    const k = findSpan(s, 0.5)
    expect(k).toBe(4)
    const n = basis(s, k, 0.5)
    for (const [i, want] of [1 / 8, 6 / 8, 1 / 8].entries()) expect(n[i]).toBeCloseTo(want, 14)
  })

  // The NURBS Book, Ex 5.1 (row C11).
  it('knot insertion at u = 5/2', () => {
    const p: P2[] = [
      [0, 0],
      [1, 2],
      [2, 3],
      [4, 3],
      [5, 1],
      [7, 0],
      [8, 2],
      [9, 4],
    ]
    const s = spline(3, [0, 0, 0, 0, 1, 2, 3, 4, 5, 5, 5, 5], p)
    const q = insertKnot(s, 0.5)
    close(q.poles[3]!, [11 / 3, 3], 1e-12)
    close(q.poles[4]!, [9 / 2, 2], 1e-12)
    close(q.poles[5]!, [16 / 3, 5 / 6], 1e-12)
    close(pointAt(s, 0.5), [4.5, 1.979166666667], 1e-11)
    for (const t of [0, 0.13, 0.5, 0.77, 1]) close(pointAt(s, t), pointAt(q, t), 1e-12)
  })

  // Farin, Curves and Surfaces for CAGD (rows C5, C6).
  const c5 = bezier([0, 0], [10, 30], [40, -10], [50, 20])
  it('length and curvature of a cubic', () => {
    expect(lengthOf(c5)).toBeCloseTo(62.16814178025, 9)
    expect(lengthOf(subCurve(c5, 0, 0.25))).toBeCloseTo(16.4979915308, 9)
    expect(curvatureAt(c5, 0)).toBeCloseTo(-0.0274064063881, 12)
    expect(curvatureAt(c5, 0.25)).toBeCloseTo(-0.0755894642056, 12)
    expect(curvatureAt(c5, 0.5)).toBeCloseTo(0, 12)
  })
  it('degree elevation', () => {
    const want: P2[] = [
      [0, 0],
      [7.5, 22.5],
      [25, 10],
      [42.5, -2.5],
      [50, 20],
    ]
    for (const [i, p] of elevate(c5).poles.entries()) close(p, want[i]!, 1e-12)
  })

  // Closed form (row C10).
  it('quarter circle by one cubic', () => {
    const k = (4 / 3) * (Math.SQRT2 - 1)
    const c = bezier([1, 0], [1, k], [k, 1], [0, 1])
    const r = Math.hypot(...pointAt(c, 0.211324865405))
    expect(r - 1).toBeCloseTo(0.000272530007428, 12)
  })

  // Burden & Faires, Numerical Analysis section 3.5 Ex 1 (row C14): the graph over (1, 2, 3). The
  // abscissae are stretched so far that the chords, by which the parameter runs, are equal.
  it('natural cubic spline', () => {
    const M = 1e7
    const s = fitSpline(
      [
        [M, 2],
        [2 * M, 3],
        [3 * M, 5],
      ],
      [{ hold: 'auto' }, { hold: 'auto' }, { hold: 'auto' }],
    )
    for (const x of [1, 1.25, 1.5, 1.75]) {
      const want = 2 + 0.75 * (x - 1) + 0.25 * (x - 1) ** 3
      expect(pointAt(s, (x - 1) / 2)[1]).toBeCloseTo(want, 11)
    }
    expect(pointAt(s, 0.25)[1]).toBeCloseTo(2.40625, 11)
    expect(pointAt(s, 0.75)[1]).toBeCloseTo(3.90625, 11)
  })
})

describe('arcs against closed forms', () => {
  // Row C3.
  it('through three points', () => {
    const a = arcThrough([0, 0], [40, 10], [60, -20])
    if (a.kind !== 'arc') throw new Error('expected an arc')
    close(a.c, [185 / 7, -145 / 7], 1e-9)
    expect(a.radius).toBeCloseTo(33.5790264958, 9)
    expect((-a.sweep * 180) / Math.PI).toBeCloseTo(140.692351884, 8)
    expect(lengthOf(a)).toBeCloseTo(82.454802986, 8)
  })
  it('tangent to +x at the start', () => {
    const a = arcTangent([0, 0], [1, 0], [30, 10])
    if (a.kind !== 'arc') throw new Error('expected an arc')
    expect(a.radius).toBeCloseTo(50, 12)
    expect((a.sweep * 180) / Math.PI).toBeCloseTo(36.8698976458, 9)
    expect(lengthOf(a)).toBeCloseTo(32.1750554397, 9)
  })
})

const wave = fitSpline(
  [
    [0, 0],
    [12, 8],
    [25, -4],
    [40, 10],
  ],
  [{ hold: 'level' }, { hold: 'auto' }, { hold: 'auto' }, { hold: 'upright' }],
)
const curves: [string, Curve][] = [
  ['line', line([-3, 1], [22, 9])],
  ['arc', arc([10, 2], 12, 0.4, -2.5)],
  ['spline', wave],
]

describe.each(curves)('a %s', (_, c) => {
  it('derivatives agree with differences', () => {
    for (const t of [0.11, 0.37, 0.52, 0.93]) {
      const h = 1e-6
      const e = evaluate(c, t)
      const [a, b] = [evaluate(c, t - h), evaluate(c, t + h)]
      for (const k of [0, 1] as const) {
        expect(e.d1[k]).toBeCloseTo((b.p[k] - a.p[k]) / (2 * h), 4)
        expect(e.d2[k]).toBeCloseTo((b.d1[k] - a.d1[k]) / (2 * h), 3)
      }
    }
  })
  it('reversed and cut it is the same curve', () => {
    close(pointAt(reverse(c), 0.3), pointAt(c, 0.7), 1e-12)
    const part = subCurve(c, 0.2, 0.65)
    close(pointAt(part, 0.5), pointAt(c, 0.425), 1e-11)
  })
  it('nearest point: no sampled point is nearer', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -20, max: 60, noNaN: true }),
        fc.double({ min: -20, max: 30, noNaN: true }),
        (x, y) => {
          const n = nearest(c, [x, y])
          for (let i = 0; i <= 400; i++)
            expect(dist(pointAt(c, i / 400), [x, y])).toBeGreaterThan(n.d - 1e-9)
          expect(n.d).toBeCloseTo(dist(pointAt(c, n.t), [x, y]), 9)
        },
      ),
      { numRuns: 60 },
    )
  })
  it('bounds hold every point and are touched', () => {
    const b = boundsOf(c)
    for (let i = 0; i <= 200; i++) {
      const p = pointAt(c, i / 200)
      for (const k of [0, 1] as const) {
        expect(p[k]).toBeGreaterThan(b.min[k] - 1e-9)
        expect(p[k]).toBeLessThan(b.max[k] + 1e-9)
      }
    }
    for (const axis of [0, 1] as const)
      for (const t of extremes(c, axis)) expect(Math.abs(tangentAt(c, t)[axis])).toBeLessThan(1e-6)
  })
  it('offsets lie at their distance, on their side', () => {
    for (const d of [-1.5, 0.8, 2]) {
      for (const o of offsetCurve(c, d)) {
        for (let i = 1; i < 60; i++) {
          const p = pointAt(o, i / 60)
          const n = nearest(c, p)
          if (n.t < 1e-6 || n.t > 1 - 1e-6) continue
          // nearer elsewhere on the curve is allowed (trimming is not this function's work)
          expect(n.d).toBeLessThan(Math.abs(d) + 1e-4)
          if (n.d > Math.abs(d) - 1e-4) {
            const u = tangentAt(c, n.t)
            const side = u[0] * (p[1] - n.p[1]) - u[1] * (p[0] - n.p[0])
            expect(Math.sign(side)).toBe(Math.sign(d))
          }
        }
      }
    }
  })
  it('meets a straight line where a dense polyline does', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -10, max: 12, noNaN: true }),
        fc.double({ min: -0.8, max: 0.8, noNaN: true }),
        (y0, slope) => {
          const f = (p: P2) => p[1] - y0 - slope * p[0]
          let crossings = 0
          let unclear = false
          for (let i = 1; i <= 4000; i++) {
            const [a, b] = [f(pointAt(c, (i - 1) / 4000)), f(pointAt(c, i / 4000))]
            if (Math.min(Math.abs(a), Math.abs(b)) < 1e-4) unclear = true
            if (a * b < 0) crossings++
          }
          fc.pre(!unclear)
          const hits = intersect(c, line([-200, y0 - 200 * slope], [200, y0 + 200 * slope]))
          expect(hits.length).toBe(crossings)
          for (const h of hits) expect(Math.abs(f(pointAt(c, h.t)))).toBeLessThan(1e-6)
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('bounds at held handles', () => {
  it('the widest place at an upright handle between two spans is found', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 10, max: 80, noNaN: true }),
        fc.double({ min: 5, max: 60, noNaN: true }),
        (r, z) => {
          const s = fitSpline(
            [
              [5, 0],
              [r + 5, z],
              [6, 70],
            ],
            [{ hold: 'auto' }, { hold: 'upright' }, { hold: 'auto' }],
          )
          let most = 0
          for (let i = 0; i <= 1000; i++) most = Math.max(most, pointAt(s, i / 1000)[0])
          expect(boundsOf(s).max[0]).toBeGreaterThan(most - 1e-9)
        },
      ),
    )
  })
})

describe('meetings', () => {
  it('touching circles meet once', () => {
    expect(intersect(arc([0, 0], 5, 0, 6.283185307179586), arc([8, 0], 3, 0.3, 6)).length).toBe(1)
  })
  it('two splines that share a stretch report its ends only', () => {
    const hits = intersect(subCurve(wave, 0, 0.6), subCurve(wave, 0.3, 1))
    expect(hits.length).toBe(2)
  })
  it('a looped spline finds its own crossing', () => {
    const loop = bezier([0, 0], [40, 30], [-20, 30], [20, 0])
    expect(selfIntersect(loop).length).toBe(1)
    expect(selfIntersect(wave).length).toBe(0)
  })
})

describe('bounds wherever the curve turns back', () => {
  it('the extreme may lie right on a sample: derivative 3 (-7.6, -18.4, 20.3) vanishes at 2/3', () => {
    const c = uniformSpline([
      [-8.2, 26],
      [0, 18.4],
      [0, 0],
      [8.1, 20.3],
    ])
    // By hand: y(2/3) = (26 + 6 x 18.4 + 12 x 0 + 8 x 20.3) / 27.
    expect(boundsOf(c).min[1]).toBeCloseTo(298.8 / 27, 9)
  })
  it('property: no point of a spline on whole-number poles lies outside its box', () => {
    const pole = fc.tuple(fc.integer({ min: -9, max: 9 }), fc.integer({ min: -9, max: 9 }))
    fc.assert(
      fc.property(
        fc.array(pole, { minLength: 3, maxLength: 8 }),
        fc.integer({ min: 2, max: 5 }),
        (poles, degree) => {
          const c = uniformSpline(poles, degree)
          const { min, max } = boundsOf(c)
          for (let i = 0; i <= 240; i++) {
            const p = pointAt(c, i / 240)
            for (const k of [0, 1]) {
              expect(p[k]).toBeGreaterThan(min[k]! - 1e-9)
              expect(p[k]).toBeLessThan(max[k]! + 1e-9)
            }
          }
        },
      ),
      { numRuns: 300 },
    )
  })
})

describe('two free curves that meet twice within a hair', () => {
  it('property: parabolas that overlap by a thin lens meet at both its tips', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 200 }),
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: -30, max: 30 }),
        (height, bend, lean) => {
          // y = k x² and y = h - k x² on -10..10, tipped by a lean: tips at x = +-sqrt(h / 2k).
          const [h, k] = [height / 1000, bend / 1000]
          const tip = Math.sqrt(h / (2 * k))
          fc.pre(tip < 9)
          const bow = (sign: number, c: number) =>
            spline(
              2,
              [0, 0, 0, 1, 1, 1],
              [-10, 0, 10].map(
                (x, i): P2 => [x, c + sign * k * (i === 1 ? -100 : 100) + (lean / 30) * x],
              ),
            )
          const met = intersect(bow(1, 0), bow(-1, h))
          const xs = met.map((m) => 20 * m.t - 10).sort((a, b) => a - b)
          expect(xs).toHaveLength(2)
          expect(xs[0]).toBeCloseTo(-tip, 5)
          expect(xs[1]).toBeCloseTo(tip, 5)
        },
      ),
      { numRuns: 200 },
    )
  })
})
