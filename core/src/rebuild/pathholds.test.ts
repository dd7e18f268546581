import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dot3, norm3, type P3, sub3 } from '../math'
import type { Op } from '../workpiece'
import { circles } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { base, block, built, diagnosis, exact, face, piece } from './exactroute.test-data'

type Spot = readonly [number | string, number | string, number | string]
const path = (places: readonly Spot[], holds: object[], more: object = {}): Op =>
  op(50, 'path', 'way', {
    how: 'stops',
    stops: places.map(([x, y, z]) => ({ x, y, z, by: 'line' })),
    holds,
    ...more,
  })
const placesOf = async (route: Op[], figures: { name: string; expr: string }[] = []) => {
  const { reports, state } = await built(piece(route, figures as never))
  const last = reports.at(-1)!
  const kinked = last.diagnoses.every((d) => d.code === 'kink')
  expect([kinked, last.status === 'fail', last.diagnoses[0]?.message]).toEqual([
    true,
    false,
    last.diagnoses[0]?.message,
  ])
  return { places: state.paths.way!.stops!, words: last.consequence }
}
const length = (p: readonly P3[], to: number) => norm3(sub3(p[to - 1]!, p[to - 2]!))

describe('holds between the places of a path', () => {
  it('along axes, lengths and angles: a frame drawn crookedly comes out straight', async () => {
    const crooked: Spot[] = [
      [0, 0, 0],
      [41, 3, -2],
      [38, 28, 1],
      [37, 31, 22],
    ]
    const { places, words } = await placesOf([
      path(crooked, [
        { kind: 'plane', place: 1, plane: 'top' },
        { kind: 'along', place: 2, axis: 'x' },
        { kind: 'along', place: 3, axis: 'y' },
        { kind: 'apart', place: 1, other: 2, value: 40 },
        { kind: 'equal', place: 3, other: 4 },
        { kind: 'apart', place: 3, other: 4, value: 25 },
        { kind: 'angle', place: 3, other: 4, value: 120 },
      ]),
    ])
    expect(places[0]![2]).toBeCloseTo(0, 9)
    expect(places[1]![1]).toBeCloseTo(places[0]![1], 9)
    expect(places[1]![2]).toBeCloseTo(0, 9)
    expect(length(places, 2)).toBeCloseTo(40, 9)
    expect(length(places, 3)).toBeCloseTo(25, 8)
    expect(length(places, 4)).toBeCloseTo(25, 8)
    const [u, v] = [sub3(places[2]!, places[1]!), sub3(places[3]!, places[2]!)]
    expect(dot3(u, v) / 625).toBeCloseTo(-0.5, 8)
    // 12 unknowns; 1 + 2 + 2 + 1 + 1 + 1 + 1 equations.
    expect(words).toMatch(/7 held, free in 3 ways/)
    // As little as can be: nothing has gone far.
    for (const [k, p] of places.entries())
      expect(norm3(sub3(p, crooked[k] as unknown as P3))).toBeLessThan(16)
  })
  it('figures lead it: expressions stay, numbers give way', async () => {
    const route = (across: number) =>
      placesOf(
        [
          path(
            [
              [0, 0, 0],
              ['across', 5, 0],
              [60, 20, 3],
            ],
            [
              { kind: 'apart', place: 2, other: 3, along: 'x', value: 'across / 2' },
              { kind: 'along', place: 2, axis: 'x' },
              { kind: 'plane', place: 3, plane: 'top' },
            ],
          ),
        ],
        [{ name: 'across', expr: `${across} mm` }],
      )
    for (const across of [30, 47.5]) {
      const { places } = await route(across)
      expect(places[1]![0]).toBeCloseTo(across, 9)
      expect(places[1]![1]).toBeCloseTo(places[0]![1], 9)
      expect(places[2]![0]).toBeCloseTo(1.5 * across, 9)
      expect(places[2]![2]).toBeCloseTo(0, 9)
    }
  })
  it('square to a face of a body, parallel to another line', async () => {
    const p = await exact([base, block], 'block')
    const top = p.faces.find((f) => Math.abs(f.normal[2] - 1) < 1e-9)!.names[0]!
    const { places } = await placesOf([
      base,
      block,
      path(
        [
          [10, 10, 20],
          [13, 8, 45],
          [40, 12, 50],
          [44, 14, 72],
        ],
        [
          { kind: 'square', place: 2, body: 'block', face: face(p, top) },
          { kind: 'parallel', place: 2, other: 4 },
        ],
      ),
    ])
    for (const to of [2, 4]) {
      const [x, y] = sub3(places[to - 1]!, places[to - 2]!)
      expect(Math.hypot(x, y)).toBeLessThan(1e-7)
    }
  })
  it('a place that helps is counted by holds and passed by: three places as far from it as each other', async () => {
    const places: Spot[] = [
      [1, 2, 3],
      [40, 0, 1],
      [2, 38, 0],
      [-35, 3, 2],
    ]
    const spokes = [2, 3, 4].map((other) => ({ kind: 'apart', place: 1, other, value: 30 }))
    const route = path(places, [
      ...spokes,
      ...[1, 2, 3, 4].map((place) => ({ kind: 'plane', place, plane: 'top' })),
    ])
    ;(route.inputs.stops as { aside?: boolean }[])[0]!.aside = true
    const { state } = await built(piece([route]))
    const way = state.paths.way!
    expect(way.names).toEqual(['to3', 'to4'])
    expect(way.aside).toEqual([0])
    const [hub, ...rim] = way.stops!
    for (const p of rim)
      expect([norm3(sub3(p, hub!)), p[2]]).toEqual([expect.closeTo(30, 7), expect.closeTo(0, 9)])
    // Its line begins at the first place that does not help.
    expect(way.pieces[0]).toMatchObject({ kind: 'line', a: rim[0], b: rim[1] })
    const alone = path(places.slice(0, 2), [])
    ;(alone.inputs.stops as { aside?: boolean }[])[0]!.aside = true
    expect((await diagnosis([alone])).code).toBe('too-few')
  })
  it('what cannot hold together is named with its places, and can be let go', async () => {
    const no = await diagnosis([
      path(
        [
          [0, 0, 0],
          [30, 0, 0],
          [30, 40, 0],
        ],
        [
          { kind: 'apart', place: 1, other: 2, value: 30 },
          { kind: 'along', place: 2, axis: 'x' },
          { kind: 'apart', place: 2, other: 3, value: 40 },
          { kind: 'apart', place: 1, other: 3, value: 90 },
        ],
      ),
    ])
    expect(no.code).toBe('over-held')
    expect(no.message).toMatch(/1 to 2: 30 mm; 2 to 3: 40 mm; 1 to 3: 90 mm/)
    expect(no.message).not.toMatch(/along/)
    expect(no.fixes).toHaveLength(3)
    expect((no.fixes[2]!.inputs.holds as object[]).length).toBe(3)
  })
  it('bad input is told: places that are not there, the line to the first, angles, one place twice', async () => {
    const bad = (hold: object, more: object = {}) =>
      diagnosis([
        path(
          [
            [0, 0, 0],
            [30, 0, 0],
            [30, 40, 0],
          ],
          [hold],
          more,
        ),
      ])
    expect((await bad({ kind: 'along', place: 7, axis: 'x' })).code).toBe('no-place')
    expect((await bad({ kind: 'along', place: 1, axis: 'x' })).code).toBe('no-line')
    expect((await bad({ kind: 'along', place: 2, axis: 'nowhere' })).code).toBe('no-axis')
    expect((await bad({ kind: 'plane', place: 2, plane: 'nowhere' })).code).toBe('no-plane')
    expect((await bad({ kind: 'angle', place: 2, other: 3, value: 200 })).code).toBe('angle')
    expect((await bad({ kind: 'apart', place: 2, other: 2, value: 5 })).code).toBe('same-place')
    expect((await bad({ kind: 'apart', place: 1, other: 2, value: -5 })).code).toBe('negative')
    expect((await bad({ kind: 'equal', place: 2, other: 2 })).code).toBe('same-place')
  })
  it('square to a face that is not flat is refused at that', async () => {
    const post = [
      circles(10, 'ring', 'top', [[0, 0, 8]]),
      op(20, 'extrude', 'post', { profile: 'ring', mode: 'new', length: 20 }),
    ]
    const p = await exact(post, 'post')
    const round = p.faces.find((f) => f.kind === 'cylinder')!.names[0]!
    const no = await diagnosis([
      ...post,
      path(
        [
          [8, 0, 10],
          [30, 2, 10],
        ],
        [{ kind: 'square', place: 2, body: 'post', face: face(p, round) }],
      ),
    ])
    expect([no.code, no.places.length]).toEqual(['not-flat', 1])
  })
  it('a closed one: the line to the first comes from the last', async () => {
    const { places } = await placesOf([
      path(
        [
          [0, 0, 0],
          [30, 2, 0],
          [28, 25, 0],
          [-1, 27, 0],
        ],
        [
          { kind: 'along', place: 1, axis: 'y' },
          { kind: 'along', place: 2, axis: 'x' },
          { kind: 'along', place: 3, axis: 'y' },
          { kind: 'parallel', place: 2, other: 4 },
        ],
        { closed: 'yes' },
      ),
    ])
    expect(places[0]![0]).toBeCloseTo(places[3]![0], 9)
    expect(places[3]![1]).toBeCloseTo(places[2]![1], 6)
  })
  it('any rod bent from lengths and right angles comes out with them (property)', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(
          fc.tuple(
            fc.constantFrom('x', 'y', 'z'),
            fc.integer({ min: 5, max: 60 }),
            fc.integer({ min: -3, max: 3 }),
          ),
          { minLength: 2, maxLength: 8 },
        ),
        async (steps) => {
          const at = [0, 0, 0]
          const places: Spot[] = [[0, 0, 0]]
          const holds: object[] = []
          for (const [k, [axis, size, off]] of steps.entries()) {
            at['xyz'.indexOf(axis)]! += size
            // Drawn askew by a tenth at most.
            places.push([at[0]! + off / 3, at[1]! - off / 4, at[2]! + off / 5])
            holds.push({ kind: 'along', place: k + 2, axis })
            holds.push({ kind: 'apart', place: k + 1, other: k + 2, value: size + 1 })
          }
          const { reports, state } = await built(piece([path(places, holds)]))
          expect([
            reports.at(-1)!.status === 'fail',
            reports.at(-1)!.diagnoses[0]?.message,
          ]).toEqual([false, reports.at(-1)!.diagnoses[0]?.message])
          const made = state.paths.way!.stops!
          for (const [k, [axis, size]] of steps.entries()) {
            const d = sub3(made[k + 1]!, made[k]!)
            const want = [0, 0, 0]
            want['xyz'.indexOf(axis)] = size + 1
            for (const c of [0, 1, 2]) expect(d[c]!).toBeCloseTo(want[c]!, 7)
          }
        },
      ),
      { numRuns: 40 },
    )
  })
})
