import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fixed, mm, rounded } from '.'

describe('one rounding for every figure shown', () => {
  it.each([
    [3.175, 2, '3.18'],
    [-3.175, 2, '-3.18'],
    [1.005, 2, '1.01'],
    [2.5, 0, '3'],
    [0.0049, 2, '0.00'],
    [-0.001, 2, '0.00'],
    [25.4 / 8, 2, '3.18'],
    [Number.POSITIVE_INFINITY, 2, 'Infinity'],
  ])('%d to %d places is %s', (x, digits, text) => expect(fixed(x, digits)).toBe(text))
  it('a sentence and a field never round one number two ways', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e7, max: 1e7 }), (n) => {
        // Decimal halves, the numbers on which roundings part.
        const x = n / 1000 + 0.0005
        expect(mm(x)).toBe(`${Number(fixed(x, 3))} mm`)
        expect(rounded(x, 3)).toBe(Number(fixed(x, 3)))
        expect(Math.abs(rounded(x, 3) - x)).toBeLessThan(0.00050001)
      }),
    )
  })
})
