import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { faceRef } from '../exact'
import type { Body } from '../ops'
import { faceNames, volumeOf } from '../turned'
import type { Op } from '../workpiece'
import { circles, outline as flatOutline, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { bodiesOf, built, diagnosis, piece } from './exactroute.test-data'

/** A drawing in the front plane of a closed outline through places, to be turned. */
const outline = (
  number: number,
  id: string,
  places: readonly (readonly [number, number])[],
): Op => {
  const flat = flatOutline(number, id, 'front', places)
  return { ...flat, inputs: { ...flat.inputs, use: 'turn' } }
}

/** A round pot of outer radius `r` with an opening of radius `a`, and a hollow lid on it at `h`. */
const round = (r: number, a: number, h: number): Op[] => [
  outline(10, 'pot-line', [
    [0, 0],
    [r, 0],
    [r, h],
    [a, h],
    [a, 3],
    [0, 3],
  ]),
  op(20, 'revolve', 'pot', { profile: 'pot-line', mode: 'new' }),
  outline(30, 'lid-line', [
    [a, h],
    [r, h],
    [r, h + 20],
    [0, h + 20],
    [0, h + 17],
    [a, h + 17],
  ]),
  op(40, 'revolve', 'lid', { profile: 'lid-line', mode: 'new' }),
]
const step = (inputs: Record<string, unknown>): Op =>
  op(90, 'step', 'centred', {
    body: 'lid',
    into: 'pot',
    stand: 'opening',
    height: 4,
    wall: 1.2,
    clearance: 0.3,
    ...inputs,
  })
const ring = (a: number, b: number, h: number) => Math.PI * (b * b - a * a) * h
const size = (b: Body | undefined): number =>
  b!.shape.kind === 'turned' ? volumeOf(b!.shape.turned) : b!.shape.measure.volume

describe('a centring step on turned bodies', () => {
  it('stands in an opening and hangs on the inside of a hollow lid', async () => {
    const before = await bodiesOf(round(40, 36, 60))
    const bodies = await bodiesOf([...round(40, 36, 60), step({})])
    expect(bodies.lid!.shape.kind).toBe('turned')
    // In the pot a ring from 34.5 to 35.7; above it another from there to the lid's inside, 4 high.
    const more = ring(34.5, 35.7, 4) + ring(34.5, 36, 4)
    expect(size(bodies.lid) - size(before.lid)).toBeCloseTo(more, 6)
    expect(size(bodies.pot)).toBeCloseTo(size(before.pot), 9)
  })

  it('stands in the wall along either line, the seat deeper and wider by the clearance', async () => {
    const before = await bodiesOf(round(40, 32, 60))
    const inner = await bodiesOf([...round(40, 32, 60), step({ stand: 'inner', wall: 3 })])
    expect(size(inner.lid) - size(before.lid)).toBeCloseTo(ring(32, 35, 4), 6)
    expect(size(before.pot) - size(inner.pot)).toBeCloseTo(ring(32, 35.3, 4.3), 6)
    const outer = await bodiesOf([...round(40, 32, 60), step({ stand: 'outer', wall: 3 })])
    expect(size(outer.lid) - size(before.lid)).toBeCloseTo(ring(37, 40, 4), 6)
    expect(size(before.pot) - size(outer.pot)).toBeCloseTo(ring(36.7, 40, 4.3), 6)
  })

  it('goes up from the pot as well, and on a solid lid without a foot', async () => {
    const solid = [
      ...round(40, 36, 60).slice(0, 2),
      outline(30, 'lid-line', [
        [0, 60],
        [40, 60],
        [40, 66],
        [0, 66],
      ]),
      op(40, 'revolve', 'lid', { profile: 'lid-line', mode: 'new' }),
    ]
    const before = await bodiesOf(solid)
    const hung = await bodiesOf([...solid, step({})])
    expect(size(hung.lid) - size(before.lid)).toBeCloseTo(ring(34.5, 35.7, 4), 6)
    const up = await bodiesOf([
      ...solid,
      step({ body: 'pot', into: 'lid', stand: 'outer', wall: 2, height: 3 }),
    ])
    expect(size(up.pot) - size(before.pot)).toBeCloseTo(ring(38, 40, 3), 6)
    expect(size(before.lid) - size(up.lid)).toBeCloseTo(ring(37.7, 40, 3.3), 6)
  })

  it('names faces as the exact kernel does, so that picks on them hold when a body is lifted', async () => {
    const names = (b: Body | undefined) =>
      b!.shape.kind === 'turned'
        ? [...faceNames(b!.shape.turned)].filter((n) => n.startsWith('centred'))
        : [...new Set(b!.shape.faces.flatMap((f) => f.names))].filter((n) =>
            n.startsWith('centred'),
          )
    for (const stand of ['opening', 'inner', 'outer']) {
      const route = [...round(40, 32, 60), step({ stand })]
      const flat = await bodiesOf(route)
      // Moved apart and back again both are exact.
      const aside = op(50, 'move', 'aside', { body: 'lid', x: 1, y: 0, z: 0 })
      const back = op(60, 'move', 'back', { body: 'lid', x: -1, y: 0, z: 0 })
      const slab = rectangle(70, 'slab', 'top', [-50, -50], [100, 100])
      const shave = op(80, 'extrude', 'shave', {
        profile: 'slab',
        mode: 'cut',
        body: 'lid',
        length: 10,
        offset: 79.5,
      })
      const lifted = await bodiesOf([
        ...route.slice(0, 4),
        aside,
        back,
        slab,
        shave,
        step({ stand }),
      ])
      expect(lifted.lid!.shape.kind).toBe('exact')
      for (const id of ['lid', 'pot'])
        expect(names(lifted[id]).sort()).toEqual(names(flat[id]).sort())
    }
  })

  it('says what is measured, and refuses what leaves nothing', async () => {
    const { reports } = await built(
      piece([...round(40, 32, 60), step({ stand: 'inner', wall: 3 })]),
    )
    expect(reports[4]!.consequence).toMatch(/^gap 0\.3 mm at least, 4\.7 mm of the wall beside it/)
    const thin = await diagnosis([...round(40, 38.8, 60), step({ stand: 'inner' })])
    expect([thin.code, thin.fixes[0]!.inputs]).toEqual(['no-wall', { stand: 'opening' }])
    const deep = await diagnosis([...round(40, 36, 60), step({ height: 57.5 })])
    expect(deep.code).toMatch(/too-near|no-foot/)
    const apart = await diagnosis([
      ...round(40, 36, 60),
      op(50, 'move', 'up', { body: 'lid', x: 0, y: 0, z: 1 }),
      step({}),
    ])
    expect(apart.code).toBe('not-touching')
  })

  it('property: what it adds and takes is what rings between its radii hold', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.record({
          r: fc.double({ min: 12, max: 90, noNaN: true }),
          thick: fc.double({ min: 2, max: 8, noNaN: true }),
          height: fc.double({ min: 0.5, max: 10, noNaN: true }),
          share: fc.double({ min: 0.1, max: 0.7, noNaN: true }),
          clearance: fc.double({ min: 0, max: 0.5, noNaN: true }),
          stand: fc.constantFrom('inner', 'outer', 'opening'),
          from: fc.constantFrom('lid', 'pot'),
        }),
        async ({ r, thick, height, share, clearance, stand, from }) => {
          const a = r - thick
          const wall = share * thick
          const other = from === 'lid' ? 'pot' : 'lid'
          const route = round(r, a, 40)
          const before = await bodiesOf(route)
          const asked = { body: from, into: other, stand, height, wall, clearance }
          const { state, reports } = await built(piece([...route, step(asked)]))
          const left = thick - wall - clearance
          // What is left of the opening, or of the wall; within rounding of nothing either may hold.
          const free = stand === 'opening' ? a - clearance - wall : stand === 'inner' ? left : 1
          fc.pre(Math.abs(free) > 1e-4)
          const none = free < 0
          if (none) {
            expect(reports[4]!.status).toBe('fail')
            return
          }
          expect([reports[4]!.status, reports[4]!.diagnoses[0]?.message]).toEqual(['ok', undefined])
          const more = size(state.bodies[from]) - size(before[from])
          const less = size(before[other]) - size(state.bodies[other])
          const hung =
            ring(a - clearance - wall, a - clearance, height) +
            ring(a - clearance - wall, a, height)
          const want =
            stand === 'opening'
              ? [hung, 0]
              : stand === 'inner'
                ? [ring(a, a + wall, height), ring(a, a + wall + clearance, height + clearance)]
                : [ring(r - wall, r, height), ring(r - wall - clearance, r, height + clearance)]
          expect(more / want[0]!).toBeCloseTo(1, 6)
          expect(less).toBeCloseTo(want[1]!, 4)
        },
      ),
      { numRuns: 80 },
    )
  })
})

