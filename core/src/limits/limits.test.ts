import { describe, expect, it } from 'vitest'
import { solveFor, workingRange } from '.'

const no = (message: string) => ({ code: 'x', message, places: [], fixes: [] })

describe('working range', () => {
  it('finds the first block from below, not a later hole', () => {
    const r = workingRange((v) => ((v > 4.31 && v < 6) || v > 8 ? no(`at ${v}`) : null), 20)
    expect(r.max).toBeCloseTo(4.31, 5)
    expect(r.blocker?.message).toMatch(/^at 4\.31/)
  })
  it('reports the cap when nothing blocks, 0 when nothing holds', () => {
    expect(workingRange(() => null, 7)).toEqual({ max: 7, blocker: null, cap: 7 })
    const none = workingRange(() => no('never'), 7)
    expect(none.max).toBeLessThan(1e-5)
    expect(none.blocker?.message).toBe('never')
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
