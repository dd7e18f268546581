import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { P3 } from '../../math'
import { bendsOf } from '../../mesh'
import { gaugeSpec, readBends, type Skin } from '..'
import { grid } from '../skin.test-data'

const TURN = 2 * Math.PI
/** A ring of radius r about a circle of radius R, n by n steps. */
const ring = (R: number, r: number, n: number): Skin =>
  grid(
    n,
    n,
    (u, v) => {
      const d = R + r * Math.cos(TURN * u)
      return [d * Math.cos(TURN * v), d * Math.sin(TURN * v), r * Math.sin(TURN * u)]
    },
    (u, v) => [
      Math.cos(TURN * u) * Math.cos(TURN * v),
      Math.cos(TURN * u) * Math.sin(TURN * v),
      Math.sin(TURN * u),
    ],
  )
const ball = (r: number, out: 1 | -1): Skin => {
  const n = (u: number, v: number): P3 => {
    const [a, b] = [0.2 + 2.6 * u, 5 * v]
    return [Math.sin(a) * Math.cos(b), Math.sin(a) * Math.sin(b), Math.cos(a)]
  }
  return grid(
    9,
    13,
    (u, v) => n(u, v).map((x) => r * x) as unknown as P3,
    (u, v) => n(u, v).map((x) => out * x) as unknown as P3,
  )
}
const tube = (r: number, length: number, n: number): Skin =>
  grid(
    n,
    2,
    (u, v) => [r * Math.cos(TURN * u), r * Math.sin(TURN * u), length * v],
    (u) => [Math.cos(TURN * u), Math.sin(TURN * u), 0],
  )

