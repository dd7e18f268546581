import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cross3, dot3, norm3, type P3, placeAt, scale3, sub3 } from '../math'
import {
  arcFrom3,
  arcThrough3,
  areaVector,
  at3,
  basisOf,
  bend3,
  countOf,
  end3,
  evaluate,
  evenBasis,
  fitted,
  fluxThrough,
  greville,
  Interpolation,
  interpolated,
  interpolated3,
  jet,
  length3,
  place3,
  placeByPlace,
  placesOver,
  pointOn,
  reversed3,
  rowAt,
  start3,
  through3,
  Way,
  way3,
} from '.'

const close = (a: P3, b: P3, digits = 9) => {
  for (let i = 0; i < 3; i++) expect(a[i]).toBeCloseTo(b[i]!, digits)
}
const spot = fc.tuple(
  fc.double({ min: -50, max: 50, noNaN: true }),
  fc.double({ min: -50, max: 50, noNaN: true }),
  fc.double({ min: -50, max: 50, noNaN: true }),
)

describe('curves in space', () => {
  it('a circle as a quintic of 16 spans, 21 poles: off by some 1e-7 of its radius, curvature by 1e-4', () => {
    const breaks = Array.from({ length: 15 }, (_, i) => ({ at: (i + 1) / 16 }))
    const circle = (t: number): P3 => [Math.cos(2 * Math.PI * t), Math.sin(2 * Math.PI * t), 0]
    const c = interpolated3(basisOf(5, breaks), circle)
    expect(c.poles.length).toBe(21)
    let [off, bend] = [0, 0]
    for (let i = 0; i <= 500; i++) {
      const [x, y] = place3(c, i / 500)
      off = Math.max(off, Math.abs(Math.hypot(x, y) - 1))
      bend = Math.max(bend, Math.abs(norm3(bend3(c, i / 500)) - 1))
    }
    // Measured before with another program of ours: 3.6e-7 and 4e-5 for well-chosen ends.
    expect(off).toBeLessThan(2e-6)
    expect(bend).toBeLessThan(1.5e-3)
  })
  it('derivatives agree with differences, for any degree', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 5 }),
        fc.array(spot, { minLength: 6, maxLength: 10 }),
        fc.double({ min: 0.01, max: 0.99, noNaN: true }),
        (degree, poles, t) => {
          const c = { kind: 'spline' as const, basis: evenBasis(degree, poles.length), poles }
          const h = 1e-5
          // Not across a knot, where pieces of low degree kink.
          fc.pre([...c.basis.knots].every((k) => Math.abs(k - t) > 3 * h))
          const slope = scale3(sub3(place3(c, t + h), place3(c, t - h)), 1 / (2 * h))
          const { d1 } = at3(c, t)
          expect(norm3(sub3(slope, d1))).toBeLessThan(1e-4 * (1 + norm3(d1)))
        },
      ),
    )
  })
  it('goes through its places and leaves in the directions given', () => {
    fc.assert(
      fc.property(fc.array(spot, { minLength: 3, maxLength: 9 }), spot, (places, first) => {
        // Never one on the other.
        const apart = places.map(([x, y, z], i): P3 => [x + 101 * i, y, z])
        const c = through3(apart, 3, { first })
        close(start3(c), apart[0]!, 7)
        close(end3(c), apart[apart.length - 1]!, 7)
        close(at3(c, 0).d1, first, 6)
      }),
    )
  })
  it('arcs through three places and from a direction; reversed they run back', () => {
    const a = arcThrough3([10, 0, 5], [0, 10, 5], [-10, 0, 5])!
    expect(a.radius).toBeCloseTo(10, 12)
    expect(length3(a)).toBeCloseTo(10 * Math.PI, 10)
    close(place3(a, 0.5), [0, 10, 5])
    const r = reversed3(a)
    close(start3(r), end3(a))
    close(place3(r, 0.25), place3(a, 0.75))
    expect(arcThrough3([0, 0, 0], [1, 1, 1], [3, 3, 3])).toBeNull()
    // Leaving (0,0,0) along x and ending at (10, 10, 0): a quarter of radius 10.
    const q = arcFrom3([0, 0, 0], [1, 0, 0], [10, 10, 0])!
    expect([q.radius, q.sweep]).toEqual([expect.closeTo(10, 12), expect.closeTo(Math.PI / 2, 12)])
    close(way3(q, 1), [0, 1, 0])
    expect(arcFrom3([0, 0, 0], [1, 0, 0], [5, 0, 0])).toBeNull()
    // More than half round, where the end lies behind.
    const far = arcFrom3([0, 0, 0], [1, 0, 0], [-10, 10, 0])!
    close(end3(far), [-10, 10, 0])
    expect(far.sweep).toBeGreaterThan(Math.PI)
  })
  it('length of a parabola by its closed form, and the parameter at half of it', () => {
    // y = x² from 0 to 1: (2 sqrt 5 + asinh 2) / 4.
    const c = {
      kind: 'spline' as const,
      basis: basisOf(2),
      poles: [
        [0, 0, 0],
        [0.5, 0, 0],
        [1, 1, 0],
      ] as P3[],
    }
    const whole = (2 * Math.sqrt(5) + Math.asinh(2)) / 4
    expect(length3(c)).toBeCloseTo(whole, 9)
    const { t } = new Way([c]).at(0.5)
    expect(length3(c, t)).toBeCloseTo(whole / 2, 7)
    const back = reversed3(c)
    close(place3(back, 0.3), place3(c, 0.7))
  })
})

