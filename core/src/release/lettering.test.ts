import { describe, expect, it } from 'vitest'
import { boundsOf } from '../curve'
import { enclosed } from '../profile'
import { letterOutlines } from '.'

const outlines = (text: string, size = 20) => {
  const r = letterOutlines('bold', text, size)
  if (!r.ok) throw new Error(r.diagnosis.message)
  return r.value
}

describe('lettering', () => {
  it('closes: an O has one hole, an i two parts, a B two holes', () => {
    const regions = (t: string) =>
      enclosed(outlines(t).curves.map((curve, i) => ({ curve, name: `c${i}` })))
    expect(regions('O').map((r) => r.holes.length)).toEqual([1])
    expect(regions('i')).toHaveLength(2)
    expect(regions('B').map((r) => r.holes.length)).toEqual([2])
  })
  it('grows with its size', () => {
    const height = (size: number) => {
      const boxes = outlines('H', size).curves.map(boundsOf)
      return Math.max(...boxes.map((b) => b.max[1])) - Math.min(...boxes.map((b) => b.min[1]))
    }
    expect(height(40) / height(20)).toBeCloseTo(2, 3)
    // The size is the height of the capitals.
    expect(height(20)).toBeCloseTo(20, 1)
  })
  it('lists what the font does not have', () =>
    expect(Object.keys(outlines('A漢').skipped)).toEqual(['"漢" not in the font']))
  it.each([
    ['', 10],
    ['x'.repeat(300), 10],
    ['x', 0],
    ['x', Number.NaN],
  ])('refuses in words (%#)', (text, size) =>
    expect(letterOutlines('bold', text, size).ok).toBe(false),
  )
  it('refuses a font that is not there', () =>
    expect(letterOutlines('slab' as 'bold', 'x', 10)).toMatchObject({ ok: false }))
})