describe('curvature from triangles and their normals', () => {
  it('property: of balls and tubes of any size and fineness it is 1/r, exactly but for single precision', () => {
    const size = fc.integer({ min: 5, max: 3000 }).map((x) => x / 10)
    fc.assert(
      fc.property(size, fc.integer({ min: 5, max: 60 }), fc.boolean(), (r, n, out) => {
        const b = bendsOf(ball(r, out ? 1 : -1))
        const k = (out ? 1 : -1) / r
        for (const x of [...b.most, ...b.least]) expect(x * r).toBeCloseTo(k * r, 3)
        const t = bendsOf(tube(r, 2 * r, n))
        for (const x of t.most) expect(x * r).toBeCloseTo(1, 3)
        for (const x of t.least) expect(x * r).toBeCloseTo(0, 3)
      }),
      { numRuns: 60 },
    )
  })
  it('of a ring 40 about 12 the hollow side reads 28 and the bulge 12, nearer the finer (do Carmo, ch. 3)', () => {
    const off = [24, 48, 96].map((n) => {
      const { bulge, hollow } = readBends(ring(40, 12, n), 1)
      expect(hollow!.radius).toBeGreaterThan(27.9)
      return [Math.abs(bulge!.radius / 12 - 1), Math.abs(hollow!.radius / 28 - 1)]
    })
    expect(off[1]![0]).toBeLessThan(0.01)
    expect(off[2]![1]).toBeLessThan(0.01)
    for (const k of [0, 1]) expect(off[2]![k]).toBeLessThan(off[0]![k]! + 1e-4)
  })
  it('property: k1 k2 of a saddle z = a x² - b y² at its middle is -4ab, whichever way it is turned', () => {
    const bend = fc.integer({ min: 1, max: 40 }).map((x) => x / 1000)
    fc.assert(
      fc.property(bend, bend, fc.integer({ min: 0, max: 628 }), (a, b, w) => {
        const [c, s] = [Math.cos(w / 100), Math.sin(w / 100)]
        const at = (u: number, v: number): [number, number] => [2 * u - 1, 2 * v - 1]
        const turned = (p: P3): P3 => [p[0], c * p[1] - s * p[2], s * p[1] + c * p[2]]
        const saddle = grid(
          20,
          20,
          (u, v) => {
            const [x, y] = at(u, v)
            return turned([x, y, a * x * x - b * y * y])
          },
          (u, v) => {
            const [x, y] = at(u, v)
            const l = Math.hypot(2 * a * x, 2 * b * y, 1)
            return turned([(-2 * a * x) / l, (2 * b * y) / l, 1 / l])
          },
        )
        const { most, least } = bendsOf(saddle)
        const middle = 10 * 21 + 10
        // A bowl's upper side is hollow: z = a x² curves towards its normal.
        expect(least[middle]).toBeCloseTo(-2 * a, 4)
        expect(most[middle]).toBeCloseTo(2 * b, 4)
      }),
      { numRuns: 40 },
    )
  })
  it('a pole, whose normal may be any, is passed over', () => {
    const { positions, normals, triangles } = ball(10, 1)
    // A fan about the pole, with a normal that is off by 20 degrees.
    const rim = Array.from({ length: 12 }, (_, i): P3 => {
      const a = (TURN * i) / 12
      return [Math.sin(0.05) * Math.cos(a), Math.sin(0.05) * Math.sin(a), Math.cos(0.05)]
    })
    const from = positions.length / 3
    const fan: Skin = {
      positions: Float32Array.from([...positions, 0, 0, 10, ...rim.flat().map((x) => 10 * x)]),
      normals: Float32Array.from([...normals, Math.sin(0.35), 0, Math.cos(0.35), ...rim.flat()]),
      triangles: Uint32Array.from([
        ...triangles,
        ...rim.flatMap((_, i) => [from, from + 1 + i, from + 1 + ((i + 1) % 12)]),
      ]),
    }
    const b = bendsOf(fan)
    expect(b.most[from]! * 10).toBeLessThan(2)
    expect(readBends(fan, 1).hollow).toBeNull()
  })
  it('places at which two normals nearly agree are passed over, edges of the body are not', () => {
    // Two halves of a tube that share a line on which one of them is off by 3 degrees.
    const half = (from: number, off: number): Skin =>
      grid(
        12,
        3,
        (u, v) => [10 * Math.cos(from + 3 * u), 10 * Math.sin(from + 3 * u), 8 * v],
        (u) => {
          const a = from + 3 * u + (u === 0 ? off : 0)
          return [Math.cos(a), Math.sin(a), 0]
        },
      )
    const [a, b] = [half(0, 0), half(3, 0.05)]
    const count = a.positions.length / 3
    const both: Skin = {
      positions: Float32Array.from([...a.positions, ...b.positions]),
      normals: Float32Array.from([...a.normals, ...b.normals]),
      triangles: Uint32Array.from([...a.triangles, ...[...b.triangles].map((v) => v + count)]),
    }
    for (const k of bendsOf(both).most) expect(k * 10).toBeCloseTo(1, 2)
  })
  it('a lone triangle, and vertices on one place, bend nothing and break nothing', () => {
    const flat: Skin = {
      positions: Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 0]),
      normals: Float32Array.from([0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1]),
      triangles: Uint32Array.from([0, 1, 2, 0, 3, 1]),
    }
    const b = bendsOf(flat)
    expect([...b.most, ...b.least].every((x) => x === 0)).toBe(true)
    expect(readBends(flat, 1)).toMatchObject({ bulge: null, hollow: null, flat: 0.5 })
  })
})

describe('the gauge of least radius', () => {
  const read = (skin: Skin, params: Record<string, number>) =>
    gaugeSpec('bends')!.ofSkin!(skin, params)
  it('tells areas: a tube bends one way, a ball both', () => {
    const t = readBends(tube(10, 30, 200), 12)
    expect(t.single).toBeCloseTo(TURN * 10 * 30, -1)
    expect(t.double + t.flat).toBe(0)
    expect(t.under.bulge).toBeCloseTo(t.single, 6)
    expect(t.under.hollow).toBe(0)
    // What is just as tight as asked is not tighter.
    expect(readBends(tube(10, 30, 200), 10).under.bulge).toBe(0)
    expect(readBends(ball(10, 1), 1).single).toBe(0)
  })
  it('is held on the side asked for, with its place', () => {
    const hollow = read(ring(40, 12, 96), { side: 2, asked: 3 })
    if (typeof hollow === 'string') throw new Error(hollow)
    const at = hollow.places[0]!.at
    expect(Math.hypot(at[0], at[1])).toBeCloseTo(28, 0)
    expect(read(tube(5, 5, 20), { side: 2 })).toBe('It is hollow nowhere.')
    expect(read(tube(5, 5, 20), { side: 3 })).toMatch(/1 \(bulges\) or 2/)
    expect(read(tube(5, 5, 20), { asked: -1 })).toMatch(/above 0/)
  })
})
