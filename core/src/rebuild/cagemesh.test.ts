import { beforeAll, describe, expect, test } from 'vitest'
import type { ExactPart } from '../exact'
import { op } from '../workpiece/samples.test-data'
import { RebuildCache, rebuild } from '.'
import { bodiesOf, built, diagnosis, piece, the } from './exactroute.test-data'

beforeAll(the)

const cage = (start: object, more: object = {}) =>
  op(10, 'cage', 'cage', { start, edits: [], within: 0.01, mode: 'new', as: 'triangles', ...more })
const tube = { kind: 'cylinder', radius: 20, height: 30, columns: 12, bands: 3 }
const part = async (route: Parameters<typeof bodiesOf>[0], id = 'cage') =>
  (await bodiesOf(route))[id]!.shape as ExactPart

test('while it is pushed it is drawn refined as often as asked, four for one each time, on the form', () => {
  const skin = (more: object) => {
    const w = piece([cage(tube, { as: 'exact', ...more })])
    const { status, shown } = rebuild(w, new RebuildCache(), true).reports[0]!
    expect(status).toBe('waits')
    return shown!.skin!
  }
  for (const [seen, of] of [
    ['1', 4],
    ['2', 16],
    ['3', 64],
    ['4', 256],
    ['auto', 64],
  ] as const)
    expect(skin({ seen }).triangles.length / 3).toBe(2 * of * 12 * 3)
  // Its places are places of the limit however often: a tube of 12 columns, its rows as round as one another.
  for (const { positions } of [skin({ seen: '1' }), skin({ seen: '4' })]) {
    const r = Array.from({ length: positions.length / 3 }, (_, i) =>
      Math.hypot(positions[3 * i]!, positions[3 * i + 1]!),
    )
    expect(Math.max(...r)).toBeLessThan(20)
    expect(Math.min(...r)).toBeGreaterThan(18)
  }
})

describe('a cage that becomes triangles', () => {
  test('a tube, open at both ends: closed by two flat faces, nearer to its exact body each time it is refined', async () => {
    const whole = (await part([cage(tube, { as: 'exact' })])).measure.volume
    let before = Number.POSITIVE_INFINITY
    for (const level of ['1', '2', '3', '4']) {
      const { kind, measure, faces } = await part([cage(tube, { level })])
      expect([kind, measure.closed, faces.length]).toEqual(['mesh', true, 3])
      const off = Math.abs(measure.volume / whole - 1)
      // A polygon lies off its circle by the square of its sides.
      expect(off).toBeLessThan(before / 3)
      before = off
    }
    expect(before).toBeLessThan(2e-3)
  })
  test('creases part its faces, which bear the names of the cage', async () => {
    const box = { kind: 'box', sx: 30, sy: 20, sz: 10, across: 2, along: 2, up: 2 }
    const rim = ['0.0.2~1.0.2', '1.0.2~2.0.2', '2.0.2~2.1.2', '2.1.2~2.2.2']
    const all = [...rim, '2.2.2~1.2.2', '1.2.2~0.2.2', '0.2.2~0.1.2', '0.1.2~0.0.2']
    const edits = [{ id: 'e1', kind: 'crease', on: all }]
    const { faces, measure } = await part([cage(box, { edits })])
    expect(measure.closed).toBe(true)
    expect(faces.map((f) => f.names[0])).toEqual(
      expect.arrayContaining([expect.stringMatching(/^cage:top/)]),
    )
    expect(faces).toHaveLength(2)
  })
  test('it is cut, joined and read like any body', async () => {
    const route = [
      cage({ kind: 'ball', sx: 40, sy: 40, sz: 40, across: 3, along: 3, up: 3 }),
      op(20, 'split', 'half', { body: 'cage', how: 'height', height: 20, keep: 'both' }),
    ]
    const bodies = await bodiesOf(route)
    const volumes = Object.values(bodies).map((b) => (b.shape as ExactPart).measure.volume)
    const all = (await part(route.slice(0, 1))).measure.volume
    expect(volumes[0]! + volumes[1]!).toBeCloseTo(all, 0)
  })
  test('more faces than an exact body takes; too many triangles, openings in no plane and forms through themselves are told', async () => {
    const fine = { kind: 'plane', sx: 80, sy: 80, across: 46, along: 46 }
    const wall = [{ id: 'e1', kind: 'thicken', by: 2 }]
    expect((await diagnosis([cage(fine, { as: 'exact', edits: wall })])).message).toContain(
      'triangles',
    )
    const made = await part([cage(fine, { level: '1', edits: wall })])
    expect(made.measure.volume).toBeCloseTo(80 * 80 * 2, 0)
    expect((await diagnosis([cage(fine, { level: '4', edits: wall })])).message).toContain(
      'up to 400000',
    )
    const bent = [{ id: 'e1', kind: 'move', on: ['3.0'], z: 9 }]
    expect((await diagnosis([cage(tube, { edits: bent })])).code).toBe('cage-open')
    const turned = [{ id: 'e1', kind: 'size', on: ['row 1'], sx: -1.2, sy: -1.2 }]
    expect((await diagnosis([cage(tube, { edits: turned })])).code).toBe('crosses-itself')
  })
  test('an edit changes it; the same again costs nothing', async () => {
    const w = piece([cage(tube)])
    const first = (await built(w)).state.bodies.cage!.shape as ExactPart
    const again = (await built(structuredClone(w))).state.bodies.cage!.shape as ExactPart
    expect(again.key).toBe(first.key)
    const edits = [{ id: 'e1', kind: 'size', on: ['row 2'], sx: 1.1, sy: 1.1 }]
    expect((await part([cage(tube, { edits })])).measure.volume).toBeGreaterThan(
      first.measure.volume,
    )
  })
})
