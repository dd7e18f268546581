import { startCylinder, startPlane } from '@ivory/core/cage'
import type { CageEdit } from '@ivory/core/ops'
import { expect, it } from 'vitest'
import { ringDragged, ringsOf } from './rings'

const { layout, at } = startCylinder(
  6,
  [
    { radius: 30, z: 0 },
    { radius: 20, z: 25 },
  ],
  { floor: false, lid: false },
)
const [low, high] = ringsOf({ rows: layout.rows, at })

it('rows are rings: how far out and how high', () => {
  expect([low!.row, high!.row]).toEqual(['0', '1'])
  expect(low!.radius).toBeCloseTo(30, 9)
  expect(high!.radius).toBeCloseTo(20, 9)
  expect(high!.height).toBeCloseTo(25, 9)
})
it('a sheet beside the axis, or across it, has none', () => {
  const sheet = startPlane([60, 40], 4, 3)
  expect(ringsOf({ rows: sheet.layout.rows, at: sheet.at })).toEqual([])
  const aside = at.map((x, k) => (k % 3 === 0 ? x + 50 : x))
  expect(ringsOf({ rows: layout.rows, at: aside })).toEqual([])
})
it('a dragged ring becomes an edit of rows; dragged again the same edit, its twist kept', () => {
  const once = ringDragged([], high!, { radius: 24, height: 27 })
  expect(once).toEqual([{ id: 'e1', kind: 'rows', rows: [{ row: '1', size: 1.2, lift: 2 }] }])
  const twisted = [
    { ...once[0]!, rows: [{ row: '1', size: 1.2, lift: 2, twist: '10 deg' }] },
  ] as CageEdit[]
  const there = { row: '1', radius: 24, height: 27 }
  expect(ringDragged(twisted, there, { radius: 12, height: 26 })).toEqual([
    { id: 'e1', kind: 'rows', rows: [{ row: '1', size: 0.6, lift: 1, twist: '10 deg' }] },
  ])
  expect(ringDragged(once, low!, { radius: 33, height: 0 })[0]).toMatchObject({
    rows: [{ row: '1' }, { row: '0', size: 1.1, lift: 0 }],
  })
})
it('what a figure holds is left as it is: another edit follows; a ring on the axis is only lifted', () => {
  const held = [{ id: 'a', kind: 'rows', rows: [{ row: '1', size: 'neck' }] }] as CageEdit[]
  const made = ringDragged(held, high!, { radius: 10, height: 25 })
  expect(made).toHaveLength(2)
  expect(made[0]).toBe(held[0])
  expect(made[1]).toMatchObject({ rows: [{ row: '1', size: 0.5, lift: 0 }] })
  const off = [{ id: 'a', kind: 'rows', off: true, rows: [] }] as CageEdit[]
  expect(ringDragged(off, high!, { radius: 10, height: 25 })).toHaveLength(2)
  const tip = { row: '1', radius: 0, height: 25 }
  expect(ringDragged([], tip, { radius: 5, height: 30 })).toMatchObject([
    { rows: [{ size: 1, lift: 5 }] },
  ])
})
