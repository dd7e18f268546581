import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { add3, dot3, norm3, type P3, scale3, sub3, unit3 } from '../math'
import {
  at3,
  type Curve3,
  end3,
  evenBasis,
  fitted3,
  length3,
  place3,
  start3,
  way3,
} from '../surface'
import {
  angleBetween,
  built,
  chainFindings,
  EvenFrames,
  helixCurve,
  helixSize,
  onHelix,
  ordered,
  type Stop,
  tightest,
} from '.'

const level = {
  origin: [0, 0, 0] as P3,
  x: [1, 0, 0] as P3,
  y: [0, 1, 0] as P3,
  z: [0, 0, 1] as P3,
}
const to = (x: number, y: number, z: number, by: Stop['by'] = 'line', round = 0): Stop => ({
  at: [x, y, z],
  by,
  round,
})
const made = (stops: Stop[], closed = false) => {
  const b = built(stops, closed)
  if (!b.ok) throw new Error(b.diagnosis.message)
  return b.value
}
const fault = (stops: Stop[], closed = false) => {
  const b = built(stops, closed)
  return b.ok ? '' : b.diagnosis.code
}

describe('frames that turn least', () => {
  it('a helix of radius 20, pitch 25, three turns: -210.729452 deg against its own normal', () => {
    // Total torsion of a helix: turns x 2 pi x p / sqrt(r² + p²), p the pitch by 2 pi; less whole turns (closed form).
    const h = { frame: level, radius: 20, turns: 3, height: 75 }
    const curve = helixCurve(h)
    const out: P3 = [1, 0, 0]
    const frames = new EvenFrames([curve], out)
    const end = frames.end
    // The direction out of the axis at the end is x again: three whole turns.
    const t = way3(curve, 1)
    const own = unit3(sub3(out, scale3(t, dot3(out, t))))
    const turned = Math.atan2(
      dot3(end.x, [
        t[1] * own[2] - t[2] * own[1],
        t[2] * own[0] - t[0] * own[2],
        t[0] * own[1] - t[1] * own[0],
      ]),
      dot3(end.x, own),
    )
    const p = 25 / (2 * Math.PI)
    const torsion = (3 * 2 * Math.PI * p) / Math.hypot(20, p)
    const want = -(((torsion * 180) / Math.PI) % 360)
    expect(want).toBeCloseTo(-210.729452, 5)
    expect(Math.abs(((turned * 180) / Math.PI - want + 540) % 360) - 180).toBeCloseTo(0, 3)
  })
  it('along lines and arcs it is exact: round a flat ring it comes back as it was', () => {
    const ring: Curve3 = {
      kind: 'arc',
      centre: [0, 0, 0],
      x: [1, 0, 0],
      y: [0, 1, 0],
      radius: 30,
      sweep: 2 * Math.PI,
    }
    const frames = new EvenFrames([ring], [0, 0, 1])
    const begin = frames.at(0, 0)
    expect(angleBetween(begin, frames.end)).toBeCloseTo(0, 9)
    expect(dot3(frames.at(0, 0.37).x, [0, 0, 1])).toBeCloseTo(1, 12)
  })
  it('where pieces meet it goes on as it was, whatever rounding leaves between their ends', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -1e-13, max: 1e-13, noNaN: true }), {
          minLength: 3,
          maxLength: 3,
        }),
        (noise) => {
          const bend: Curve3 = {
            kind: 'arc',
            centre: [0, 10, 0],
            x: [0, -1, 0],
            y: [1, 0, 0],
            radius: 10,
            sweep: 1,
          }
          const at = end3(bend)
          const away = way3(bend, 1)
          const from = add3(at, noise as unknown as P3)
          const on: Curve3 = { kind: 'line', a: from, b: add3(from, scale3(away, 5)) }
          const frames = new EvenFrames([bend, on], [0, 0, 1])
          expect(dot3(frames.end.x, [0, 0, 1])).toBeCloseTo(1, 9)
        },
      ),
    )
  })
  it('on a curve on a ball the direction out of its middle stays so', () => {
    // Rotation-minimising frames of spherical curves keep the radial direction (Wang et al. 2008; from memory).
    const onBall = (t: number): P3 => {
      const a = 2 * Math.PI * t
      const b = 0.6 * Math.sin(2 * a)
      return scale3([Math.cos(a) * Math.cos(b), Math.sin(a) * Math.cos(b), Math.sin(b)], 50)
    }
    const { curve } = fitted3(evenBasis(5, 24), onBall, 1e-6)
    const frames = new EvenFrames([curve], unit3(onBall(0)))
    for (const t of [0.21, 0.5, 0.83, 1])
      expect(dot3(frames.at(0, t).x, unit3(onBall(t)))).toBeCloseTo(1, 7)
  })
})

