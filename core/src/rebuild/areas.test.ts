import { describe, expect, it } from 'vitest'
import { profileCells } from '../ops'
import { cellAt, cellRef } from '../profile'
import type { Op } from '../workpiece'
import { circles } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { rebuild } from '.'
import { built, diagnosis, piece, volume } from './exactroute.test-data'

const R = 10
const lens = 2 * R * R * Math.acos(0.5) - (R / 2) * Math.sqrt(3) * R
const two = (x = R): Op => {
  const made = circles(10, 'flat', 'top', [
    [0, 0, R],
    [x, 0, R],
  ])
  return { ...made, inputs: { ...made.inputs, use: 'open' } }
}
/** The cell of the two circles at a place, as an op stores it. */
const cell = (x: number, y = 0, drawing = two()) => {
  const cells = profileCells(rebuild(piece([drawing])).state.profiles.flat!.shape)
  return cellRef(cellAt(cells, [x, y])!)
}
const out = (areas: unknown[]) =>
  op(20, 'extrude', 'body', { profile: 'flat', mode: 'new', length: 3, areas })

describe('areas chosen one by one', () => {
  it('the lens alone, a crescent alone, those beside each other as one body', async () => {
    const disc = Math.PI * R * R
    expect(await volume([two(), out([cell(5)])], 'body')).toBeCloseTo(3 * lens, 4)
    expect(await volume([two(), out([cell(-5)])], 'body')).toBeCloseTo(3 * (disc - lens), 4)
    expect(await volume([two(), out([cell(-5), cell(5)])], 'body')).toBeCloseTo(3 * disc, 4)
    expect(await volume([two(), out([cell(-5), cell(5), cell(15)])], 'body')).toBeCloseTo(
      3 * (2 * disc - lens),
      4,
    )
  })
  it('follow the drawing; what is gone stops the op, what is only alike is said', async () => {
    const further = 12
    const d = 2 * R * R * Math.acos(0.6) - 6 * Math.sqrt(4 * R * R - 144)
    expect(await volume([two(further), out([cell(5)])], 'body')).toBeCloseTo(3 * d, 4)
    const gone = await diagnosis([circles(10, 'flat', 'top', [[90, 0, 3]]), out([cell(5)])])
    expect(gone.code).toBe('lost-area')
    expect(gone.fixes[0]!.inputs).toEqual({ areas: [] })
    // Far apart no cell has both circles for its outline: the place decides, and says so.
    const { reports } = await built(piece([two(18), out([cell(-5)])]))
    expect(reports[1]!.status).toBe('ok')
    const apart = await built(piece([two(50), out([cell(-5)])]))
    expect(apart.reports[1]!.diagnoses.map((x) => x.code)).toEqual(['likeness'])
  })
})
