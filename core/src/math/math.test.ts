import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  add3,
  bad,
  boxDistance,
  boxesMeet,
  brent,
  cross,
  cross3,
  dist,
  dot,
  dot3,
  emptyBox,
  freshId,
  gaussRule,
  goldenMin,
  growBox,
  integrate,
  integrateTo,
  left,
  mm,
  monotone,
  norm,
  norm3,
  type P2,
  type P3,
  polar,
  scale3,
  toSpace,
  turn,
  unit,
  unit3,
} from '.'

const number = fc.double({ min: -100, max: 100, noNaN: true })
const place: fc.Arbitrary<P2> = fc.tuple(number, number)
const space: fc.Arbitrary<P3> = fc.tuple(number, number, number)

describe('roots', () => {
  it('of the textbooks', () => {
    // Wallis's cubic (Newton's example) and the fixed point of the cosine; digits as printed.
    expect(brent((x) => x ** 3 - 2 * x - 5, 2, 3)).toBeCloseTo(2.0945514815423265, 13)
    expect(brent((x) => Math.cos(x) - x, 0, 1)).toBeCloseTo(0.7390851332151607, 13)
    expect(brent((x) => Math.exp(x) - 2, 0, 3)).toBeCloseTo(Math.LN2, 13)
  })
  it('are found wherever one is hidden, flat or steep', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -0.9, max: 0.9, noNaN: true }),
        fc.integer({ min: 0, max: 3 }),
        (root, k) => {
          const f = [
            (x: number) => x - root,
            (x: number) => (x - root) ** 3,
            (x: number) => Math.atan(1000 * (x - root)),
            (x: number) => Math.sinh(8 * (x - root)),
          ][k]!
          // A triple root is flat to a third of the digits.
          expect(Math.abs(brent(f, -1, 1) - root)).toBeLessThan(k === 1 ? 1e-4 : 1e-11)
        },
      ),
    )
  })
  it('at the ends of the bracket count, and none in it is refused', () => {
    expect(brent((x) => x, 0, 1)).toBe(0)
    expect(brent((x) => x - 1, 0, 1)).toBe(1)
    expect(() => brent((x) => x * x + 1, -1, 1)).toThrow(/does not change sign/)
  })
  it('the lowest place of a valley, smooth or with a kink', () => {
    fc.assert(
      fc.property(fc.double({ min: -3, max: 4, noNaN: true }), (at) => {
        expect(goldenMin((x) => (x - at) ** 2 + 3, -5, 5, 1e-9).x).toBeCloseTo(at, 6)
        expect(goldenMin((x) => Math.abs(x - at), -5, 5, 1e-9).x).toBeCloseTo(at, 7)
      }),
    )
  })
})

describe('integrals', () => {
  // Abramowitz & Stegun, table 25.4, n = 5 (from memory); moved from [-1, 1] to [0, 1].
  it('nodes and weights of the five-point rule', () => {
    const { nodes, weights } = gaussRule(5)
    const by = [...nodes].map((x, i) => [2 * x - 1, 2 * weights[i]!]).sort((a, b) => a[0]! - b[0]!)
    const expected = [
      [-0.906179845938664, 0.236926885056189],
      [-0.538469310105683, 0.478628670499366],
      [0, 0.568888888888889],
      [0.538469310105683, 0.478628670499366],
      [0.906179845938664, 0.236926885056189],
    ]
    for (const [i, [x, w]] of expected.entries()) {
      expect(by[i]![0]).toBeCloseTo(x!, 14)
      expect(by[i]![1]).toBeCloseTo(w!, 14)
    }
  })
  it('n points are exact to degree 2n - 1 and not beyond', () => {
    for (const n of [1, 2, 3, 5, 8]) {
      for (let k = 0; k < 2 * n; k++)
        expect(integrate((x) => x ** k, 0, 1, n)).toBeCloseTo(1 / (k + 1), 13)
      expect(Math.abs(integrate((x) => x ** (2 * n), 0, 1, n) - 1 / (2 * n + 1))).toBeGreaterThan(
        1e-13,
      )
    }
  })
  it('halving gets to what a single rule cannot', () => {
    expect(integrateTo((x) => 4 / (1 + x * x), 0, 1)).toBeCloseTo(Math.PI, 13)
    expect(integrateTo(Math.sqrt, 0, 1)).toBeCloseTo(2 / 3, 10)
    expect(integrateTo((x) => Math.abs(x - 0.3), 0, 1)).toBeCloseTo((0.09 + 0.49) / 2, 10)
  })
})

