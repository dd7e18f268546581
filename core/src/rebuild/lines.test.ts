import { describe, expect, it } from 'vitest'
import { extremaOf } from '../gauges'
import type { Op } from '../workpiece'
import { circles, outline } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { base, block, exact, gauged, piece, the } from './exactroute.test-data'
import { linesJob } from './gaugejobs'
import { inPlace } from './solids'

const ripple = async (route: Op[], body: string) => {
  const [g] = await gauged(route, [{ kind: 'ripple', body }])
  return g!
}
const pipe = (bow: object[], id = 'way') => [
  op(10, 'path', id, { how: 'stops', stops: bow }),
  op(20, 'sweep', 'bar', { path: id, section: 'round', across: 6, mode: 'new' }),
]
const level = (z: number, id: string, r: number, number: number): Op[] => [
  op(number, 'plane', `at${id}`, { how: 'offset', from: 'top', offset: z }),
  { ...circles(number + 1, id, `at${id}`, [[0, 0, r]]) },
]

describe('turns of curvature along a line', () => {
  it('counts bumps, not ends and not wavering (closed forms)', () => {
    const wave = (n: number, f: (x: number) => number) =>
      Array.from({ length: n + 1 }, (_, i) => f(i / n))
    expect(extremaOf(wave(100, () => 0.5))).toEqual([])
    expect(extremaOf(wave(100, (x) => x))).toEqual([])
    expect(extremaOf(wave(100, (x) => Math.sin(Math.PI * x)))).toEqual([50])
    expect(extremaOf(wave(200, (x) => Math.sin(2 * Math.PI * x)))).toEqual([50, 150])
    expect(extremaOf(wave(400, (x) => Math.sin(8 * Math.PI * x)))).toHaveLength(8)
    expect(extremaOf(wave(400, (x) => 1 + 0.01 * Math.sin(8 * Math.PI * x)))).toEqual([])
    expect(extremaOf(wave(100, (x) => 1e-5 * Math.sin(8 * Math.PI * x)))).toEqual([])
  })
})

describe('ripple of a body', () => {
  it('a block is flat, a post and a bent round bar have none', async () => {
    const flat = await ripple([base, block], 'block')
    expect(flat.why).toMatch(/flat/)
    const post = [
      circles(10, 'ring', 'top', [[0, 0, 8]]),
      op(20, 'extrude', 'post', { profile: 'ring', mode: 'new', length: 60 }),
    ]
    expect((await ripple(post, 'post')).reading!.high).toBe(0)
    const hoop = pipe([
      { x: 20, y: 0, z: 0, by: 'line' },
      { x: 0, y: 0, z: 20, by: 'over' },
      { x: -20, y: 0, z: 0, by: 'line' },
    ])
    expect((await ripple(hoop, 'bar')).reading!.high).toBe(0)
  })
  it('a loft through rings that go in and out ripples as often as they do', async () => {
    const through = (radii: number[]) => [
      ...radii.flatMap((r, k) => level(25 * k, `r${k}`, r, 10 + 3 * k)),
      op(90, 'loft', 'vase', {
        sections: radii.map((_, k) => ({ profile: `r${k}` })),
        mode: 'new',
      }),
    ]
    const calm = (await ripple(through([20, 24, 26, 24, 20]), 'vase')).reading!
    const wavy = (await ripple(through([20, 24, 20, 24, 20, 24, 20]), 'vase')).reading!
    expect(calm.high).toBeLessThanOrEqual(1)
    // Seven rings: between the two ends five bulges and hollows, each an extremum.
    expect(wavy.high).toBeGreaterThanOrEqual(5)
    expect(wavy.high).toBeLessThanOrEqual(7)
    expect(wavy.places.length).toBeGreaterThanOrEqual(5)
  })
  it('a turned body and one of triangles are told', async () => {
    const turned = op(20, 'revolve', 'cup', { profile: 'half', mode: 'new' })
    const half = outline(10, 'half', 'front', [
      [0, 0],
      [20, 0],
      [20, 30],
      [0, 30],
    ])
    expect((await ripple([half, turned], 'cup')).why).toMatch(/turned/)
  })
})

describe('lines of surfaces', () => {
  it('lie on a cylinder with a hole, none where the hole is, straight ones and round ones', async () => {
    const route = [
      circles(10, 'ring', 'top', [[0, 0, 10]]),
      op(20, 'extrude', 'post', { profile: 'ring', mode: 'new', length: 60 }),
      circles(30, 'eye', 'side', [[0, 30, 4]]),
      op(40, 'extrude', 'hole', {
        profile: 'eye',
        body: 'post',
        mode: 'cut',
        length: 40,
        draft: 0,
      }),
    ]
    const p = await exact(route, 'post')
    const run = inPlace(piece(route), the)
    const made = await run(linesJob(p, { count: 12, steps: 30 }), [])
    expect(made.ok).toBe(true)
    if (!made.ok) return
    const { lines } = made.value[0]!.form!
    const outside = lines.filter((l) => p.faces[l.face]!.names[0] === 'post:ring1')
    expect(outside.length).toBeGreaterThan(24)
    for (const l of outside)
      for (let k = 0; k < l.places.length; k += 3) {
        const [x, y, z] = [l.places[k]!, l.places[k + 1]!, l.places[k + 2]!]
        expect(Math.hypot(x, y)).toBeCloseTo(10, 9)
        // In the hole there is none (its edge is met within a chord of 1/48 of it).
        if (x > 0) expect(Math.hypot(y, z - 30)).toBeGreaterThan(4 - 0.05)
      }
    const bends = outside.flatMap((l) => l.bends)
    for (const b of bends) expect(Math.min(Math.abs(b), Math.abs(b - 0.1))).toBeLessThan(1e-9)
    const inside = lines.filter((l) => p.faces[l.face]!.names[0] !== 'post:ring1')
    // The hole's own wall is hollow.
    expect(Math.min(...inside.flatMap((l) => l.bends))).toBeCloseTo(-0.25, 6)
  })
})