describe('a centring step on exact bodies', () => {
  /** A box 60 x 40 with walls of 3, and a flat lid of 4 on it. */
  const box: Op[] = [
    rectangle(10, 'outside', 'top', [0, 0], [60, 40]),
    op(20, 'extrude', 'pot', { profile: 'outside', mode: 'new', length: 30 }),
    rectangle(30, 'inside', 'top', [3, 3], [54, 34]),
    op(40, 'extrude', 'hollow', {
      profile: 'inside',
      mode: 'cut',
      body: 'pot',
      length: 40,
      offset: 3,
    }),
    op(50, 'extrude', 'lid', { profile: 'outside', mode: 'new', length: 4, offset: 30 }),
  ]

  it('stands in the opening of a box, its gap measured', async () => {
    const before = await bodiesOf(box)
    const { state, reports } = await built(piece([...box, step({ clearance: 0.25, wall: 2 })]))
    expect(reports[5]!.diagnoses[0]?.message).toBeUndefined()
    // Inside corners are the opening's own, drawn in: 53.5 x 33.5 less 49.5 x 29.5.
    const frame = (53.5 * 33.5 - 49.5 * 29.5) * 4
    expect(size(state.bodies.lid) - size(before.lid)).toBeCloseTo(frame, 4)
    expect(reports[5]!.consequence).toMatch(/^gap 0\.25 mm at least/)
  })

  it('takes the place of what is cut along the opening or the outside', async () => {
    const before = await bodiesOf(box)
    const inner = await bodiesOf([...box, step({ stand: 'inner', wall: 1, clearance: 0.2 })])
    // Let out round corners: a quarter circle at each.
    const out = (d: number) => 2 * (54 + 34) * d + Math.PI * d * d
    expect(size(inner.lid) - size(before.lid)).toBeCloseTo(out(1) * 4, 3)
    expect(size(before.pot) - size(inner.pot)).toBeCloseTo(out(1.2) * 4.2, 3)
    const outer = await bodiesOf([...box, step({ stand: 'outer', wall: 1, clearance: 0.2 })])
    const taken = (d: number) => 60 * 40 - (60 - 2 * d) * (40 - 2 * d)
    expect(size(outer.lid) - size(before.lid)).toBeCloseTo(taken(1) * 4, 3)
    expect(size(before.pot) - size(outer.pot)).toBeCloseTo(taken(1.2) * 4.2, 3)
  })

  it('runs into nothing: a ledge under the opening, and a floor, are told though its corners lie clear of both', async () => {
    const ledged = [
      ...box.slice(0, 2),
      rectangle(30, 'inside', 'top', [10, 10], [40, 20]),
      ...box.slice(3, 4),
      rectangle(42, 'mouth', 'top', [3, 3], [54, 34]),
      op(44, 'extrude', 'mouthed', {
        profile: 'mouth',
        mode: 'cut',
        body: 'pot',
        length: 2,
        offset: 28,
      }),
      ...box.slice(4),
    ]
    for (const height of [4, 9]) {
      const told = await diagnosis([...ledged, step({ height })])
      expect([told.code, told.message]).toEqual(['too-near', expect.stringContaining('runs into')])
    }
    await bodiesOf([...ledged, step({ height: 1.5 })])
    expect((await diagnosis([...box, step({ height: 28 })])).code).toBe('too-near')
    const turned = await diagnosis([...round(40, 36, 60), step({ height: 58 })])
    expect(turned.code).toBe('too-near')
  })

  it('beside a boss in the middle of a flat side, away from all corners of the step, has the gap that is left', async () => {
    const boss = (out: number) => [
      ...box.slice(0, 4),
      rectangle(46, 'spot', 'top', [3 - 1, 19], [1 + out, 2]),
      op(48, 'extrude', 'boss', {
        profile: 'spot',
        mode: 'join',
        body: 'pot',
        length: 1,
        offset: 27,
      }),
      ...box.slice(4),
    ]
    const told = await diagnosis([...boss(0.2), step({ height: 5 })])
    expect([told.code, told.message]).toEqual([
      'too-near',
      expect.stringMatching(/comes as near as 0\.1 mm/),
    ])
    // Above it nothing is in its way.
    await bodiesOf([...boss(0.2), step({ height: 1.5 })])
  })

  it('does so with two openings, and asks where they touch in more than one face', async () => {
    const two = [
      ...box.slice(0, 2),
      circles(30, 'inside', 'top', [
        [17, 20, 12],
        [45, 20, 10],
      ]),
      ...box.slice(3),
    ]
    const before = await bodiesOf(two)
    const bodies = await bodiesOf([...two, step({ wall: 1 })])
    const hung = ring(10.7, 11.7, 4) + ring(8.7, 9.7, 4)
    expect(size(bodies.lid) - size(before.lid)).toBeCloseTo(hung, 4)
    const parted = [
      rectangle(10, 'outside', 'top', [0, 0], [60, 40]),
      op(20, 'extrude', 'pot', { profile: 'outside', mode: 'new', length: 30 }),
      rectangle(30, 'slot', 'top', [20, -1], [20, 42]),
      op(40, 'extrude', 'groove', {
        profile: 'slot',
        mode: 'cut',
        body: 'pot',
        length: 40,
        offset: 20,
      }),
      op(50, 'extrude', 'lid', { profile: 'outside', mode: 'new', length: 4, offset: 30 }),
      step({ stand: 'outer', wall: 1 }),
    ]
    const asked = await diagnosis(parted)
    expect([asked.code, asked.fixes.length]).toEqual(['several', 2])
    const { op: id, inputs } = asked.fixes[1]!
    expect(id).toBe('centred')
    await bodiesOf([...parted.slice(0, 5), step({ stand: 'outer', wall: 1, ...inputs })])
  })

  /** Perimeter of an ellipse: Ramanujan 1914, second formula; off by under 1e-9 of it at these shapes. */
  const perimeter = (a: number, b: number): number => {
    const h = ((a - b) / (a + b)) ** 2
    return Math.PI * (a + b) * (1 + (3 * h) / (10 + Math.sqrt(4 - 3 * h)))
  }

  it('property: on oval pots it is as large as lines set off from an oval say (Steiner)', async () => {
    const oval = (number: number, id: string, a: number, b: number) =>
      op(number, 'profile', id, {
        plane: 'top',
        use: 'flat',
        drawing: {
          points: { c: { x: 5, y: -4 }, e: { x: 5 + a, y: -4 } },
          entities: [{ id: 'oval', kind: 'ellipse', c: 'c', end: 'e', ratio: b / a }],
        },
      })
    await fc.assert(
      fc.asyncProperty(
        fc.record({
          a: fc.double({ min: 20, max: 45, noNaN: true }),
          squash: fc.double({ min: 0.7, max: 0.95, noNaN: true }),
          wall: fc.double({ min: 0.6, max: 2, noNaN: true }),
          clearance: fc.double({ min: 0.1, max: 0.6, noNaN: true }),
          height: fc.double({ min: 1, max: 6, noNaN: true }),
          stand: fc.constantFrom('inner', 'opening'),
        }),
        async ({ a, squash, wall, clearance, height, stand }) => {
          const b = a * squash
          const route = [
            oval(10, 'outside', a + 4, b + 4),
            op(20, 'extrude', 'pot', { profile: 'outside', mode: 'new', length: 25 }),
            oval(30, 'inside', a, b),
            op(40, 'extrude', 'hollow', {
              profile: 'inside',
              mode: 'cut',
              body: 'pot',
              length: 40,
              offset: 3,
            }),
            op(50, 'extrude', 'lid', { profile: 'outside', mode: 'new', length: 4, offset: 25 }),
          ]
          const before = await bodiesOf(route)
          const { state, reports } = await built(
            piece([...route, step({ stand, wall, clearance, height })]),
          )
          expect(reports[5]!.diagnoses[0]?.message).toBeUndefined()
          // The strip between two lines set off inwards by c and c + w, and outwards by 0 and w.
          const l = perimeter(a, b)
          const strip =
            stand === 'opening'
              ? wall * (l - Math.PI * (2 * clearance + wall))
              : wall * (l + Math.PI * wall)
          const more = size(state.bodies.lid) - size(before.lid)
          expect(more / (strip * height)).toBeCloseTo(1, 4)
          const told = Number(/^gap ([\d.]+) mm/.exec(reports[5]!.consequence)![1])
          expect(Math.abs(told - clearance)).toBeLessThan(2e-3)
        },
      ),
      { numRuns: 2 },
    )
  })

  it('holds lines that meet loosely, as a shell leaves them: a bulging, shelled pot', async () => {
    const pot = op(10, 'cage', 'pot', {
      start: {
        kind: 'cylinder',
        radius: 30,
        height: 60,
        columns: 6,
        bands: 3,
        floor: 'open',
        lid: 'open',
      },
      edits: [{ id: 'e1', kind: 'rows', rows: [{ row: '1', size: 1.2 }] }],
      within: 0.02,
      mode: 'new',
    })
    const parted = [
      pot,
      op(20, 'split', 'part', { body: 'pot', how: 'height', height: 40, keep: 'both' }),
    ]
    const bodies = await bodiesOf(parted)
    const cut = bodies.pot!.shape
    if (cut.kind !== 'exact') throw new Error('not exact')
    const rim = cut.faces.findIndex((f) => f.normal[2] > 0.99)
    const hollow = op(30, 'shell', 'hollow', { body: 'pot', wall: 1.6, open: [faceRef(cut, rim)] })
    const asked = { body: 'part', into: 'pot', wall: 1, clearance: 0.3, height: 3 }
    const { reports } = await built(piece([...parted, hollow, step(asked)]))
    expect(reports.map((r) => r.diagnoses[0]?.message)).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
    ])
    expect(reports[3]!.consequence).toMatch(/^gap 0\.(29[89]|3)\d* mm at least/)
  })
})