/** A ring of radius R about z and r across, as u runs round the tube and v round the axis, by quarters. */
const torus =
  (R: number, r: number) =>
  (u: number, v: number): P3 => {
    const [a, b] = [2 * Math.PI * u, 2 * Math.PI * v]
    const d = R + r * Math.cos(a)
    return [d * Math.cos(b), d * Math.sin(b), r * Math.sin(a)]
  }

describe('surfaces', () => {
  it('interpolates at the Greville places, and takes a polynomial surface as it is', () => {
    const field = (u: number, v: number): P3 => [u * u * v, v * v * v - u, u * u * u + 2 * v]
    const s = interpolated(evenBasis(3, 7), evenBasis(3, 5), placeByPlace(field))
    for (const [u, v] of [
      [0.1, 0.9],
      [0.33, 0.5],
      [1, 1],
      [0, 0.2],
    ] as const)
      close(pointOn(s, u, v), field(u, v), 12)
    expect([countOf(s.u), countOf(s.v), greville(s.u)[0]]).toEqual([7, 5, 0])
    close(rowAt(s, true)[0]!, field(0, 1), 10)
  })
  it('places over a grid are those read one at a time', () => {
    const s = interpolated(evenBasis(5, 9), evenBasis(3, 6), placeByPlace(torus(40, 12)))
    const [us, vs] = [
      [0, 0.13, 0.5, 0.71, 1],
      [0, 0.5, 0.999, 1],
    ]
    const all = placesOver(s, us, vs)
    for (const [i, u] of us.entries())
      for (const [j, v] of vs.entries())
        close(placeAt(all, i * vs.length + j), pointOn(s, u, v), 12)
  })
  it('fits a ring; flux gives its volume 2 π² R r²', () => {
    const { patch, off } = fitted(
      evenBasis(5, 9),
      evenBasis(5, 9),
      placeByPlace(torus(40, 12)),
      1e-5,
    )
    expect(off).toBeLessThan(1e-5)
    expect(Math.abs(fluxThrough(patch)) / (2 * Math.PI ** 2 * 40 * 144)).toBeCloseTo(1, 6)
  })
  it('second derivatives of a ring give its curvatures 1/12 and 1/28 inside', () => {
    const { patch } = fitted(evenBasis(5, 9), evenBasis(5, 9), placeByPlace(torus(40, 12)), 1e-6)
    const j = jet()
    // Inside the ring: u = 1/2.
    evaluate(patch, 0.5, 0.3, 2, j)
    const at = (a: Float64Array): P3 => [a[0]!, a[1]!, a[2]!]
    const n = cross3(at(j.u), at(j.v))
    const N = scale3(n, 1 / norm3(n))
    const ku = dot3(at(j.uu), N) / dot3(at(j.u), at(j.u))
    const kv = dot3(at(j.vv), N) / dot3(at(j.v), at(j.v))
    expect(Math.abs(1 / ku)).toBeCloseTo(12, 2)
    expect(Math.abs(1 / kv)).toBeCloseTo(28, 2)
    expect(ku * kv).toBeLessThan(0)
  })
  it('the area vector of a flat loop is its area along its normal', () => {
    const corners: P3[] = [
      [0, 0, 2],
      [4, 0, 2],
      [4, 3, 2],
      [0, 3, 2],
    ]
    const sides = corners.map((a, i) => ({ basis: basisOf(1), poles: [a, corners[(i + 1) % 4]!] }))
    close(areaVector(sides), [0, 0, 12])
  })
  it('refuses rows that cannot determine the functions', () => {
    // All at one end: the functions of the other end are nowhere.
    expect(() => new Interpolation(evenBasis(3, 6), [0, 0, 0.01, 0.02, 0.03, 0.04])).toThrow(
      'do not fit',
    )
    expect(() => new Interpolation(evenBasis(3, 6), [0, 1])).toThrow('as many rows')
  })
})
