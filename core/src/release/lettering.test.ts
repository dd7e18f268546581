import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { describe, expect, it } from 'vitest'
import { boundsOf } from '../curve'
import { enclosed } from '../profile'
import { letterOutlines } from '.'

const file = createRequire(import.meta.url).resolve(
  '@fontsource/alegreya-sans/files/alegreya-sans-latin-700-normal.woff',
)
const bytes = readFileSync(file)
const font = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length)
const outlines = (text: string, size = 20) => {
  const r = letterOutlines(font, text, size)
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
    expect(height(20)).toBeGreaterThan(10)
    expect(height(20)).toBeLessThan(20)
  })
  it('lists what the font does not have', () =>
    expect(Object.keys(outlines('A漢').skipped)).toEqual(['"漢" not in the font']))
  it.each([
    ['', 10],
    ['x'.repeat(300), 10],
    ['x', 0],
    ['x', Number.NaN],
  ])('refuses in words (%#)', (text, size) =>
    expect(letterOutlines(font, text, size).ok).toBe(false),
  )
  it('refuses what is no font', () =>
    expect(letterOutlines(new ArrayBuffer(40), 'x', 10)).toMatchObject({ ok: false }))
})
