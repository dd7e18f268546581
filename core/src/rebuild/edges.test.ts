import { describe, expect, it } from 'vitest'
import { fullRadius, plainName } from '../exact'
import { circles, outline, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import {
  base,
  block,
  bodiesOf,
  built,
  diagnosis,
  edge,
  exact,
  face,
  piece,
  volume,
} from './exactroute.test-data'

/** What a round of radius r takes off a straight edge of a right angle, mm3 (closed form). */
const taken = (r: number, length: number) => (r * r - (Math.PI * r * r) / 4) * length

describe('which edges, and how much of each', () => {
  it('edges with radii of their own in one op', async () => {
    const p = await exact([base, block], 'block')
    const round = op(30, 'fillet', 'round', {
      body: 'block',
      edges: [
        edge(p, 'block:side1', 'block:side2'),
        { ...edge(p, 'block:side3', 'block:side4'), size: 'big' },
      ],
      radius: 5,
    })
    const { state } = await built(piece([base, block, round], [{ name: 'big', expr: '8 mm' }]))
    const now = state.bodies.block!.shape
    if (now.kind !== 'exact') throw new Error('not exact')
    expect(now.measure.volume).toBeCloseTo(48000 - taken(5, 20) - taken(8, 20), 5)
  })
  it('a radius that changes along an edge', async () => {
    const p = await exact([base, block], 'block')
    const route = (until: number) => [
      base,
      block,
      op(30, 'fillet', 'round', {
        body: 'block',
        edges: [{ ...edge(p, 'block:side1', 'block:side2'), size: 4, until }],
        radius: 5,
      }),
    ]
    // A radius that grows evenly: the mean of r^2 along the edge is (a^2 + a b + b^2) / 3.
    const mean = (4 * 4 + 4 * 7 + 7 * 7) / 3
    const off = 48000 - (await volume(route(7), 'block'))
    // A ball that grows as it rolls touches a little ahead of itself: not the same to the last per cent.
    expect(Math.abs(off / ((1 - Math.PI / 4) * mean * 20) - 1)).toBeLessThan(0.01)
    expect(await volume(route(4), 'block')).toBeCloseTo(48000 - taken(4, 20), 4)
  })
  it('all edges round a face, as many as it has', async () => {
    const block20 = await exact([base, block], 'block')
    const round = op(30, 'chamfer', 'bevel', {
      body: 'block',
      edges: [],
      round: [face(block20, 'block:end')],
      distance: 2,
    })
    // The top 2 mm: a frustum of 60 x 40 on 56 x 36 (prismatoid).
    const top = (2 / 6) * (60 * 40 + 4 * 58 * 38 + 56 * 36)
    expect(await volume([base, block, round], 'block')).toBeCloseTo(2400 * 18 + top, 5)
  })
  it('the same edge of every copy, however many there are', async () => {
    const peg = circles(30, 'dot', 'top', [[8, 8, 3]])
    const route = (count: number, alike: 'no' | 'yes') => [
      base,
      block,
      peg,
      op(40, 'extrude', 'peg', { profile: 'dot', mode: 'new', length: 30 }),
      op(50, 'pattern', 'row', { body: 'peg', how: 'row', along: 'x', count, pitch: 10 }),
      op(60, 'combine', 'all', { body: 'block', tools: ['peg'], how: 'join' }),
      ...(alike
        ? [op(70, 'fillet', 'round', { body: 'block', edges: edges(), radius: 1, alike })]
        : []),
    ]
    let found: ReturnType<typeof edge>[] = []
    const edges = () => found
    const plain = route(3, 'no').slice(0, 6)
    const p = await exact(plain, 'block')
    found = [edge(p, 'peg:end', 'peg:ring1')]
    const before = async (n: number) => volume(route(n, 'no').slice(0, 6), 'block')
    // Pappus: what a round takes off the rim of a cylinder of radius 3.
    const rim = await oneRim()
    for (const n of [3, 5]) {
      expect((await before(n)) - (await volume(route(n, 'yes'), 'block'))).toBeCloseTo(n * rim, 4)
    }
    expect((await before(3)) - (await volume(route(3, 'no'), 'block'))).toBeCloseTo(rim, 4)
  })
  it('names without what says which copy they are of', () => {
    expect(plainName('o5:copy3(turn:side)')).toBe('turn:side')
    expect(plainName('r:round(o5:copy3(a:x)|o5:copy3(a:y~4))')).toBe('r:round(a:x|a:y)')
    expect(plainName('m:mirror(o5:copy3(a:round(x|y)))')).toBe('a:round(x|y)')
    expect(plainName('bumps:dimple12')).toBe('bumps:dimple')
    expect(plainName('copy:side')).toBe('copy:side')
  })
  it('an edge that fails is told what it takes, and the fix gives it that', async () => {
    const p = await exact([base, block], 'block')
    const low = rectangle(30, 'step', 'top', [60, 10], [3, 20])
    const step = op(40, 'extrude', 'ledge', {
      profile: 'step',
      mode: 'join',
      body: 'block',
      length: 2,
    })
    const joined = await exact([base, block, low, step], 'block')
    const edges = [edge(p, 'block:side3', 'block:side4'), edge(joined, 'ledge:end', 'ledge:side2')]
    const route = (list: unknown[]) => [
      base,
      block,
      low,
      step,
      op(50, 'fillet', 'round', { body: 'block', edges: list, radius: 4 }),
    ]
    const d = await diagnosis(route(edges))
    expect(d.message).toMatch(/1 of 2 edges does not take 4 mm of round; it takes 1\.\d+ mm/)
    expect(d.fixes[0]!.label).toMatch(/^Give it 1\.\d+ mm$/)
    const given = d.fixes[0]!.inputs.edges as { size?: number }[]
    expect(given[1]!.size).toBeGreaterThan(1.9)
    await bodiesOf(route(given))
  })
})

/** What a round of 1 takes off the rim of a cylinder of radius 3, mm3: 2 pi times area times centroid. */
async function oneRim(): Promise<number> {
  const area = 1 - Math.PI / 4
  // Centroid of the corner left between a quarter circle of radius 1 and its tangents: 1/6/area from the corner's far side.
  const fromCentre = (1 * 0.5 - (Math.PI / 4) * (4 / (3 * Math.PI))) / area
  return 2 * Math.PI * (2 + fromCentre) * area
}

describe('a face that becomes round from side to side', () => {
  it('of a slab: half a cylinder takes the place of the face', async () => {
    const p = await exact([base, block], 'block')
    const route = [
      base,
      block,
      op(30, 'fillet', 'nose', {
        body: 'block',
        how: 'full',
        middle: [face(p, 'block:side2')],
        edges: [],
        radius: 1,
      }),
    ]
    // side2 is 40 long and 20 high, at x = 60.
    expect(await volume(route, 'block')).toBeCloseTo(48000 - 2 * taken(10, 40), 2)
  })
  it('of a ring: the rim of a tube', async () => {
    const route = [
      circles(10, 'rings', 'top', [
        [0, 0, 20],
        [0, 0, 16],
      ]),
      op(20, 'extrude', 'tube', { profile: 'rings', mode: 'new', length: 30 }),
    ]
    const p = await exact(route, 'tube')
    const ring = p.faces.findIndex((f) => f.names.includes('tube:end'))
    const wide = fullRadius(p, ring)
    expect(wide.ok && wide.value.radius).toBeCloseTo(2, 6)
    const nose = op(30, 'fillet', 'nose', {
      body: 'tube',
      how: 'full',
      middle: [face(p, 'tube:end')],
      edges: [],
      radius: 1,
    })
    // The top 2 mm of the ring, 18 from the axis on the whole: half a circle instead of a square (Pappus).
    const want = p.measure.volume - 2 * Math.PI * 18 * (4 * 2 - (Math.PI * 4) / 2)
    expect(await volume([...route, nose], 'tube')).toBeCloseTo(want, 2)
  })
  it('between neighbours that lean, each by an angle of its own', async () => {
    const ridge = [
      outline(10, 'flat', 'front', [
        [0, 0],
        [50, 0],
        [30, 20],
        [18, 20],
      ]),
      op(20, 'extrude', 'roof', { profile: 'flat', mode: 'new', length: 35 }),
    ]
    const p = await exact(ridge, 'roof')
    const top = p.faces.find((f) => f.flat && f.normal[2] > 0.999)!
    const nose = op(30, 'fillet', 'nose', {
      body: 'roof',
      how: 'full',
      middle: [face(p, top.names[0]!)],
      edges: [],
      radius: 1,
    })
    // Tangents from the two corners to the touching circle make up the width of 12.
    const [a, b] = [Math.PI / 4, Math.atan2(20, 18)]
    const r = 12 / (Math.tan(a / 2) + Math.tan(b / 2))
    const lost = (x: number) => r * r * (Math.tan(x / 2) - x / 2)
    const whole = ((50 + 12) / 2) * 20 * 35
    expect(await volume([...ridge, nose], 'roof')).toBeCloseTo(whole - 35 * (lost(a) + lost(b)), 0)
  })
  it('refuses a face that is not as wide everywhere, and one without sides', async () => {
    const wedge = [
      rectangle(10, 'flat', 'top', [0, 0], [60, 40]),
      op(20, 'extrude', 'block', { profile: 'flat', mode: 'new', length: 20, draft: 8 }),
    ]
    const p = await exact(wedge, 'block')
    const nose = (name: string) =>
      op(30, 'fillet', 'nose', {
        body: 'block',
        how: 'full',
        middle: [face(p, name)],
        edges: [],
        radius: 1,
      })
    expect((await diagnosis([...wedge, nose('block:side2')])).code).toBe('uneven')
    const round = [
      circles(10, 'disc', 'top', [[0, 0, 20]]),
      op(20, 'extrude', 'puck', { profile: 'disc', mode: 'new', length: 30 }),
    ]
    const q = await exact(round, 'puck')
    const top = op(30, 'fillet', 'nose', {
      body: 'puck',
      how: 'full',
      middle: [face(q, 'puck:end')],
      edges: [],
      radius: 1,
    })
    expect((await diagnosis([...round, top])).code).toBe('no-sides')
  })
})
