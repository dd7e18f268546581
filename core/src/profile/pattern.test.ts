import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type RowKnown, reckonRow } from '.'

const row = (k: RowKnown) => {
  const r = reckonRow(k)
  if (!r.ok) throw new Error(r.diagnosis.message)
  return r.value
}

// Reference values H1: ribs 4 wide on 200 with 12 free at the head and 8 at the tail (arithmetic).
const ribs = { size: 4, length: 200, head: 12, tail: 8 }
describe('a row of ribs', () => {
  it('nine of them: gap 18, pitch 22', () =>
    expect(row({ ...ribs, count: 9 })).toMatchObject({ gap: 18, pitch: 22, extent: 180, rest: 0 }))
  it('gap of 15 at most: eleven, gap 13.6', () => {
    const r = row({ ...ribs, gapMost: 15 })
    expect(r.count).toBe(11)
    expect(r.gap).toBeCloseTo(13.6, 12)
  })
  it('gap of 10: thirteen, and 8 left over at the tail', () => {
    const r = row({ ...ribs, gap: 10 })
    expect(r).toMatchObject({ count: 13, rest: 8 })
    expect(r.tail).toBeCloseTo(16, 12)
  })
  it('count and pitch alone: the extent follows; with a length the margins are equal', () => {
    expect(row({ size: 4, count: 5, pitch: 10 }).extent).toBe(44)
    expect(row({ size: 4, count: 5, pitch: 10, length: 60 })).toMatchObject({ head: 8, tail: 8 })
  })
  it('one margin given stands for both when the extent is asked', () =>
    expect(row({ size: 4, length: 100, head: 10, count: 2 })).toMatchObject({ gap: 72, tail: 10 }))
  it.each([
    [{ size: 4 }, /two of count/],
    [{ size: 4, count: 2.5, extent: 20 }, /whole number/],
    [{ size: 4, count: 0, extent: 20 }, /whole number/],
    [{ size: 4, pitch: -1, extent: 20 }, /more than 0/],
    [{ size: 4, pitch: 10, gap: 3, extent: 20 }, /both given/],
    [{ size: 30, gap: 1, extent: 20 }, /Not one piece/],
    [{ size: 4, count: 9, pitch: 30, length: 200, head: 1, tail: 1 }, /pieces need/],
    [{ size: Number.NaN, count: 2, extent: 9 }, /not a number/],
  ] as [RowKnown, RegExp][])('refuses %o in words', (k, said) => {
    const r = reckonRow(k)
    expect(r.ok ? '' : r.diagnosis.message).toMatch(said)
  })
  it('whatever is given comes back, and the sums hold', () => {
    const size = fc.double({ min: 0.1, max: 10, noNaN: true })
    const gap = fc.double({ min: 0.1, max: 30, noNaN: true })
    const margin = fc.double({ min: 0, max: 20, noNaN: true })
    fc.assert(
      fc.property(size, gap, margin, margin, fc.integer({ min: 2, max: 60 }), (s, g, h, t, n) => {
        const extent = n * s + (n - 1) * g
        const length = h + extent + t
        const byCount = row({ size: s, length, head: h, tail: t, count: n })
        expect(byCount.gap).toBeCloseTo(g, 6)
        const byGap = row({ size: s, length, head: h, tail: t, gap: g })
        expect(Math.abs(byGap.count - n)).toBeLessThanOrEqual(1)
        for (const r of [byCount, byGap]) {
          expect(r.head + r.extent + r.tail).toBeCloseTo(length, 6)
          expect((r.count - 1) * r.pitch + s).toBeCloseTo(r.extent, 6)
        }
      }),
    )
  })
})
