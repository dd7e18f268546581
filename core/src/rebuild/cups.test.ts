import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Op } from '../workpiece'
import { circles, outline } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { gauged, volume } from './exactroute.test-data'

// What cups with holes hold: a frustum up to the lowest place of any hole (closed form). Their triangles take up to 0.2 % of it.

interface Cup {
  /** mm; the side leans out by `lean` rad. */
  foot: number
  high: number
  lean: number
  wall: number
  holes: { at: number; radius: number; turn: number; side: 'along' | 'against' }[]
}
const route = ({ foot, high, lean, wall, holes }: Cup): Op[] => [
  outline(10, 'half', 'front', [
    [0, 0],
    [foot, 0],
    [foot + high * Math.tan(lean), high],
    [0, high],
  ]),
  op(20, 'revolve', 'cup', { profile: 'half', mode: 'new', angle: 360, start: 0 }),
  op(30, 'shell', 'thin', { body: 'cup', wall, open: [{ face: 'cup:side3' }], side: 'in' }),
  ...holes.flatMap(({ at, radius, turn, side }, i) => [
    op(40 + 3 * i, 'plane', `plane${i}`, { how: 'angle', from: 'front', about: 'upright', turn }),
    circles(41 + 3 * i, `ring${i}`, `plane${i}`, [[0, at, radius]]),
    op(42 + 3 * i, 'extrude', `hole${i}`, {
      profile: `ring${i}`,
      mode: 'cut',
      body: 'cup',
      side,
      length: 300,
    }),
  ]),
]
const holds = async (ops: Op[]) => {
  const [g] = await gauged(ops, [{ kind: 'capacity', body: 'cup' }])
  return g!
}
/** mm3 that a bore takes of one side of a tube it goes square into, by Simpson's rule. */
function boreOf(outer: number, inner: number, bore: number): number {
  const n = 2000
  const at = (t: number) => {
    const x = bore * Math.sin(t)
    const deep = Math.sqrt(outer ** 2 - x ** 2) - Math.sqrt(inner ** 2 - x ** 2)
    return 2 * bore * Math.cos(t) * deep * bore * Math.cos(t)
  }
  let sum = 0
  for (let i = 0; i <= n; i++)
    sum += (i === 0 || i === n ? 1 : i % 2 ? 4 : 2) * at(-Math.PI / 2 + (Math.PI * i) / n)
  return (sum * (Math.PI / n)) / 3
}
/** cm3, to a level (mm) over the lowest place of the lowest hole. */
function frustum({ foot, lean, wall, holes }: Cup, over = 0): number {
  const low = Math.min(...holes.map((h) => h.at - h.radius)) + over
  const inside = (z: number) => foot + z * Math.tan(lean) - wall / Math.cos(lean)
  const [a, b] = [inside(wall), inside(low)]
  return ((Math.PI * (low - wall)) / 3000) * (a * a + a * b + b * b)
}

describe('cups with holes hold what stays below the lowest of them', () => {
  it('one that narrows upward, with one hole of 6 mm half-way up', async () => {
    const cup: Cup = {
      foot: 40,
      high: 80,
      lean: -Math.atan(10 / 80),
      wall: 2,
      holes: [{ at: 40, radius: 3, turn: 0, side: 'along' }],
    }
    const read = (await holds(route(cup))).reading!
    expect(read.low / frustum(cup)).toBeGreaterThan(0.997)
    expect(read.low / frustum(cup)).toBeLessThan(1.001)
    expect(read.text).toMatch(/^13[89]\.\d ml/)
  })
  it('with a hole of 2 mm in the floor nothing stays', async () => {
    const cup: Cup = { foot: 30, high: 60, lean: 0.1, wall: 2, holes: [] }
    const drain = [
      circles(40, 'ring', 'top', [[11, 3, 1]]),
      op(41, 'extrude', 'drain', {
        profile: 'ring',
        mode: 'cut',
        body: 'cup',
        side: 'alike',
        length: 20,
      }),
    ]
    expect(await holds([...route(cup), ...drain])).toMatchObject({ reading: null })
  })
  it('one that leans by next to nothing is bored as it is: its volume by closed form', async () => {
    for (const lean of [1e-4, 3e-5, -1e-6, -3e-8]) {
      const cup: Cup = {
        foot: 30,
        high: 40,
        lean,
        wall: 3,
        holes: [{ at: 20, radius: 4, turn: 0, side: 'along' }],
      }
      const solid = (r: number, up: number) => {
        const end = r + up * Math.tan(lean)
        return ((Math.PI * up) / 3) * (r * r + r * end + end * end)
      }
      const room = solid(30 + 3 * Math.tan(lean) - 3 / Math.cos(lean), 37)
      const bore = boreOf(30 + 20 * Math.tan(lean), 30 + 20 * Math.tan(lean) - 3, 4)
      const right = solid(30, 40) - room - bore
      expect(Math.abs((await volume(route(cup), 'cup')) / right - 1)).toBeLessThan(1e-6)
    }
  })
  it('property: any cup, any holes', async () => {
    const hole = fc.record({
      share: fc.double({ min: 0, max: 1, noNaN: true }),
      radius: fc.double({ min: 0.5, max: 9, noNaN: true }),
      turn: fc.double({ min: 0, max: 180, noNaN: true }),
      side: fc.constantFrom('along' as const, 'against' as const),
    })
    const cups = fc.record({
      foot: fc.double({ min: 30, max: 45, noNaN: true }),
      high: fc.double({ min: 40, max: 70, noNaN: true }),
      lean: fc.double({ min: -0.22, max: 0.52, noNaN: true }),
      wall: fc.double({ min: 1.2, max: 3, noNaN: true }),
      holes: fc.array(hole, { minLength: 1, maxLength: 5 }),
    })
    await fc.assert(
      fc.asyncProperty(cups, async (c) => {
        const low = (r: number) => c.wall + 1 + r
        const cup: Cup = {
          ...c,
          holes: c.holes.map(({ share, ...h }) => ({
            ...h,
            at: low(h.radius) + share * (c.high - 1 - h.radius - low(h.radius)),
          })),
        }
        const read = (await holds(route(cup))).reading!
        expect(read.low / frustum(cup)).toBeGreaterThan(0.997)
        // The rim of a hole is told by its triangles: its lowest place may be up to 0.05 mm too high.
        expect(read.low / frustum(cup, 0.05)).toBeLessThan(1.0005)
        expect(read.rows.map((r) => r.label)).not.toContain('closed hollow, not counted')
      }),
      { numRuns: 10 },
    )
  })
})
