import { beforeAll, describe, expect, test } from 'vitest'
import { op } from '../workpiece/samples.test-data'
import { cageCures } from '.'
import { built, piece, the } from './exactroute.test-data'

beforeAll(the)

const tube = { kind: 'cylinder', radius: 40, height: 98, columns: 14, bands: 7 }
const curesOf = async (edits: object[], more: object = {}) => {
  const w = piece([
    op(10, 'cage', 'cage', {
      start: tube,
      edits: edits.map((e, k) => ({ id: `e${k + 1}`, ...e })),
      as: 'triangles',
      mode: 'new',
      ...more,
    }),
  ])
  const found = cageCures(w, await built(w), 'cage')
  if (typeof found === 'string') throw new Error(found)
  return found.cures
}

describe('cures of a cage as edits', () => {
  test.each([
    [
      { kind: 'turn', on: ['row 3'], angle: 12, about: 'own' },
      /^Row 3 is turned 11\.\d° against what is beside it: turn it back$/,
    ],
    [
      { kind: 'size', on: ['row 4'], sx: 1.1, sy: 1.1, about: 'own' },
      /^Row 4 is 10\.0 % too wide for what is beside it: size it$/,
    ],
    [
      { kind: 'move', on: ['row 2'], x: 3, y: 1 },
      /^Row 2 stands 3\.16 mm off what is round it: move it back$/,
    ],
    [
      { kind: 'turn', on: ['3.3', '3.4', '3.5'], angle: 9, about: 'axis' },
      /^Points 3\.[35] to 3\.[35] are turned 9\.0° against what is beside them: turn them back$/,
    ],
  ] as const)('what %j did is answered by one edit, and nothing is left', async (edit, words) => {
    const [first] = await curesOf([edit])
    expect(first!.words).toMatch(words)
    expect(await curesOf([edit, first!.edit])).toEqual([])
  })

  test('a point pulled on all copies of a symmetric cage is put back on all', async () => {
    const edit = { kind: 'move', on: ['3.3'], out: 3 }
    const more = { turns: 2 }
    const [first] = await curesOf([edit], more)
    expect(first!.words).toMatch(/^Point 3\.(3|10) stands \d\.\d+ mm off what is round it/)
    expect(await curesOf([edit, first!.edit], more)).toEqual([])
  })
})
