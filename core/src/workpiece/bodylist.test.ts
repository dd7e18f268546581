import { describe, expect, test } from 'vitest'
import { bodyCells, bodyRows, csvOf, emptyWorkpiece, readTables, START_TABLES, tabbed } from '.'

const piece = {
  ...emptyWorkpiece('w', 'W'),
  materials: [{ id: 'own', name: 'Resin, clear', density: 1.1, price: 50, note: '', source: '' }],
  brief: { purpose: '', targets: {}, material: 'own' },
  bodies: { lid: { material: 'petg' } },
}
const body = (id: string, name: string, volume: number) => ({
  id,
  name,
  volume,
  size: [10, 20, 30] as const,
  verdict: 'holds',
})

describe('bodies as a list', () => {
  test('mass by each one’s own material, cost by its price, and the total', () => {
    const list = bodyRows(piece, [body('cup', 'Cup', 100_000), body('foot', 'Foot', 20_000)])
    expect(list.rows[0]!.volume).toBe(100)
    expect(list.rows[0]!.mass).toBeCloseTo(110, 9)
    expect(list.rows[0]!.cost).toBeCloseTo(5.5, 9)
    expect(list.total.volume).toBe(120)
    expect(list.total.mass).toBeCloseTo(132, 9)
    expect(list.total.cost).toBeCloseTo(6.6, 9)
  })
  test('no price, no cost; and none of the whole', () => {
    const list = bodyRows(piece, [body('cup', 'Cup', 1000), body('lid', 'Lid', 1000)])
    expect(list.rows[1]!.mass).toBeCloseTo(1.27, 9)
    expect([list.rows[1]!.cost, list.total.cost]).toEqual([null, null])
    const none = bodyRows(emptyWorkpiece('w', 'W'), [body('a', 'A', 1)])
    expect([none.total.mass, none.rows[0]!.material]).toEqual([null, ''])
  })
  test('as CSV (RFC 4180): commas, quotes and line ends in names stay names; no formula', () => {
    const csv = csvOf([['Resin, clear', 'the "large" one', '=1+1', '-3.5', '-x', 'a\nb']])
    expect(csv).toBe(`"Resin, clear","the ""large"" one",'=1+1,-3.5,'-x,"a\nb"\r\n`)
    const lines = csvOf(bodyCells(bodyRows(piece, [body('cup', 'Cup', 1000)]))).split('\r\n')
    expect(lines[1]).toBe('Cup,"Resin, clear",1.000,1.10,0.06,10.000,20.000,30.000,holds')
    expect(lines[2]).toMatch(/^total,,1\.000,1\.10,0\.06,,,,$/)
  })
  test('as text for a spreadsheet: a cell is never torn', () => {
    expect(
      tabbed([
        ['a\tb', 'c'],
        ['d\ne', 'f'],
      ]),
    ).toBe('a b\tc\nd e\tf')
  })
})

describe('tables of one’s own', () => {
  test('those one begins with are read back as they are', () => {
    const read = readTables(JSON.stringify(START_TABLES))
    expect(read.ok && read.value).toEqual(START_TABLES)
  })
  test.each([
    ['nonsense', 'no JSON'],
    ['{"materials":[{"id":"a","name":"A","density":-1}]}', 'materials 0 density'],
    ['{"printers":[{"id":"1a","name":"A"}]}', 'printers 0'],
    ['[]', 'no tables'],
  ])('%s is refused in a sentence', (text, says) => {
    const read = readTables(text)
    expect(read.ok ? '' : read.diagnosis.message).toContain(says)
  })
})
