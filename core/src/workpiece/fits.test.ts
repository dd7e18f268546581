import { describe, expect, it } from 'vitest'
import { clearing, evaluateExpression, type Fit, limitsOf, printedWall, reckonFit } from '.'

const um = (x: number) => Math.round(x * 1000)

describe('fits of ISO 286', () => {
  // Reference values L2: ISO 286-1 and -2, 25 mm.
  it.each([
    ['H7', 0, 21],
    ['H8', 0, 33],
    ['g6', -20, -7],
    ['f7', -41, -20],
    ['h6', -13, 0],
    ['k6', 2, 15],
    ['n6', 15, 28],
    ['p6', 22, 35],
  ])('%s on 25 mm', (grade, low, high) => {
    const l = limitsOf(25, grade)
    if (!l.ok) throw new Error(l.diagnosis.message)
    expect([um(l.value.low), um(l.value.high)]).toEqual([low, high])
  })
  it.each([
    ['slide', 7, 41],
    ['loose', 20, 74],
    ['locate', 0, 34],
    ['push', -15, 19],
    ['tight', -28, 6],
    ['press', -35, -1],
  ] as [Fit, number, number][])('%s: play on 25 mm', (fit, least, most) => {
    const f = reckonFit(25, fit)
    if (!f.ok) throw new Error(f.diagnosis.message)
    expect([um(f.value.least), um(f.value.most)]).toEqual([least, most])
    expect(f.value.drawHole - f.value.drawShaft).toBeCloseTo((least + most) / 2000, 9)
  })
  // The standard's own formulas (row L1): IT6 10i, IT7 16i, IT8 25i, i = 0.45 D^(1/3) + 0.001 D.
  it.each([
    [6, 10],
    [7, 16],
    [8, 25],
  ])('grade %i agrees with the formula within 1 µm in every step', (grade, k) => {
    for (const [from, to] of [
      [3, 6],
      [6, 10],
      [10, 18],
      [18, 30],
      [30, 50],
      [50, 80],
      [80, 120],
    ] as const) {
      const d = Math.sqrt(from * to)
      const i = 0.45 * Math.cbrt(d) + 0.001 * d
      const l = limitsOf(to, `H${grade}`)
      if (!l.ok) throw new Error(l.diagnosis.message)
      expect(Math.abs(um(l.value.high) - k * i)).toBeLessThan(1)
    }
  })
  it.each([
    [2, 'H7', /3 to 120/],
    [200, 'H7', /3 to 120/],
    [Number.NaN, 'H7', /3 to 120/],
    [25, 'z9', /not in the table/],
    [25, 'm6', /not in the table/],
  ])('%f %s is refused in words', (d, grade, said) => {
    const l = limitsOf(d, grade)
    expect(l.ok ? '' : l.diagnosis.message).toMatch(said)
  })
})

it('clears by so much a side, and a wall of printed lines (row J2)', () => {
  expect(clearing(40, 1, true)).toBe(42)
  expect(clearing(40, 1, false)).toBe(38)
  expect(printedWall(2, 0.45)).toBeCloseTo(0.9, 12)
  expect(printedWall(3, 0.72)).toBeCloseTo(2.16, 12)
})

describe('fits and clearances as expressions', () => {
  it.each([
    ['around(40, 1)', 42],
    ['inside(40 mm, 1 mm)', 38],
    ['lines(3, 0.45)', 1.35],
    ['hole_slide(25)', 25.0105],
    ['shaft_press(25 mm)', 25.0285],
    ['around(cap, 0.2) / 2', 20.2],
  ])('%s', (text, want) => {
    const cap = { value: 40, length: 1, angle: 0 }
    const x = evaluateExpression(text, (n) => (n === 'cap' ? cap : undefined))
    expect(x.value).toBeCloseTo(want, 9)
    expect(x.length).toBe(1)
  })
  it.each([['around(40)'], ['lines(3 deg, 1)'], ['hole_slide(500)'], ['hole_wild(25)']])(
    '%s is refused in words',
    (text) =>
      expect(() => evaluateExpression(text, () => undefined)).toThrow(
        /takes|cannot|table|no function|not/,
      ),
  )
})
