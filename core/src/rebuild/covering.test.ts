import { describe, expect, it } from 'vitest'
import { faceRef } from '../exact'
import type { P3 } from '../math'
import { circles, outline } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { base, block, diagnosis, exact, face, gauged } from './exactroute.test-data'

const named = async (route: Parameters<typeof exact>[0], id: string, names: string[]) => {
  const p = await exact(route, id)
  return names.map((n) => face(p, n))
}
const sides = ['block:side1', 'block:side2', 'block:side3', 'block:side4']
const cover = (faces: object[], more: object = {}) =>
  op(90, 'cover', 'hood', { body: 'block', faces, wall: 1.5, ...more })

/** By the shoelace formula. */
const areaOf = (ring: [number, number][]) =>
  ring.reduce((sum, [x, y], i) => {
    const [u, v] = ring[(i + 1) % ring.length]!
    return sum + (x * v - u * y) / 2
  }, 0)
/**
 * What lies beside the side of a convex ring on which a place is, `wide` across, between the lines of its neighbours: a trapezium, at
 * whose ends the sides run on by the cotangents of what they turn by.
 */
function strip(ring: [number, number][], at: P3, wide: number): number {
  const n = ring.length
  const left = Math.sign(areaOf(ring))
  const way = (i: number) => {
    const [[x, y], [u, v]] = [ring[(i + n) % n]!, ring[(i + 1 + n) % n]!]
    return Math.atan2(v - y, u - x)
  }
  const side = (i: number) =>
    Math.hypot(ring[i]![0] - ring[(i + 1) % n]![0], ring[i]![1] - ring[(i + 1) % n]![1])
  const off = (i: number) => {
    const [x, y] = ring[i]!
    return Math.abs((at[0] - x) * Math.sin(way(i)) - (at[1] - y) * Math.cos(way(i)))
  }
  const i = ring.findIndex((_, k) => off(k) < 1e-6)
  const turn = (a: number, b: number) => left * (way(b) - way(a))
  const more = 1 / Math.tan(turn(i - 1, i)) + 1 / Math.tan(turn(i, i + 1))
  return wide * (side(i) - (wide / 2) * more)
}