describe('helices', () => {
  it('lies within 1e-6 of the true one, tapered or not, and any two sizes give the third', () => {
    for (const h of [
      { frame: level, radius: 20, turns: 3, height: 75 },
      { frame: level, radius: 30, last: 5, turns: 2.25, height: 12, left: true },
    ]) {
      const c = helixCurve(h)
      for (let i = 0; i <= 300; i++)
        expect(norm3(sub3(place3(c, i / 300), onHelix(h, i / 300)))).toBeLessThan(2e-6)
    }
    expect(helixSize({ pitch: 4, turns: 3 })).toEqual({ ok: true, value: { turns: 3, height: 12 } })
    expect(helixSize({ pitch: 4, height: 10 })).toEqual({
      ok: true,
      value: { turns: 2.5, height: 10 },
    })
    expect(helixSize({ turns: 0, height: 3 }).ok).toBe(false)
    expect(helixSize({ pitch: 0, height: 3 }).ok).toBe(false)
    // A flat spiral has no height but turns.
    expect(helixSize({ turns: 2, height: 0 })).toEqual({ ok: true, value: { turns: 2, height: 0 } })
  })
  it('has the length of its closed form', () => {
    const c = helixCurve({ frame: level, radius: 22, turns: 2.5, height: 34 })
    expect(length3(c)).toBeCloseTo(Math.hypot(2 * Math.PI * 22 * 2.5, 34), 5)
  })
})

describe('a path through places', () => {
  it('lines rounded at a corner: the arc touches both', () => {
    const { pieces, names } = made([to(0, 0, 0), to(50, 0, 0, 'line', 10), to(50, 40, 0)])
    expect(names).toEqual(['to2', 'round1', 'to3'])
    expect(chainFindings(pieces, false)).toEqual([])
    expect(length3(pieces[1]!)).toBeCloseTo(5 * Math.PI, 9)
    expect(pieces.reduce((s, c) => s + length3(c), 0)).toBeCloseTo(40 + 30 + 5 * Math.PI, 9)
  })
  it('arcs run on, curves leave and arrive the way their neighbours do', () => {
    const { pieces } = made([
      to(0, 0, 0),
      to(20, 0, 0),
      to(30, 10, 0, 'arc'),
      to(30, 20, 20, 'spline'),
      to(10, 40, 30, 'spline'),
      to(0, 40, 30),
    ])
    expect(pieces.map((p) => p.kind)).toEqual(['line', 'arc', 'spline', 'line'])
    expect(chainFindings(pieces, false)).toEqual([])
  })
  it('closed: back to the first place, its corner rounded too', () => {
    const square = [
      to(0, 0, 0, 'line', 2),
      to(20, 0, 0, 'line', 2),
      to(20, 20, 0, 'line', 2),
      to(0, 20, 0, 'line', 2),
    ]
    const { pieces } = made(square, true)
    expect(chainFindings(pieces, true)).toEqual([])
    expect(pieces.reduce((s, c) => s + length3(c), 0)).toBeCloseTo(4 * 16 + 4 * Math.PI, 9)
  })
  it('tells what cannot be', () => {
    expect(fault([to(0, 0, 0)])).toBe('too-few')
    expect(fault([to(0, 0, 0), to(10, 0, 0, 'arc')])).toBe('no-direction')
    expect(fault([to(0, 0, 0), to(10, 0, 0), to(10, 0, 0)])).toBe('no-length')
    expect(fault([to(0, 0, 0), to(10, 0, 0), to(0, 0, 0, 'arc')])).toBe('turns-back')
    expect(fault([to(0, 0, 0), to(10, 0, 0, 'line', 12), to(10, 10, 0)])).toBe('too-large')
    expect(fault([to(0, 0, 0), to(10, 0, 0, 'line', 3), to(20, 10, 0, 'arc')])).toBe('not-straight')
    expect(fault([to(0, 0, 0), to(10, 0, 0, 'line', 3), to(2, 0, 0)])).toBe('turns-back')
    expect(fault([to(0, 0, 0), to(10, 0, 0, 'line', -3), to(12, 8, 0)])).toBe('not-positive')
  })
})

