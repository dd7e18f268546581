import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cross3, norm3, type P3, placeAt, sub3 } from '../math'
import type { Op } from '../workpiece'
import { circles, outline, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { exact, gauged, piece, the } from './exactroute.test-data'
import { linesJob } from './gaugejobs'
import { inPlace } from './solids'

const extrude = (number: number, id: string, profile: string, more: object): Op =>
  op(number, 'extrude', id, { profile, mode: 'new', length: 40, ...more })
const hollow = (wall: number): Op =>
  op(30, 'shell', 'thin', { body: 'cup', wall, open: [{ face: 'cup:end' }] })
const least = async (route: Op[]) => (await gauged(route, [{ body: 'cup' }]))[0]!.reading!.low
const rad = Math.PI / 180
/** The radius of the circle through three places, mm. */
const roundThrough = (a: P3, b: P3, c: P3): number => {
  const [u, v, w] = [sub3(b, a), sub3(c, b), sub3(c, a)]
  return (norm3(u) * norm3(v) * norm3(w)) / (2 * norm3(cross3(u, w)))
}

describe('the wall between true surfaces', () => {
  it('property: of round cups it is what was asked to 1e-3, whatever their triangles are', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 80, max: 600 }),
        fc.integer({ min: 6, max: 40 }),
        async (r, t) => {
          const cup = [
            circles(10, 'ring', 'top', [[3, -2, r / 10]]),
            extrude(20, 'cup', 'ring', {}),
            hollow(t / 10),
          ]
          expect(Math.abs((await least(cup)) - t / 10)).toBeLessThan(1e-3)
        },
      ),
      { numRuns: 6 },
    )
  })
  it('of a skin between a circle and a rectangle, 1.2 all over', async () => {
    const cup = [
      op(5, 'plane', 'up', { how: 'offset', from: 'top', offset: 50 }),
      circles(10, 'low', 'top', [[0, 0, 20]]),
      rectangle(11, 'high', 'up', [-20, -12], [40, 24]),
      op(20, 'loft', 'cup', {
        sections: [{ profile: 'low' }, { profile: 'high' }],
        run: 'smooth',
        mode: 'new',
      }),
      hollow(1.2),
    ]
    expect(Math.abs((await least(cup)) - 1.2)).toBeLessThan(1e-3)
  })
  it('property: so are the gaps between them, whatever their triangles are', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 100, max: 600 }),
        fc.integer({ min: 6, max: 60 }),
        async (r, t) => {
          // A round groove in the end of a round block, to the middle of its height.
          const cup = [
            circles(10, 'ring', 'top', [[3, -2, r / 5]]),
            extrude(20, 'cup', 'ring', {}),
            circles(30, 'slot', 'top', [
              [3, -2, r / 10],
              [3, -2, (r + t) / 10],
            ]),
            op(32, 'extrude', 'cut', { profile: 'slot', mode: 'cut', body: 'cup', length: 20 }),
          ]
          const [gap] = await gauged(cup, [{ body: 'cup', kind: 'gap' }])
          expect(Math.abs(gap!.reading!.low - t / 10)).toBeLessThan(1e-3)
        },
      ),
      { numRuns: 6 },
    )
  })
  it('property: a rim cut at any angle is no wall: where two faces meet in an edge nothing is read', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 8, max: 75 }),
        fc.integer({ min: 8, max: 30 }),
        async (angle, t) => {
          const rise = 60 * Math.tan(angle * rad)
          const cup = [
            rectangle(10, 'flat', 'top', [-20, -15], [40, 30]),
            extrude(20, 'cup', 'flat', { length: 120 }),
            hollow(t / 10),
            outline(40, 'off', 'front', [
              [-30, 20],
              [30, 20 + rise],
              [30, 400],
              [-30, 400],
            ]),
            extrude(50, 'cut', 'off', { mode: 'cut', body: 'cup', length: 60, side: 'alike' }),
          ]
          expect(Math.abs((await least(cup)) - t / 10)).toBeLessThan(1e-3)
        },
      ),
      { numRuns: Number(process.env.RUNS ?? 8) },
    )
  })
})

describe('the least radius of true surfaces', () => {
  const bends = async (route: Op[], side: 1 | 2) =>
    (await gauged(route, [{ kind: 'bends', body: 'cup', params: { side, asked: 3 } }]))[0]!
  it('at the pole of a dome: what circles through three places of its meridians have, and no hollow', async () => {
    for (const height of [14, 20, 31]) {
      const dome = [
        circles(10, 'ring', 'top', [[0, 0, 10]]),
        op(12, 'point', 'tip', { how: 'place', p1: { x: 0, y: 0, z: height } }),
        op(20, 'loft', 'cup', {
          sections: [{ profile: 'ring' }, { point: 'tip', end: 'domed' }],
          run: 'smooth',
          mode: 'new',
        }),
      ]
      const part = await exact(dome, 'cup')
      const made = await inPlace(piece(dome), the)(linesJob(part, { count: 5, steps: 400 }), [])
      if (!made.ok) throw new Error(made.diagnosis.message)
      const radii = made.value[0]!.form!.lines.filter(
        ({ places }) => places[2] !== places.at(-1),
      ).flatMap(({ places }) =>
        Array.from({ length: places.length / 3 - 2 }, (_, i) =>
          roundThrough(placeAt(places, i), placeAt(places, i + 1), placeAt(places, i + 2)),
        ),
      )
      const { reading } = await bends(dome, 1)
      expect(reading!.low / Math.min(...radii)).toBeCloseTo(1, 2)
      expect((await bends(dome, 2)).why).toBe('It is hollow nowhere.')
    }
  })
  it('of a boss on a plate with a filleted foot: the boss bulges, the fillet is hollow (closed form)', async () => {
    const boss = [
      rectangle(10, 'flat', 'top', [-30, -30], [60, 60]),
      extrude(20, 'cup', 'flat', { length: 5 }),
      circles(30, 'ring', 'top', [[0, 0, 11.3]]),
      extrude(40, 'boss', 'ring', { mode: 'join', body: 'cup', length: 25 }),
      op(50, 'fillet', 'foot', {
        body: 'cup',
        edges: [{ edge: ['boss:ring1', 'cup:end'] }],
        radius: 3.7,
      }),
    ]
    expect((await bends(boss, 1)).reading!.low).toBeCloseTo(11.3, 4)
    expect((await bends(boss, 2)).reading!.low).toBeCloseTo(3.7, 4)
  })
})
