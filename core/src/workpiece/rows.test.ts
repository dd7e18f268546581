import { describe, expect, it } from 'vitest'
import { briefSchema, rowTroubles } from '.'

const brief = briefSchema.parse({
  line: 0.45,
  targets: { rib: { min: 1.2, max: 6 }, gap: { min: 2 } },
})
const said = (size: number, gap: number, of: 'ribs' | 'slots', count = 5) =>
  rowTroubles({ count, size, gap }, of, brief).join(' ')

describe('a row against the brief', () => {
  it('holds: nothing is said', () => {
    expect(said(2, 4, 'ribs')).toBe('')
    expect(said(4, 2, 'slots')).toBe('')
  })
  it('names the rib or the web, whichever is the solid', () => {
    expect(said(1, 4, 'ribs')).toMatch(/^The rib of 1 mm is under the 1.2 mm .* ribs and webs/)
    expect(said(4, 1, 'slots')).toMatch(/^The web of 1 mm is under the 1.2 mm/)
    expect(said(7, 4, 'ribs')).toMatch(/^The rib of 7 mm is over the 6 mm/)
  })
  it('and the gap or slot between', () => {
    expect(said(2, 1.5, 'ribs')).toMatch(/^The gap of 1.5 mm is under the 2 mm/)
    expect(said(1.5, 2, 'slots')).toMatch(/^The slot of 1.5 mm/)
  })
  it('a rib thinner than one printed line is told by itself', () =>
    expect(said(0.4, 4, 'ribs')).toMatch(/brief asks.*narrower than one printed line of 0.45 mm/))
  it('a single piece has no gap, and a brief without limits has nothing against it', () => {
    expect(said(2, -1, 'ribs', 1)).toBe('')
    expect(rowTroubles({ count: 9, size: 0.01, gap: 0.01 }, 'ribs', briefSchema.parse({}))).toEqual(
      [],
    )
  })
})
