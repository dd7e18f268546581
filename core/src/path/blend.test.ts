import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { add3, dot3, downhill, norm3, type P3, scale3, sub3 } from '../math'
import { at3, bend3, type Curve3, end3, place3, start3, way3 } from '../surface'
import { blended, type Order, tightest } from '.'

const arc = (radius: number, from: number, sweep: number): Curve3 => {
  const [c, s] = [Math.cos(from), Math.sin(from)]
  return { kind: 'arc', centre: [0, 0, 0], x: [c, s, 0], y: [-s, c, 0], radius, sweep }
}
const made = (a: Curve3, b: Curve3, order: Order, pull?: [number, number]): Curve3 => {
  const out = blended(a, b, order, pull)
  if (!out.ok) throw new Error(out.diagnosis.message)
  return out.value.curve
}

describe('downhill simplex', () => {
  it("finds the bottom of Rosenbrock's valley (1960), at 1, 1", () => {
    const out = downhill(([x, y]) => (1 - x!) ** 2 + 100 * (y! - x! * x!) ** 2, [-1.2, 1], 0.5, 500)
    expect(out.x[0]).toBeCloseTo(1, 6)
    expect(out.x[1]).toBeCloseTo(1, 6)
  })
})

describe('blends between curves', () => {
  it('between two arcs of one circle of radius 50 it is on that circle, the nearer the higher the order', () => {
    const off = ([2, 3] as const).map((order) => {
      const c = made(arc(50, 0, 0.5), arc(50, 1.2, 0.5), order)
      let most = 0
      for (let i = 0; i <= 200; i++) most = Math.max(most, Math.abs(norm3(place3(c, i / 200)) - 50))
      return most
    })
    expect(off[0]).toBeLessThan(2e-4)
    expect(off[1]).toBeLessThan(5e-6)
  })
  it('of fixed magnitudes it is the quintic of the textbook (Hermite form of degree 5)', () => {
    // p0' = p1' = 60, p1'' = 72 to the left: curvature 0.02 at the end. p(1/2) and the curvature there are known values.
    const w = (40 * Math.PI) / 180
    const dir: P3 = [Math.cos(w), Math.sin(w), 0]
    const into = arcOn([60, 20, 0], dir, 50)
    const line: Curve3 = { kind: 'line', a: [-30, 0, 0], b: [0, 0, 0] }
    const free = made(line, into, 2)
    const [m0, m1] = [norm3(at3(free, 0).d1), norm3(at3(free, 1).d1)]
    const c = made(line, into, 2, [60 / m0, 60 / m1])
    const p = place3(c, 0.5)
    expect(p[0]).toBeCloseTo(31.4701972849, 7)
    expect(p[1]).toBeCloseTo(4.8356661577, 7)
    expect(norm3(bend3(c, 0.5))).toBeCloseTo(0.0095505538884, 9)
    expect(norm3(bend3(c, 1))).toBeCloseTo(0.02, 9)
  })
  const arcOn = (at: P3, dir: P3, radius: number): Curve3 => {
    const left: P3 = [-dir[1], dir[0], 0]
    return {
      kind: 'arc',
      centre: add3(at, scale3(left, radius)),
      x: scale3(left, -1),
      y: dir,
      radius,
      sweep: 0.4,
    }
  }
  const whole = (n: number) => fc.integer({ min: -n, max: n })
  const place = fc.tuple(whole(40), whole(40), whole(40))
  const poles = fc.tuple(place, place, place, place)
  const spline = (p: P3[]): Curve3 => ({
    kind: 'spline',
    basis: { degree: 3, knots: Float64Array.from([0, 0, 0, 0, 1, 1, 1, 1]) },
    poles: p,
  })
  it('property: between any curves in space it meets place, direction, curvature and its change as asked', () => {
    fc.assert(
      fc.property(poles, poles, fc.constantFrom<Order>(1, 2, 3), (p, q, order) => {
        const near = (a: P3, b: P3) => norm3(sub3(a, b)) > 8
        fc.pre([p, q].every((l) => near(l[0], l[1]) && near(l[2], l[3])) && near(p[3], q[0]))
        const [a, b] = [spline(p as P3[]), spline(q as P3[])]
        const c = made(a, b, order)
        for (const [x, t, y, u] of [
          [a, 1, c, 0],
          [c, 1, b, 0],
        ] as const) {
          expect(norm3(sub3(place3(x, t), place3(y, u)))).toBeLessThan(1e-9)
          expect(dot3(way3(x, t), way3(y, u))).toBeGreaterThan(1 - 1e-12)
          if (order > 1) expect(norm3(sub3(bend3(x, t), bend3(y, u)))).toBeLessThan(1e-8)
          if (order > 2) {
            const over = (k: Curve3, at: 0 | 1, step: number): P3 => {
              const h = at === 0 ? step : -step
              const d = sub3(bend3(k, at + h), bend3(k, at))
              return scale3(d, Math.sign(h) / norm3(sub3(place3(k, at + h), place3(k, at))))
            }
            // One-sided differences, what is off by the step taken out (Richardson).
            const rate = (k: Curve3, at: 0 | 1): P3 =>
              sub3(scale3(over(k, at, 1e-4), 2), over(k, at, 2e-4))
            const [r, s] = [rate(x, t), rate(y, u)]
            expect(norm3(sub3(r, s))).toBeLessThan(1e-3 * (1 + norm3(r)))
          }
        }
      }),
      { numRuns: 60 },
    )
  })
  it('between lines that stand square it rounds the corner more gently than an arc, and pulls move it', () => {
    const a: Curve3 = { kind: 'line', a: [-40, 0, 0], b: [-20, 0, 0] }
    const b: Curve3 = { kind: 'line', a: [0, 20, 0], b: [0, 40, 0] }
    const c = made(a, b, 2)
    const mid = place3(c, 0.5)
    // Of its own accord it is even: over the bisector.
    expect(mid[0]).toBeCloseTo(-mid[1], 6)
    const far = place3(made(a, b, 2, [1.5, 1.5]), 0.5)
    expect(far[0]).toBeGreaterThan(mid[0] + 0.5)
    expect(tightest([c]).radius).toBeGreaterThan(8)
    expect(start3(c)).toEqual(end3(a))
  })
  it('refuses ends in one place, and pulls that are none', () => {
    const a: Curve3 = { kind: 'line', a: [0, 0, 0], b: [10, 0, 0] }
    const b: Curve3 = { kind: 'line', a: [10, 0, 0], b: [10, 10, 0] }
    expect(blended(a, b, 2)).toMatchObject({ ok: false, diagnosis: { code: 'same-place' } })
    const far: Curve3 = { kind: 'line', a: [20, 10, 0], b: [30, 10, 0] }
    expect(blended(a, far, 2, [0, 1])).toMatchObject({ ok: false })
    expect(blended(a, far, 2, [Number.NaN, 1])).toMatchObject({ ok: false })
  })
})