describe('covers', () => {
  it('over the sides and the top of a block, open below, at a gap: between two boxes', async () => {
    const faces = await named([base, block], 'block', [...sides, 'block:end'])
    const route = [base, block, cover(faces, { gap: 0.4 })]
    const p = await exact(route, 'hood')
    const box = (d: number) => (60 + 2 * d) * (40 + 2 * d) * (20 + d)
    // Arc joins round the outer edges of the gap and of the wall; a box with round edges by Steiner's formula.
    const round = (d: number) => {
      const sharp = box(d)
      const corners = 4 * (8 - (4 * Math.PI) / 3) * (d ** 3 / 8)
      const edges = (4 * 20 + 2 * 60 + 2 * 40) * d * d * (1 - Math.PI / 4)
      return sharp - edges - corners
    }
    const sharp = box(1.9) - box(0.4)
    const rounded = round(1.9) - round(0.4)
    const off = Math.min(...[sharp, rounded].map((v) => Math.abs(p.measure.volume / v - 1)))
    expect(off).toBeLessThan(1e-6)
    const [clear] = await gauged(route, [{ kind: 'clearance', body: 'hood' }])
    expect(clear!.reading?.low).toBeCloseTo(0.4, 2)
  })
  it('over any one face of a prism, whichever way it was drawn and stands: the layer the faces beside it bound', async () => {
    const drawn: [number, number][][] = [
      [
        [-20, -15],
        [20, -15],
        [20, 15],
        [-20, 15],
      ],
      [
        [-20, -15],
        [20, -15],
        [0, 15],
      ],
      [
        [-20, -15],
        [20, -15],
        [10, 15],
        [-10, 15],
      ],
    ].map((ring) => ring.map(([x, y]) => [x!, y!]))
    for (const ring of drawn)
      for (const turned of [false, true])
        for (const side of ['along', 'against']) {
          const flat = outline(10, 'flat', 'top', turned ? [...ring].reverse() : ring)
          const route = [
            flat,
            op(20, 'extrude', 'bar', { profile: 'flat', mode: 'new', length: 10, side }),
          ]
          const bar = await exact(route, 'bar')
          const area = Math.abs(areaOf(ring))
          for (const [i, { names }] of bar.faces.entries()) {
            const over = op(30, 'cover', 'hood', {
              body: 'bar',
              faces: [faceRef(bar, i)],
              wall: 2,
            })
            const p = await exact([...route, over], 'hood')
            const flatEnd = names[0] === 'bar:start' || names[0] === 'bar:end'
            const right = flatEnd ? 2 * area : 10 * strip(ring, bar.faces[i]!.middle, 2)
            expect(p.measure.volume / right).toBeCloseTo(1, 9)
          }
        }
  })
  it('over the skin of a tube, and under it: between two cylinders', async () => {
    const disc = circles(10, 'disc', 'top', [[0, 0, 15]])
    const rod = op(20, 'extrude', 'rod', { profile: 'disc', mode: 'new', length: 50 })
    const whole = await exact([disc, rod], 'rod')
    // A circle comes in several arcs, each with a face of the same name.
    const skin = whole.faces.flatMap((f, i) =>
      f.names[0] === 'rod:ring1' ? [faceRef(whole, i)] : [],
    )
    const ring = async (more: object) =>
      (
        await exact(
          [disc, rod, op(30, 'cover', 'hood', { body: 'rod', faces: skin, ...more })],
          'hood',
        )
      ).measure.volume
    const tube = (a: number, b: number) => Math.PI * 50 * (b * b - a * a)
    expect(await ring({ wall: 2 })).toBeCloseTo(tube(15, 17), 2)
    expect(await ring({ wall: 2, gap: 3 })).toBeCloseTo(tube(18, 20), 2)
    expect(await ring({ wall: 2, gap: 1, side: 'in' })).toBeCloseTo(tube(12, 14), 2)
  })
  it('all faces of one name are meant together, wherever they have moved', async () => {
    const disc = (x: number) => circles(10, 'disc', 'top', [[x, 0, 15]])
    const rod = op(20, 'extrude', 'rod', { profile: 'disc', mode: 'new', length: 50 })
    const whole = await exact([disc(0), rod], 'rod')
    const skin = whole.faces.flatMap((f, i) =>
      f.names[0] === 'rod:ring1' ? [faceRef(whole, i)] : [],
    )
    const over = (faces: object[]) => op(30, 'cover', 'hood', { body: 'rod', faces, wall: 2 })
    const moved = await exact([disc(400), rod, over(skin)], 'hood')
    expect(moved.measure.volume).toBeCloseTo(Math.PI * 50 * (17 ** 2 - 15 ** 2), 2)
  })
  it('says which faces run smoothly on where it cannot end, and offers them too', async () => {
    // A half round that runs on in flat sides.
    const disc = op(10, 'profile', 'disc', {
      plane: 'top',
      use: 'flat',
      drawing: {
        points: {
          a: { x: -15, y: 0 },
          b: { x: 15, y: 0 },
          c: { x: 15, y: 20 },
          d: { x: -15, y: 20 },
          m: { x: 0, y: 35 },
        },
        entities: [
          { id: 'foot', kind: 'line', a: 'a', b: 'b' },
          { id: 'right', kind: 'line', a: 'b', b: 'c' },
          { id: 'bow', kind: 'arc', a: 'c', via: 'm', b: 'd' },
          { id: 'left', kind: 'line', a: 'd', b: 'a' },
        ],
      },
    })
    const rod = op(20, 'extrude', 'rod', { profile: 'disc', mode: 'new', length: 50 })
    const [one] = await named([disc, rod], 'rod', ['rod:bow'])
    const part = op(30, 'cover', 'hood', { body: 'rod', faces: [one], wall: 2 })
    const d = await diagnosis([disc, rod, part])
    expect(d.code).toBe('runs-on')
    const fixed = d.fixes[0]!.inputs.faces as { face: string }[]
    expect(fixed.length).toBeGreaterThan(1)
  })
  it('refuses no faces, no wall, and walls in that are too thick', async () => {
    const faces = await named([base, block], 'block', ['block:end'])
    expect((await diagnosis([base, block, cover([])])).code).toBe('no-faces')
    expect((await diagnosis([base, block, cover(faces, { wall: 0 })])).code).toBe('not-positive')
    expect((await diagnosis([base, block, cover(faces, { gap: -1 })])).code).toBe('not-positive')
    const through = await diagnosis([base, block, cover(faces, { wall: 30, side: 'in' })])
    expect(through.message).toMatch(/wall/i)
  })
})