describe('a closed curve through places', () => {
  const of = (places: readonly P3[]) => {
    const made = built(
      places.map((at) => ({ at, by: 'spline' as const, round: undefined })),
      true,
    )
    if (!made.ok) throw new Error(made.diagnosis.message)
    expect(made.value.pieces).toHaveLength(1)
    return made.value.pieces[0]!
  }
  it('through the corners of a square: the periodic cubic of the textbook, m = -120 / h² at each', () => {
    // M[i-1] + 4 M[i] + M[i+1] = 6 / h² (y[i-1] - 2 y[i] + y[i+1]) with h = 1/4 (natural cubic splines, any numerical textbook).
    const c = of([
      [40, 0, 0],
      [0, 40, 0],
      [-40, 0, 0],
      [0, -40, 0],
    ])
    for (const t of [0, 1]) expect(at3(c, t).d2[0]).toBeCloseTo(-120 * 16, 6)
    expect(at3(c, 0.5).d2[0]).toBeCloseTo(120 * 16, 6)
    expect(at3(c, 0.25).d2[1]).toBeCloseTo(-120 * 16, 6)
  })
  it('runs on over its seam in direction and curvature, whatever the places', () => {
    const place = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -8, max: 8, noNaN: true })))
    fc.assert(
      fc.property(fc.array(place, { minLength: 3, maxLength: 12 }), (list) => {
        const places = list.map((off, i): P3 => {
          const a = (2 * Math.PI * i) / list.length
          return add3([60 * Math.cos(a), 60 * Math.sin(a), 9 * (i % 2)], off as unknown as P3)
        })
        const c = of(places)
        const [a, b] = [at3(c, 0), at3(c, 1)]
        const size = norm3(a.d2) + norm3(a.d1) + 1
        expect(norm3(sub3(a.p, places[0]!))).toBeLessThan(1e-9)
        expect(norm3(sub3(a.d1, b.d1)) / size).toBeLessThan(1e-9)
        expect(norm3(sub3(a.d2, b.d2)) / size).toBeLessThan(1e-8)
      }),
    )
  })
  it('one place on the next is told', () => {
    const stop = (at: P3) => ({ at, by: 'spline' as const, round: undefined })
    const made = built([stop([0, 0, 0]), stop([9, 0, 0]), stop([9, 9, 0]), stop([0, 0, 0])], true)
    expect(made.ok ? '' : made.diagnosis.message).toBe('Two places of a curve lie on each other.')
  })
})

describe('chains', () => {
  const arbitraryChain = fc
    .array(fc.tuple(...[0, 1, 2].map(() => fc.double({ min: 1, max: 30, noNaN: true }))), {
      minLength: 2,
      maxLength: 8,
    })
    .map((steps) => {
      let at: P3 = [0, 0, 0]
      return steps.map(([x, y, z], i): Curve3 => {
        const b = add3(at, [x!, i % 2 ? y! : -y!, z!])
        const c: Curve3 = { kind: 'line', a: at, b }
        at = b
        return c
      })
    })
  it('loose pieces in any order, any way round, make the chain again', () => {
    fc.assert(
      fc.property(
        arbitraryChain,
        fc.array(fc.nat(), { minLength: 8, maxLength: 8 }),
        (chain, mix) => {
          const loose = chain.map(
            (c, i): Curve3 =>
              mix[i]! % 2 && c.kind === 'line' ? { kind: 'line', a: c.b, b: c.a } : c,
          )
          const shuffled = [...loose].sort(
            (a, b) => mix[loose.indexOf(a)]! - mix[loose.indexOf(b)]!,
          )
          const o = ordered(shuffled)
          expect(o.pieces.length).toBe(chain.length)
          expect([o.closed, o.apart, o.forks]).toEqual([false, [], []])
          expect(chainFindings(o.pieces, false).filter((f) => f.code === 'gap')).toEqual([])
        },
      ),
    )
  })
  it('tells gaps with their size, kinks with their angle, forks and what is apart', () => {
    const line = (a: P3, b: P3): Curve3 => ({ kind: 'line', a, b })
    const gap = [line([0, 0, 0], [10, 0, 0]), line([10.3, 0, 0], [20, 0, 0])]
    expect(chainFindings(gap, false)).toMatchObject([
      { code: 'gap', size: expect.closeTo(0.3, 12) },
    ])
    expect(ordered(gap).apart).toEqual([1])
    expect(ordered(gap, 0.5).pieces.length).toBe(2)
    const kink = [line([0, 0, 0], [10, 0, 0]), line([10, 0, 0], [20, 10, 0])]
    expect(chainFindings(kink, false)).toMatchObject([
      { code: 'kink', size: expect.closeTo(Math.PI / 4, 9) },
    ])
    const fork = [...kink, line([10, 0, 0], [10, 0, 10])]
    expect(ordered(fork).forks).toEqual([[10, 0, 0]])
    const ring = [
      line([0, 0, 0], [10, 0, 0]),
      line([10, 0, 0], [5, 5, 0]),
      line([0, 0, 0], [5, 5, 0]),
    ]
    expect(ordered(ring)).toMatchObject({ closed: true, apart: [] })
    expect(start3(ordered(ring).pieces[0]!)).toEqual(end3(ordered(ring).pieces[2]!))
  })
  it('finds the least radius of a helix, of an arc, and none of lines', () => {
    const p = 25 / (2 * Math.PI)
    const helix = helixCurve({ frame: level, radius: 20, turns: 1, height: 25 })
    expect(tightest([helix]).radius).toBeCloseTo(20 + (p * p) / 20, 3)
    expect(tightest([{ kind: 'line', a: [0, 0, 0], b: [1, 0, 0] }]).radius).toBe(
      Number.POSITIVE_INFINITY,
    )
    const { pieces } = made([to(0, 0, 0), to(50, 0, 0, 'line', 7), to(50, 40, 0)])
    expect(tightest(pieces)).toMatchObject({ radius: 7, piece: 1 })
  })
})