describe('the plane', () => {
  it('turning left by a quarter keeps length and is square', () => {
    fc.assert(
      fc.property(place, (p) => {
        expect(dot(p, left(p))).toBeCloseTo(0, 9)
        expect(cross(p, left(p))).toBeCloseTo(norm(p) ** 2, 6)
      }),
    )
  })
  it('the turn from one way to another is what carries it there', () => {
    fc.assert(
      fc.property(number, number, fc.double({ min: 0.1, max: 9, noNaN: true }), (a, b, r) => {
        const [u, v] = [polar([0, 0], r, a), polar([0, 0], 2, b)]
        expect(dist(unit(polar([0, 0], 1, a + turn(u, v))), unit(v))).toBeLessThan(1e-9)
      }),
    )
    expect(unit([0, 0])).toEqual([0, 0])
  })
  it('a box holds what it grew by, and its distance is that of its nearest place', () => {
    fc.assert(
      fc.property(fc.array(place, { minLength: 1, maxLength: 8 }), place, (points, p) => {
        const box = points.reduce(growBox, emptyBox())
        for (const q of points) expect(boxDistance(box, q)).toBe(0)
        const near: P2 = [
          Math.min(box.max[0], Math.max(box.min[0], p[0])),
          Math.min(box.max[1], Math.max(box.min[1], p[1])),
        ]
        expect(boxDistance(box, p)).toBeCloseTo(dist(p, near), 9)
        const dot = growBox(emptyBox(), p)
        expect(boxesMeet(box, dot, 1e-9)).toBe(inReach(box, p))
      }),
    )
  })
  /** Within the gap in both directions, though not round the corner. */
  const inReach = (box: ReturnType<typeof emptyBox>, p: P2): boolean =>
    [0, 1].every((k) => p[k]! >= box.min[k]! - 1e-9 && p[k]! <= box.max[k]! + 1e-9)
})

describe('space', () => {
  it('a product of two ways is square to both, as long as their field is wide', () => {
    fc.assert(
      fc.property(space, space, (a, b) => {
        const c = cross3(a, b)
        expect(Math.abs(dot3(c, a)) / (1 + norm3(a) ** 2 * norm3(b))).toBeLessThan(1e-10)
        // Lagrange's identity.
        const wide = norm3(a) ** 2 * norm3(b) ** 2 - dot3(a, b) ** 2
        expect(norm3(c) ** 2 / (1 + wide)).toBeCloseTo(wide / (1 + wide), 6)
      }),
    )
  })
  it('going into a frame keeps every distance', () => {
    fc.assert(
      fc.property(space, space, space, space, (origin, w, p, q) => {
        fc.pre(norm3(w) > 1)
        const z = unit3(w)
        const x = unit3(cross3(Math.abs(z[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0], z))
        const f = { origin, x, y: cross3(z, x), z }
        const [a, b] = [toSpace(f, ...p), toSpace(f, ...q)]
        const apart = (u: P3, v: P3) => norm3(add3(u, scale3(v, -1)))
        expect(apart(a, b)).toBeCloseTo(apart(p, q), 6)
      }),
    )
  })
})

describe('words and names', () => {
  it.each([
    [1, '1 mm'],
    [1.23456, '1.235 mm'],
    [12000.5, '12000.5 mm'],
    [-0.0004, '0 mm'],
  ])('%f is said as %s', (x, said) => expect(mm(x)).toBe(said))
  it('a fresh id is not among those taken, and the lowest that is not', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 1, max: 30 })), (taken) => {
        const id = freshId(
          taken.map((n) => `turn${n}`),
          'turn',
        )
        const n = Number(id.slice(4))
        expect(taken).not.toContain(n)
        for (let k = 1; k < n; k++) expect(taken).toContain(k)
      }),
    )
  })
  it('a refusal carries its places and fixes', () =>
    expect(bad('code', 'why', [{ at: [1, 2] }])).toEqual({
      ok: false,
      diagnosis: { code: 'code', message: 'why', places: [{ at: [1, 2] }], fixes: [] },
    }))
})

describe('a smooth run through values', () => {
  it('goes through them, never beyond their neighbours, and stays beyond its ends', () => {
    // Adding 0 takes the sign from a 0.
    const value = fc.double({ min: -50, max: 50, noNaN: true }).map((v) => v + 0)
    fc.assert(
      fc.property(
        fc.array(value, { minLength: 2, maxLength: 7 }),
        fc.constantFrom('chord' as const, 'level' as const),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (y, ends, f) => {
          const x = y.map((_, i) => i * 2 + 1)
          const run = monotone(x, y, ends)
          for (const [i, v] of y.entries()) expect(run(x[i]!)).toBeCloseTo(v, 9)
          expect([run(-9), run(99)]).toEqual([y[0], y[y.length - 1]])
          const k = Math.min(y.length - 2, Math.floor(f * (y.length - 1)))
          const between = run(x[k]! + 2 * (f * (y.length - 1) - k))
          expect(between).toBeGreaterThanOrEqual(Math.min(y[k]!, y[k + 1]!) - 1e-9)
          expect(between).toBeLessThanOrEqual(Math.max(y[k]!, y[k + 1]!) + 1e-9)
        },
      ),
    )
  })
})
