import { describe, expect, it } from 'vitest'
import { sayLengths } from '.'

describe('lengths in a sentence', () => {
  it.each([
    ['wall 2.80–3.10 mm', 'wall 0.1102–0.1220 in'],
    ['Ø 25.4 mm, 76.20 mm up', 'Ø 1.000 in, 3.0000 in up'],
    ['an open gap of 254 mm', 'an open gap of 10.00 in'],
    // Areas, volumes and other units are left as they are.
    ['12.5 cm³, 300 mm², 40 mm3, 2 mm/s, 250 ml', '12.5 cm³, 300 mm², 40 mm3, 2 mm/s, 250 ml'],
  ])('%s', (mm, inch) => {
    expect(sayLengths(mm, 'in')).toBe(inch)
    expect(sayLengths(mm, 'mm')).toBe(mm)
  })
})