describe('blends that stay above a plane', () => {
  const up = { origin: [0, 0, 0] as const, z: [0, 0, 1] as const, called: 'plane' as const }
  const heights = (c: Curve3) => Array.from({ length: 201 }, (_, k) => place3(c, k / 200)[2])
  /** Two strands that come down towards each other at 45 degrees and end 2 over the plane. */
  const down: Curve3 = { kind: 'line', a: [-40, 0, 22], b: [-20, 0, 2] }
  const rise: Curve3 = { kind: 'line', a: [20, 3, 2], b: [40, 3, 22] }
  it('free it dips below; held it keeps above within 1e-4, still smooth at its ends, and tells what that costs', () => {
    for (const order of [1, 2, 3] as const) {
      const free = made(down, rise, order)
      expect(Math.min(...heights(free))).toBeLessThan(-0.5)
      const held = blended(down, rise, order, [1, 1], [up])
      if (!held.ok) throw new Error(held.diagnosis.message)
      const { curve, cost } = held.value
      expect(Math.min(...heights(curve))).toBeGreaterThan(-1e-4)
      expect(cost).toBeGreaterThan(1)
      expect(dot3(way3(down, 1), way3(curve, 0))).toBeCloseTo(1, 9)
      expect(dot3(way3(curve, 1), way3(rise, 0))).toBeCloseTo(1, 9)
      if (order > 1) expect(norm3(bend3(curve, 0))).toBeLessThan(1e-9)
    }
  })
  it('one that is above anyway is the free one; ends below are refused at their place', () => {
    const high = { ...up, origin: [0, 0, -50] as const }
    const free = blended(down, rise, 2)
    const held = blended(down, rise, 2, [1, 1], [high])
    expect(held).toEqual(free)
    const no = blended(down, rise, 2, [1, 1], [{ ...up, origin: [0, 0, 5] as const }])
    expect(no).toMatchObject({ ok: false, diagnosis: { code: 'end-below' } })
  })
})
