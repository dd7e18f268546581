import { describe, expect, it } from 'vitest'
import type { ExactPart } from '../exact'
import { profileCells } from '../ops'
import { cellAt, cellRef } from '../profile'
import type { Op } from '../workpiece'
import { circles, outline, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { base, block, bodiesOf, built, diagnosis, face, piece } from './exactroute.test-data'

const volumesOf = (bodies: Awaited<ReturnType<typeof bodiesOf>>) =>
  Object.fromEntries(
    Object.entries(bodies).map(([id, b]) => [id, (b.shape as ExactPart).measure.volume]),
  )
const split = (inputs: object) => op(90, 'split', 'parts', { body: 'block', ...inputs })
const open = (id: string, points: [number, number][]): Op => {
  const closed = outline(40, id, 'top', points)
  const drawing = closed.inputs.drawing as { entities: unknown[] }
  drawing.entities.pop()
  return { ...closed, inputs: { ...closed.inputs, use: 'open' } }
}

describe('split, along what is drawn', () => {
  const rings = circles(30, 'rings', 'top', [
    [15, 20, 6],
    [45, 20, 8],
  ])
  it('what lies in an outline is one part or one each; the parts make up the whole', async () => {
    const together = volumesOf(
      await bodiesOf([base, block, rings, split({ how: 'tools', profiles: ['rings'] })]),
    )
    const [six, eight] = [Math.PI * 36 * 20, Math.PI * 64 * 20]
    expect(together['parts-1']).toBeCloseTo(six + eight, 4)
    expect(together.block).toBeCloseTo(48000 - six - eight, 4)
    const each = volumesOf(
      await bodiesOf([
        base,
        block,
        rings,
        split({ how: 'tools', profiles: ['rings'], parts: 'each' }),
      ]),
    )
    expect(Object.keys(each)).toEqual(['block', 'parts-1-1', 'parts-1-2'])
    expect(each['parts-1-1']).toBeCloseTo(six, 4)
    expect(each['parts-1-2']).toBeCloseTo(eight, 4)
  })
  it('to a depth behind the plane, from a face of the body itself', async () => {
    const first = await bodiesOf([base, block])
    const lid = op(40, 'plane', 'lid', {
      how: 'offset',
      body: 'block',
      faces: [face(first.block!.shape as ExactPart, 'block:end')],
      offset: 0,
    })
    const words = op(50, 'text', 'words', { plane: 'lid', words: 'SALT', height: 9, x: 30, y: 20 })
    const bodies = await bodiesOf([
      base,
      block,
      lid,
      words,
      split({ how: 'tools', profiles: ['words'], reach: 'deep', deep: 1.5 }),
    ])
    const v = volumesOf(bodies)
    expect(v.block! + v['parts-1']!).toBeCloseTo(48000, 4)
    const part = bodies['parts-1']!.shape as ExactPart
    expect(part.measure.solids).toBe(4)
    expect([part.measure.bounds.min[2], part.measure.bounds.max[2]]).toEqual([
      expect.closeTo(18.5, 5),
      expect.closeTo(20, 5),
    ])
  })
  it('several profiles and bodies at once; what two of them share goes to the first', async () => {
    const more = circles(40, 'more', 'top', [[50, 20, 8]])
    const pin = rectangle(50, 'pinflat', 'top', [0, 0], [4, 4])
    const rod = op(60, 'extrude', 'pin', { profile: 'pinflat', mode: 'new', length: 30 })
    const v = volumesOf(
      await bodiesOf([
        base,
        block,
        rings,
        more,
        pin,
        rod,
        split({ how: 'tools', profiles: ['rings', 'more'], tools: ['pin'] }),
      ]),
    )
    expect(Object.keys(v)).toEqual(['block', 'parts-1', 'parts-2', 'parts-3'])
    expect(v['parts-3']).toBeCloseTo(16 * 20, 4)
    // Two circles of radius 8, 5 apart: the lens is 2 r² acos(d / 2r) − d/2 √(4r² − d²).
    const lens = 2 * 64 * Math.acos(5 / 16) - 2.5 * Math.sqrt(256 - 25)
    expect(v['parts-2']).toBeCloseTo((Math.PI * 64 - lens) * 20, 3)
    expect(Object.values(v).reduce((a, b) => a + b)).toBeCloseTo(48000, 3)
  })
  it('an open curve parts it right through: left of the curve as drawn goes on as the body', async () => {
    const zigzag = open('zig', [
      [20, -5],
      [20, 15],
      [30, 25],
      [30, 50],
    ])
    const v = volumesOf(
      await bodiesOf([base, block, zigzag, split({ how: 'tools', profiles: ['zig'] })]),
    )
    // Left of it: 20 x 15 and 30 x 15 and the trapezium between.
    const left = (20 * 15 + 25 * 10 + 30 * 15) * 20
    expect(v.block).toBeCloseTo(left, 4)
    expect(v['parts-s1']).toBeCloseTo(48000 - left, 4)
  })
  it('a curve that ends inside, tools that miss and nothing chosen are said', async () => {
    const short = open('short', [
      [20, -5],
      [20, 15],
      [22, 18],
    ])
    const d = await diagnosis([base, block, short, split({ how: 'tools', profiles: ['short'] })])
    expect(d.code).toBe('misses')
    expect((await diagnosis([base, block, split({ how: 'tools' })])).code).toBe('no-tools')
    const away = circles(40, 'away', 'top', [[500, 0, 3]])
    const { reports } = await built(
      piece([base, block, away, split({ how: 'tools', profiles: ['away'] })]),
    )
    expect(reports[3]!.diagnoses[0]!.code).toBe('left-nothing')
    const all = rectangle(40, 'all', 'top', [-5, -5], [90, 90])
    expect(
      (await diagnosis([base, block, all, split({ how: 'tools', profiles: ['all'] })])).code,
    ).toBe('nothing-left')
  })
  it('at several planes at once, and into loose pieces', async () => {
    const planes = [5, 12].map((offset, i) =>
      op(40 + i, 'plane', `p${i}`, { how: 'offset', from: 'top', offset }),
    )
    const parts = volumesOf(
      await bodiesOf([base, block, ...planes, split({ how: 'plane', plane: 'p0', also: ['p1'] })]),
    )
    expect(Object.values(parts).map((v) => Math.round(v))).toEqual([12000, 16800, 19200])
    const two = rectangle(10, 'flat', 'top', [0, 0], [10, 10])
    const copies = op(80, 'pattern', 'row', { body: 'block', count: 3, pitch: 15 })
    const loose = volumesOf(await bodiesOf([two, block, copies, split({ how: 'loose' })]))
    expect(Object.keys(loose)).toEqual(['block', 'parts', 'parts-2'])
    expect(Object.values(loose).every((v) => Math.abs(v - 2000) < 1e-6)).toBe(true)
    expect((await diagnosis([two, block, split({ how: 'loose' })])).code).toBe('in-one-piece')
  })
})

describe('text on a face', () => {
  const puck = [
    circles(10, 'flat', 'top', [[0, 0, 30]]),
    op(20, 'extrude', 'puck', { profile: 'flat', mode: 'new', length: 8 }),
    op(30, 'plane', 'lid', { how: 'offset', from: 'top', offset: 8 }),
  ]
  it('stays clear of its edge by a margin, or says where it does not', async () => {
    const lid = face((await bodiesOf(puck)).puck!.shape as ExactPart, 'puck:end')
    const words = (more: object) =>
      op(40, 'text', 'words', {
        plane: 'lid',
        words: 'H',
        height: 10,
        body: 'puck',
        faces: [lid],
        ...more,
      })
    const near = async (x: number) => {
      const { reports } = await built(piece([...puck, words({ x, margin: 2 })]))
      return reports[3]!
    }
    expect((await near(0)).status).toBe('ok')
    // The H of this font ends so far right of its middle; its upper corner is the nearest to the rim.
    const d = (await near(23)).diagnoses[0]!
    expect(d.code).toBe('too-near')
    const [x, y] = d.places[0]!.at as unknown as [number, number]
    expect(Number(/within ([\d.]+) mm/.exec(d.message)?.[1])).toBeCloseTo(30 - Math.hypot(x, y), 3)
    expect((await near(28)).diagnoses[0]!.code).toBe('over-edge')
    const off = await built(piece([...puck, words({ plane: 'top' })]))
    expect(off.reports[3]!.diagnoses[0]!.code).toBe('not-on-face')
  })
  it.each([
    [{ words: '  ' }, 'no-words'],
    [{ height: 0 }, 'height'],
    [{ height: -3 }, 'height'],
    [{ words: 'A漢' }, 'no-letter'],
    [{ along: 'arc', radius: 0 }, 'radius'],
    [{ along: 'arc', radius: 2, words: 'MUCH TOO LONG' }, 'too-long'],
    [{ spacing: -4, words: 'HHH' }, 'crowded'],
    [{ plane: 'gone' }, 'no-plane'],
  ])('refuses in a sentence: %j', async (more, code) => {
    const d = await diagnosis([
      op(40, 'text', 'words', { plane: 'top', words: 'H', height: 10, ...more }),
    ])
    expect(d.code).toBe(code)
    expect(d.message).toMatch(/[.!]$/)
  })
  it('names strokes that are too thin', async () => {
    const { reports } = await built(
      piece([op(40, 'text', 'words', { plane: 'top', words: 'el', font: 'sans', height: 2 })]),
    )
    expect(reports[0]!.diagnoses[0]!.code).toBe('thin-stroke')
    expect(reports[0]!.diagnoses[0]!.places.length).toBeGreaterThan(0)
  })
})

describe('split, by chosen areas and along faces', () => {
  const rings2 = circles(30, 'pair', 'top', [
    [25, 20, 10],
    [35, 20, 10],
  ])
  // They cross, which is meant here.
  const pair = { ...rings2, inputs: { ...rings2.inputs, use: 'open' } }
  it('each chosen area is a part of its own, in the order they were chosen', async () => {
    const first = await built(piece([base, block, pair]))
    const cells = profileCells(first.state.profiles.pair!.shape)
    const ref = (x: number) => cellRef(cellAt(cells, [x, 20])!)
    // Two circles of radius R a distance d apart share 2 R2 acos(d / 2R) - d/2 sqrt(4 R2 - d2).
    const lens = 200 * Math.acos(0.5) - 5 * Math.sqrt(300)
    const v = volumesOf(
      await bodiesOf([
        base,
        block,
        pair,
        split({ how: 'tools', profiles: ['pair'], areas: [ref(30), ref(18)] }),
      ]),
    )
    expect(v['parts-1']).toBeCloseTo(lens * 20, 4)
    expect(v['parts-2']).toBeCloseTo((100 * Math.PI - lens) * 20, 4)
    expect(v.block).toBeCloseTo(48000 - 100 * Math.PI * 20, 4)
  })
  const sill = rectangle(40, 'sill', 'top', [-10, -10], [80, 60])
  const low = op(50, 'extrude', 'low', { profile: 'sill', mode: 'new', length: 7 })
  it('a flat face parts on all of its plane, of whatever body it is', async () => {
    const first = await bodiesOf([base, block, sill, low])
    const top = face(first.low!.shape as ExactPart, 'low:end')
    const v = volumesOf(
      await bodiesOf([
        base,
        block,
        sill,
        low,
        split({ how: 'faces', holder: 'low', faces: [top] }),
      ]),
    )
    expect(v.block).toBeCloseTo(2400 * 7, 4)
    expect(v.parts).toBeCloseTo(2400 * 13, 4)
  })
  it('a round one as far as it goes; what lies behind it comes first; one that ends inside is refused', async () => {
    const rod = circles(40, 'rod', 'front', [[0, 10, 25]])
    const log = (length: number) =>
      op(50, 'extrude', 'log', { profile: 'rod', mode: 'new', side: 'alike', length })
    const along = async (length: number) => {
      const first = await bodiesOf([base, block, rod, log(length)])
      const round = face(first.log!.shape as ExactPart, 'log:ring1')
      return [base, block, rod, log(length), split({ how: 'faces', holder: 'log', faces: [round] })]
    }
    const v = volumesOf(await bodiesOf(await along(120)))
    // Of a circle of radius R, between x = 0 and where it ends, and 10 either side of its middle.
    const half = 10 * Math.sqrt(525) + 625 * Math.asin(10 / 25)
    expect(v.block).toBeCloseTo(half * 40, 3)
    expect(v.parts).toBeCloseTo(48000 - half * 40, 3)
    expect((await diagnosis(await along(15))).message).toMatch(
      /do not go right through|ends inside/,
    )
  })
})
