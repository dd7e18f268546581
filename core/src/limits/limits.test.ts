import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { SPARING, solveFor, workingRange } from '.'

const no = (message: string) => ({ code: 'x', message, places: [], fixes: [] })

describe('working range', () => {
  it('finds every span, each with what ends it', () => {
    const r = workingRange((v) => ((v > 4.31 && v < 6) || v > 8 ? no(`at ${v}`) : null), 20)
    expect(r.spans).toHaveLength(2)
    expect(r.spans[0]!.from).toBe(0)
    expect(r.spans[0]!.to).toBeCloseTo(4.31, 5)
    expect(r.spans[0]!.blocker?.message).toMatch(/^at 4\.31/)
    expect(r.spans[1]!.from).toBeCloseTo(6, 5)
    expect(r.spans[1]!.to).toBeCloseTo(8, 5)
  })
  it('finds a narrow failing window at its marks, wherever it lies', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 19, noNaN: true }),
        fc.double({ min: 0.01, max: 0.9, noNaN: true }),
        (at, width) => {
          const inside = (v: number) => v > at && v < at + width
          const r = workingRange((v) => (inside(v) ? no('in the window') : null), 20, [
            at,
            at + width,
          ])
          expect(r.spans).toHaveLength(2)
          expect(r.spans[0]!.to).toBeCloseTo(at, 4)
          expect(r.spans[1]!.from).toBeCloseTo(at + width, 4)
          for (const s of r.spans) expect(inside(s.from) || inside(s.to)).toBe(false)
        },
      ),
    )
  })
  it('the present value is tried: it may be the only one that holds', () => {
    const only = (v: number) => (Math.abs(v - 1) < 1e-9 ? null : no('not 1'))
    expect(workingRange(only, 20).spans).toEqual([])
    const r = workingRange(only, 20, [], SPARING, 1)
    expect(r.spans).toHaveLength(1)
    expect(r.spans[0]!.from).toBeCloseTo(1, 9)
    expect(r.spans[0]!.to).toBeCloseTo(1, 9)
  })
  it('a plain number at the very end holds itself', () => {
    const full = workingRange((v) => (v > 15 ? no('over') : null), 40)
    expect(full.spans[0]!.to).toBe(15)
    const just = workingRange((v) => (v >= 15 ? no('at it') : null), 40)
    expect(just.spans[0]!.to).toBeLessThan(15)
    expect(just.spans[0]!.to).toBeGreaterThan(15 - 1e-5)
  })
  it('reports the cap when nothing blocks, nothing when nothing holds', () => {
    expect(workingRange(() => null, 7)).toEqual({
      spans: [{ from: 0, to: 7, blocker: null }],
      below: null,
      least: expect.any(Number),
      cap: 7,
    })
    const none = workingRange(() => no('never'), 7)
    expect(none.spans).toEqual([])
    expect(none.below?.message).toBe('never')
    expect(none.least).toBeLessThan(7e-3)
  })
  it('property: a span that ends far below the largest value is found, down to the least one told', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -3.3, max: 0, noNaN: true }),
        fc.constantFrom(undefined, SPARING),
        (power, effort) => {
          const end = 50 * 10 ** power
          const { spans, least } = workingRange(
            (v) => (v > end ? no('too large') : null),
            50,
            [],
            effort,
          )
          if (end < least) expect(spans).toEqual([])
          else expect(Math.abs(spans[0]!.to - end)).toBeLessThan(50 * 2e-3)
        },
      ),
    )
  })
})

describe('solving for a value', () => {
  it('finds one, several or none', () => {
    expect(solveFor((x) => x * x, 2, 0, 5).found[0]).toBeCloseTo(Math.SQRT2, 9)
    const three = solveFor((x) => x * (x - 1) * (x - 2), 0.1, -0.5, 2.5)
    expect(three.found).toHaveLength(3)
    for (const x of three.found) expect(x * (x - 1) * (x - 2)).toBeCloseTo(0.1, 8)
    const none = solveFor((x) => x * x, -1, -2, 2)
    expect(none.found).toEqual([])
    expect(none.span!.low).toBeLessThan(0.03)
  })
  it('does not take a jump for a solution, and tells what failed', () => {
    expect(solveFor((x) => (x < 0.51 ? -1 : 1), 0, 0, 1).found).toEqual([])
    const s = solveFor((x) => (x > 3 ? 'too wide' : x), 2, 0, 6)
    expect(s.found[0]).toBeCloseTo(2, 9)
    expect(s.failures[0]!.why).toBe('too wide')
  })
})
