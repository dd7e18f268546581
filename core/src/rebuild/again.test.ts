import { describe, expect, it } from 'vitest'
import type { ExactPart } from '../exact'
import { circles, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { base, block, built, edge, exact, piece, volume } from './exactroute.test-data'

/** A hole Ø6 through the block at 10, 20, and a boss Ø8 x 3 on its top at 30, 20. */
const ring = circles(30, 'ring', 'top', [[10, 20, 3]])
const hole = op(40, 'extrude', 'hole', {
  profile: 'ring',
  mode: 'cut',
  body: 'block',
  to: 'through',
})
const disc = circles(50, 'disc', 'top', [[10, 30, 4]])
const boss = op(60, 'extrude', 'boss', {
  profile: 'disc',
  mode: 'join',
  body: 'block',
  offset: 20,
  length: 3,
})
const again = (inputs: object) =>
  op(90, 'pattern', 'again', { what: 'ops', body: 'block', ...inputs })
const [HOLE, BOSS] = [Math.PI * 9 * 20, Math.PI * 16 * 3]

describe('ops done again (volumes by closed forms)', () => {
  it('a cut and a boss in a row; counted with the first', async () => {
    const route = [base, block, ring, hole, disc, boss]
    const row = { ops: ['hole', 'boss'], how: 'row', count: 4, pitch: 12 }
    expect(await volume([...route, again(row)], 'block')).toBeCloseTo(
      48000 - 4 * HOLE + 4 * BOSS,
      4,
    )
  })
  it('follows the op: its radius changes at every place', async () => {
    const wide = circles(30, 'ring', 'top', [[10, 20, 4]])
    const row = { ops: ['hole'], how: 'row', count: 3, pitch: 15 }
    expect(await volume([base, block, wide, hole, again(row)], 'block')).toBeCloseTo(
      48000 - 3 * Math.PI * 16 * 20,
      4,
    )
  })
  it('copies that leave nothing are a failure with their places, and the rest stands', async () => {
    const { reports, state } = await built(
      piece([base, block, ring, hole, again({ ops: ['hole'], how: 'row', count: 5, pitch: 15 })]),
    )
    const last = reports.at(-1)!
    expect(last.status).toBe('fail')
    expect(last.diagnoses[0]!.message).toContain('1 of 4 copies leaves nothing in block')
    expect(last.diagnoses[0]!.places).toEqual([
      { at: [expect.closeTo(70), expect.closeTo(20), expect.closeTo(11.5)] },
    ])
    expect((state.bodies.block!.shape as ExactPart).measure.volume).toBeCloseTo(48000 - 4 * HOLE, 4)
  })
  it('on the other side of a plane, and again what was mirrored', async () => {
    const middle = op(70, 'plane', 'middle', { how: 'offset', from: 'side', offset: 30 })
    const over = op(80, 'mirror', 'over', {
      what: 'ops',
      body: 'block',
      ops: ['hole'],
      plane: 'middle',
    })
    const route = [base, block, ring, hole, middle, over]
    expect(await volume(route, 'block')).toBeCloseTo(48000 - 2 * HOLE, 4)
    const more = again({ ops: ['over', 'hole'], how: 'row', along: 'y', count: 2, pitch: 12 })
    expect(await volume([...route, more], 'block')).toBeCloseTo(48000 - 4 * HOLE, 4)
  })
  it('the rims of all of them are alike, and rounded by one pick', async () => {
    const row = { ops: ['hole'], how: 'row', count: 3, pitch: 15 }
    const route = [base, block, ring, hole, again(row)]
    const rim = edge(await exact(route, 'block'), 'hole:ring1', 'block:end')
    const round = op(99, 'fillet', 'round', {
      body: 'block',
      edges: [rim],
      radius: 0.5,
      alike: 'yes',
    })
    const before = await volume(route, 'block')
    const after = await volume([...route, round], 'block')
    const one = await volume([base, block, ring, hole, round], 'block')
    expect(before - after).toBeCloseTo(3 * (48000 - HOLE - one), 4)
  })
  it('a cut made in the half-section is lifted where it is done again', async () => {
    const puck = rectangle(10, 'half', 'front', [0, 0], [20, 10])
    const turn = op(20, 'revolve', 'puck', { profile: 'half', mode: 'new' })
    const pin = rectangle(30, 'pin', 'front', [0, 4], [3, 10])
    const bore = op(40, 'revolve', 'bore', { profile: 'pin', mode: 'cut', body: 'puck' })
    const row = { body: 'puck', ops: ['bore'], how: 'row', count: 2, pitch: 9 }
    expect(await volume([puck, turn, pin, bore, again(row)], 'puck')).toBeCloseTo(
      Math.PI * (400 * 10 - 2 * 9 * 6),
      4,
    )
  })
  it('says what cannot be done again', async () => {
    const say = async (inputs: object, more = [] as ReturnType<typeof op>[]) => {
      const { reports } = await built(piece([base, block, ring, hole, ...more, again(inputs)]))
      return reports.at(-1)!.diagnoses[0]!.message
    }
    expect(await say({ ops: [] })).toBe('Choose the ops that are done again.')
    expect(await say({ ops: ['block'] })).toContain('neither adds to a body nor takes from it')
    const other = rectangle(60, 'far', 'top', [100, 0], [20, 20])
    const second = op(70, 'extrude', 'second', { profile: 'far', mode: 'new', length: 5 })
    expect(
      await say({ ops: ['hole'], body: 'second', how: 'row', count: 2, pitch: 5 }, [other, second]),
    ).toBe('The op "hole" works on another body: "block".')
  })
})
