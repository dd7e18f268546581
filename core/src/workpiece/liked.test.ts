import fc from 'fast-check'
import { describe, expect, it, test } from 'vitest'
import { AS_WORKED_OUT, asLiked, inFractions } from '.'

describe('numbers as people like them', () => {
  it.each([
    ['wall 2.80–3.10 mm', { length: 1 }, 'wall 2.8–3.1 mm'],
    [
      '248.53 ml; 12.5 cm³; 170.49 g; 25.71 deg',
      { volume: 0, mass: 1, angle: 0 },
      '249 ml; 13 cm³; 170.5 g; 26 deg',
    ],
    ['12 mm', { length: 3 }, '12 mm'],
    ['2.00 to 2.5 mm', { beside: 'inches' as const }, '2.00 to 2.5 mm (0.0787 to 0.098 in)'],
    ['19.05 mm', { beside: 'fractions' as const }, '19.05 mm (3/4 in)'],
    ['wall 2.80 mm', { comma: true }, 'wall 2,80 mm'],
    // Areas, rates, names and plain numbers stay.
    [
      '300.25 mm², 2.55 mm/s, row 2.5, 3.14159',
      { length: 0, volume: 0 },
      '300.25 mm², 2.55 mm/s, row 2.5, 3.14159',
    ],
  ])('%s', (text, liking, shown) => {
    expect(asLiked(text, { ...AS_WORKED_OUT, ...liking })).toBe(shown)
  })
  test('as worked out, nothing changes', () => {
    fc.assert(fc.property(fc.string(), (s) => asLiked(s, AS_WORKED_OUT) === s))
  })
})

describe('64ths of an inch', () => {
  it.each([
    [25.4, '1'],
    [0, '0'],
    [38.1, '1 1/2'],
    [0.396875, '1/64'],
    [30, '≈ 1 3/16'],
    [-12.7, '−1/2'],
  ])('%f mm is %s in', (mm, text) => expect(inFractions(mm)).toBe(text))
  test('never off by more than half a 64th', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 5000, noNaN: true }), (mm) => {
        const text = inFractions(mm).replace('≈ ', '')
        const inch = text
          .split(' ')
          .map((p) => p.split('/').map(Number))
          .reduce((s, [a, b]) => s + a! / (b ?? 1), 0)
        expect(Math.abs(inch * 25.4 - mm)).toBeLessThanOrEqual(25.4 / 128 + 1e-9)
      }),
    )
  })
})
