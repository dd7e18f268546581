import { describe, expect, it } from 'vitest'
import type { ExactPart } from '../exact'
import { circles, outline, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { base, block, bodiesOf, built, diagnosis, exact, face, piece } from './exactroute.test-data'

const box = (p: ExactPart) => p.measure.bounds
const shapeOf = async (route: Parameters<typeof bodiesOf>[0], id: string) =>
  (await bodiesOf(route))[id]!.shape as ExactPart

/** A wedge-shaped lid off to one side, and a peg. */
const lid = [
  outline(30, 'tri', 'front', [
    [100, 5],
    [130, 5],
    [100, 25],
  ]),
  op(35, 'extrude', 'lid', { profile: 'tri', mode: 'new', length: 12 }),
]
const peg = [
  circles(40, 'dot', 'side', [[70, 30, 4]]),
  op(45, 'extrude', 'peg', { profile: 'dot', mode: 'new', length: 50 }),
]

describe('one body set onto another', () => {
  it('face to face, with a gap, middle to middle', async () => {
    const there = await exact([base, block], 'block')
    const own = await exact(lid, 'lid')
    const align = (more: object) =>
      op(50, 'align', 'set', {
        body: 'lid',
        face: [face(own, 'lid:side2')],
        onto: 'block',
        to: [face(there, 'block:end')],
        ...more,
      })
    const p = await shapeOf([base, block, ...lid, align({ gap: 1.5 })], 'lid')
    expect(box(p).min[2]).toBeCloseTo(21.5, 5)
    const slant = p.faces.find((f) => f.names.includes('lid:side2'))!
    expect(slant.normal[2]).toBeCloseTo(-1, 9)
    const mid = await shapeOf([base, block, ...lid, align({ middle: 'yes', turn: 30 })], 'lid')
    expect(mid.measure.volume).toBeCloseTo(p.measure.volume, 6)
    const sole = mid.faces.find((f) => f.names.includes('lid:side2'))!
    const middle = sole.flat!.origin
    expect(middle[2]).toBeCloseTo(20, 6)
    // The rectangle that touches has its middle over the block's.
    const corners = mid.vertices.filter((v) => Math.abs(v.at[2] - 20) < 1e-5)
    expect(corners.length).toBe(4)
    for (const [k, want] of [30, 20].entries())
      expect(corners.reduce((s, v) => s + v.at[k]!, 0) / 4).toBeCloseTo(want, 4)
    const flush = await shapeOf([base, block, ...lid, align({ facing: 'flush' })], 'lid')
    expect(box(flush).max[2]).toBeCloseTo(20, 5)
  })
  it('follows when the other grows', async () => {
    const there = await exact([base, block], 'block')
    const own = await exact(lid, 'lid')
    const taller = { ...block, inputs: { ...block.inputs, length: 33 } }
    const set = op(50, 'align', 'set', {
      body: 'lid',
      face: [face(own, 'lid:side2')],
      onto: 'block',
      to: [face(there, 'block:end')],
    })
    expect(box(await shapeOf([base, taller, ...lid, set], 'lid')).min[2]).toBeCloseTo(33, 5)
  })
  it('axis to axis: a peg into a hole', async () => {
    const hole = [
      circles(22, 'bore', 'top', [[20, 15, 4.2]]),
      op(24, 'extrude', 'drill', { profile: 'bore', mode: 'cut', body: 'block', to: 'through' }),
    ]
    const there = await exact([base, block, ...hole], 'block')
    const own = await exact(peg, 'peg')
    const set = op(50, 'align', 'set', {
      body: 'peg',
      how: 'axes',
      face: [face(own, 'peg:ring1')],
      onto: 'block',
      to: [face(there, 'drill:ring1')],
    })
    const p = await shapeOf([base, block, ...hole, ...peg, set], 'peg')
    const { round } = p.faces.find((f) => f.names.includes('peg:ring1'))!
    expect(Math.abs(round!.dir[2])).toBeCloseTo(1, 9)
    expect(round!.origin[0]).toBeCloseTo(20, 6)
    expect(round!.origin[1]).toBeCloseTo(15, 6)
  })
  it('point to point; what lacks a face or has the wrong one is refused in a sentence', async () => {
    const shift = op(50, 'align', 'set', {
      body: 'lid',
      how: 'points',
      from: { x: 100, y: 0, z: 5 },
      at: { x: 0, y: 0, z: 20 },
    })
    const p = await shapeOf([base, block, ...lid, shift], 'lid')
    expect(box(p).min[0]).toBeCloseTo(0, 5)
    expect(box(p).min[2]).toBeCloseTo(20, 5)
    const none = op(50, 'align', 'set', { body: 'lid', onto: 'block' })
    expect((await diagnosis([base, block, ...lid, none])).message).toMatch(/Choose a face on each/)
    const own = await exact(peg, 'peg')
    const round = op(50, 'align', 'set', {
      body: 'peg',
      face: [face(own, 'peg:ring1')],
      onto: 'block',
      to: [],
    })
    expect((await diagnosis([base, block, ...peg, round])).code).toBe('not-flat')
  })
})

describe('larger by a factor each way', () => {
  it('as triangles, to the product of the factors', async () => {
    const more = op(50, 'move', 'shrink', {
      body: 'block',
      how: 'stretch',
      sx: 1.01,
      sy: 1.02,
      sz: 0.5,
    })
    const p = await shapeOf([base, block, more], 'block')
    expect(p.kind).toBe('mesh')
    expect([p.measure.closed, p.measure.solids]).toEqual([true, 1])
    expect(p.measure.volume).toBeCloseTo(48000 * 1.01 * 1.02 * 0.5, 0)
    expect(box(p).max[0]).toBeCloseTo(60.6, 4)
  })
})

describe('patterns by gap, along lines, all over areas', () => {
  const small = [
    rectangle(10, 'flat', 'top', [0, 0], [6, 4]),
    op(20, 'extrude', 'bit', { profile: 'flat', mode: 'new', length: 2 }),
  ]
  const line = async (more: object, route = small) => {
    const { state, reports } = await built(
      piece([...route, op(90, 'pattern', 'all', { body: 'bit', ...more })]),
    )
    const report = reports[reports.length - 1]!
    expect(report.diagnoses.map((d) => d.message)).toEqual([])
    return { p: state.bodies.bit!.shape as ExactPart, says: report.consequence }
  }
  it('a gap is the least distance measured: of leaning strips it is not that along the row', async () => {
    const plain = await line({ how: 'row', count: 4, space: 'gap', gap: 1.5 })
    expect(box(plain.p).max[0]).toBeCloseTo(4 * 6 + 3 * 1.5, 3)
    expect(plain.says).toMatch(/4, apart from each other, gap 1\.5 mm/)
    // A strip that leans by 45 deg, 10 wide along the row: square to itself 10 / sqrt 2.
    const lean = [
      outline(10, 'flat', 'top', [
        [0, 0],
        [10, 0],
        [60, 50],
        [50, 50],
      ]),
      op(20, 'extrude', 'bit', { profile: 'flat', mode: 'new', length: 2 }),
    ]
    const { p } = await line({ how: 'row', count: 2, space: 'gap', gap: 2 }, lean)
    expect(box(p).max[0]).toBeCloseTo(60 + 10 + 2 * Math.SQRT2, 3)
    const touching = await line({ how: 'row', count: 3, space: 'gap', gap: 0 })
    expect(box(touching.p).max[0]).toBeCloseTo(18, 3)
  })
  it('along an arc, turned with it: each stands to the arc as the first does', async () => {
    const bow = op(30, 'profile', 'bow', {
      plane: 'top',
      use: 'open',
      drawing: {
        points: {
          a: { x: 0, y: 0 },
          m: { x: 40 * Math.SQRT1_2, y: 40 - 40 * Math.SQRT1_2 },
          b: { x: 40, y: 40 },
        },
        entities: [{ id: 'arc1', kind: 'arc', a: 'a', via: 'm', b: 'b' }],
      },
    })
    const { state } = await built(piece([bow]))
    const curve = state.profiles.bow?.shape.drawn[0]?.curve
    if (curve?.kind !== 'arc') throw new Error('no arc drawn')
    const { p } = await line({ how: 'curve', path: 'bow', count: 5, space: 'even' }, [
      ...small,
      bow,
    ])
    expect(p.measure.solids).toBe(5)
    // Corners of the first lie at the same distances from the arc's middle as those of the others.
    const far = p.vertices
      .filter((v) => v.at[2] < 1)
      .map((v) => Math.hypot(v.at[0] - curve.c[0], v.at[1] - curve.c[1]))
    const kinds = new Set(far.map((d) => d.toFixed(3)))
    expect(kinds.size).toBeLessThanOrEqual(4)
    const all = await line({ how: 'curve', path: 'bow', count: 5, space: 'even', follow: 'no' }, [
      ...small,
      bow,
    ])
    expect(new Set(all.p.vertices.map((v) => v.at[1].toFixed(2))).size).toBeGreaterThan(8)
  })
  it('round an outline, evenly; too long a row is refused', async () => {
    const ring = circles(30, 'rim', 'top', [[-30, 0, 30]])
    const { p } = await line({ how: 'curve', path: 'rim', count: 8, space: 'even' }, [
      ...small,
      ring,
    ])
    expect(p.measure.solids).toBe(8)
    const long = await diagnosis([
      ...small,
      ring,
      op(90, 'pattern', 'all', {
        body: 'bit',
        how: 'curve',
        path: 'rim',
        count: 8,
        space: 'pitch',
        pitch: 60,
      }),
    ])
    expect(long.code).toBe('too-long')
  })
  it('all over an area: whole pieces only, counted by hand', async () => {
    const plate = rectangle(30, 'plate', 'top', [100, 100], [50, 30])
    // The circle about a 6 x 4 piece is 7.211 across: at a pitch of 10 in rows 5 x 3 fit with 1.39 to spare.
    const grid = { how: 'field', field: 'plate', layout: 'square', pitch: 10 }
    const five = await line(grid, [...small, plate])
    expect(five.p.measure.solids).toBe(5 * 3)
    expect(box(five.p).min[0]).toBeCloseTo(102, 4)
    expect((await line({ ...grid, margin: 1.3 }, [...small, plate])).p.measure.solids).toBe(15)
    expect((await line({ ...grid, margin: 1.5 }, [...small, plate])).p.measure.solids).toBe(3)
    const dense = await diagnosis([
      ...small,
      plate,
      op(90, 'pattern', 'all', { body: 'bit', ...grid, pitch: 0.1 }),
    ])
    expect(dense.code).toBe('too-many')
  })
})
