import { beforeAll, describe, expect, test } from 'vitest'
import { edgeRef } from '../exact'
import type { Op } from '../workpiece'
import { circles, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { built, edge, exact, piece, the } from './exactroute.test-data'

beforeAll(the)

const box = (w: number, d: number, h: number): Op[] => [
  rectangle(10, 'flat', 'top', [0, 0], [w, d]),
  op(20, 'extrude', 'block', { profile: 'flat', mode: 'new', length: h }),
]
const SIDES = [1, 2, 3, 4].map((k) => `block:side${k}`)
const shelled = (wall: number, open: readonly string[] = ['block:end']): Op =>
  op(90, 'shell', 'hollow', { body: 'block', wall, open: open.map((face) => ({ face })) })

/** Fillets of the edges between faces of those names on what a route makes. */
async function rounded(
  route: readonly Op[],
  n: number,
  radius: number,
  pairs: readonly (readonly [string, string])[],
): Promise<Op> {
  const p = await exact([...route], 'block')
  const edges = pairs.map(([a, b]) => edge(p, a, b))
  return op(n, 'fillet', `round${n}`, { body: 'block', edges, radius })
}
const UPRIGHTS = SIDES.map((s, k) => [s, SIDES[(k + 1) % 4]!] as const)
const around = (end: 'start' | 'end') => SIDES.map((s) => [s, `block:${end}`] as const)

const corner = 4 - Math.PI
/** The area of a rectangle with its corners rounded. */
const plan = (w: number, d: number, r: number) => w * d - corner * Math.max(r, 0) ** 2

/** The volume of a box all of whose edges are rounded: a box, slabs, quarter cylinders and a ball (Steiner's formula). */
const pebble = (w: number, d: number, h: number, r: number) => {
  const [a, b, c] = [w - 2 * r, d - 2 * r, h - 2 * r]
  return (
    a * b * c +
    2 * r * (a * b + b * c + c * a) +
    Math.PI * r ** 2 * (a + b + c) +
    (4 / 3) * Math.PI * r ** 3
  )
}

describe('a wall thicker than what is rounded outside', () => {
  test('a box of 50 x 40 x 30, uprights r 2, wall 2.5: 16,584.491', async () => {
    const route = box(50, 40, 30)
    const part = await exact(
      [...route, await rounded(route, 30, 2, UPRIGHTS), shelled(2.5)],
      'block',
    )
    expect(part.measure.volume).toBeCloseTo(16584.491, 3)
  })

  test.each([
    [1, 1],
    [2, 3.5],
    [3, 2],
    [4, 4],
    [0.4, 6],
  ])('uprights r %d, wall %d: the inside is rounded by what is left', async (r, t) => {
    for (const [w, d, h] of [
      [44, 31, 23],
      [90, 25, 12.5],
    ] as const) {
      const route = box(w, d, h)
      const part = await exact(
        [...route, await rounded(route, 30, r, UPRIGHTS), shelled(t)],
        'block',
      )
      const right = plan(w, d, r) * h - plan(w - 2 * t, d - 2 * t, r - t) * (h - t)
      expect(part.measure.volume / right).toBeCloseTo(1, 8)
      expect([part.measure.closed, part.measure.valid, part.measure.solids]).toEqual([
        true,
        true,
        1,
      ])
    }
  })

  test('all edges, closed all round', async () => {
    const route = box(50, 40, 30)
    const all = [...UPRIGHTS, ...around('start'), ...around('end')]
    const part = await exact([...route, await rounded(route, 30, 2, all), shelled(3, [])], 'block')
    expect(part.measure.volume).toBeCloseTo(pebble(50, 40, 30, 2) - 44 * 34 * 24, 3)
  })

  test('uprights by more than the wall, then edges below by less', async () => {
    const route = box(50, 40, 30)
    const uprights = await rounded(route, 30, 6, UPRIGHTS)
    const below = op(40, 'fillet', 'below', {
      body: 'block',
      edges: [],
      round: [{ face: 'block:start' }],
      radius: 2,
    })
    const solid = await exact([...route, uprights, below], 'block')
    const part = await exact([...route, uprights, below, shelled(2.5)], 'block')
    const room = plan(45, 35, 6 - 2.5) * 27.5
    expect(solid.measure.volume - part.measure.volume).toBeCloseTo(room, 4)
  })
})

describe('what is thinner than two walls stays full', () => {
  const pin = (d: number, h: number, mode = 'join'): Op[] => [
    circles(50, 'pinned', 'front', [[30, 15, d / 2]]),
    op(60, 'extrude', 'pin', { profile: 'pinned', mode, body: 'block', length: h }),
  ]
  test('a pin of 3 on the side of a box of 60 x 40 x 30 with a wall of 2: 15,622.686', async () => {
    const { state, reports } = await built(piece([...box(60, 40, 30), ...pin(3, 10), shelled(2)]))
    const { shape } = state.bodies.block!
    if (shape.kind !== 'exact') throw new Error()
    expect(shape.measure.volume).toBeCloseTo(15622.686, 3)
    expect(reports.at(-1)!.diagnoses.map((d) => [d.code, d.places.length])).toEqual([
      ['stays-full', 1],
    ])
  })
  test('also where its foot is rounded since', async () => {
    const route = [...box(60, 40, 30), ...pin(3, 10)]
    const p = await exact(route, 'block')
    const foot = p.edges.findIndex((e) => e.bend === 'in')
    const soft = op(70, 'fillet', 'foot', { body: 'block', edges: [edgeRef(p, foot)], radius: 1 })
    const [full, hollow] = [
      await exact([...route, soft], 'block'),
      (await built(piece([...route, soft, shelled(2)]))).state.bodies.block!.shape,
    ]
    if (hollow.kind !== 'exact') throw new Error()
    expect(full.measure.volume - hollow.measure.volume).toBeCloseTo(56 * 36 * 28, 3)
  })
  test('one that begins deep in the box does not stand in its room', async () => {
    const deep = [
      circles(50, 'pinned', 'front', [
        [30, 15, 1.5],
        [11, 9, 1.9],
      ]),
      op(60, 'extrude', 'pin', {
        profile: 'pinned',
        mode: 'join',
        body: 'block',
        offset: -12,
        length: 19,
      }),
    ]
    const { state, reports } = await built(piece([...box(60, 40, 30), ...deep, shelled(2)]))
    const { shape } = state.bodies.block!
    if (shape.kind !== 'exact') throw new Error(reports.at(-1)!.diagnoses[0]?.message)
    const right = 72000 - 56 * 36 * 28 + Math.PI * (1.5 ** 2 + 1.9 ** 2) * 7
    expect(shape.measure.volume).toBeCloseTo(right, 3)
  })
  test('one that is thicker is hollow', async () => {
    const part = await exact([...box(60, 40, 30), ...pin(9, 10), shelled(2)], 'block')
    // The room keeps 2 from the foot's edge too: by Pappus a square less a quarter circle, carried round the pin's axis.
    const foot = (4 - Math.PI) * 2 * Math.PI * (4.5 - (4 - 8 / 3) / (4 - Math.PI))
    const room = 56 * 36 * 28 + Math.PI * 2.5 ** 2 * 10 + foot
    const outside = 72000 + Math.PI * 4.5 ** 2 * 10
    expect(part.measure.volume).toBeCloseTo(outside - room, 3)
  })
})
