import { describe, expect, it } from 'vitest'
import type { ExactPart } from '../exact'
import type { Op } from '../workpiece'
import { circles, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { built, diagnosis, exact, piece, volume } from './exactroute.test-data'

/** An arc of radius 20 over a plane, from so many degrees to the rest of a half turn. */
const arch = (number: number, id: string, on: string, from: number): Op => {
  const at = (deg: number) => ({
    x: 20 * Math.cos((deg * Math.PI) / 180),
    y: 20 * Math.sin((deg * Math.PI) / 180),
  })
  return op(number, 'profile', id, {
    plane: on,
    use: 'open',
    drawing: {
      points: { a: at(from), m: at(90), b: at(180 - from) },
      entities: [{ id: 'bow', kind: 'arc', a: 'a', via: 'm', b: 'b' }],
    },
  })
}
const loft = (more: object = {}): Op =>
  op(80, 'loft', 'skin', {
    sections: [{ profile: 'a' }, { profile: 'b' }],
    mode: 'sheet',
    ...more,
  })
/** Part of a cylinder of radius 20, 60 long, that begins so many degrees above level. */
const vault = (from: number): Op[] => [
  arch(10, 'a', 'front', from),
  op(20, 'plane', 'far', { how: 'offset', from: 'front', offset: 60 }),
  arch(30, 'b', 'far', from),
  loft(),
]
const tube = [
  circles(10, 'a', 'top', [[0, 0, 20]]),
  op(20, 'plane', 'up', { how: 'offset', from: 'top', offset: 50 }),
  circles(30, 'b', 'up', [[0, 0, 20]]),
  loft(),
]
const thick = (more: object = {}): Op =>
  op(90, 'thicken', 'wall', { sheet: 'skin', side: 'one', wall: 2, mode: 'new', ...more })
const ring = (r: number, t: number, h: number) => Math.PI * ((r + t) ** 2 - r ** 2) * h

describe('a sheet', () => {
  it('is no body, and tells its area', async () => {
    const { state, reports } = await built(piece(vault(0)))
    expect([state.bodies.skin, Object.keys(state.sheets), state.sheets.skin!.closed]).toEqual([
      undefined,
      ['skin'],
      false,
    ])
    expect(reports.at(-1)!.consequence).toContain(
      `a sheet of ${((Math.PI * 20 * 60) / 100).toFixed(2)} cm²`,
    )
  })
  it('gets an even wall on one side, the other, or both: parts of rings', async () => {
    const halves = { one: ring(20, 2, 60) / 2, other: ring(18, 2, 60) / 2 }
    const of = async (side: string) => volume([...vault(0), thick({ side })], 'wall')
    const [one, other] = [await of('one'), await of('other')]
    const found = [one, other].sort((a, b) => a - b)
    expect(found[0]! / halves.other).toBeCloseTo(1, 5)
    expect(found[1]! / halves.one).toBeCloseTo(1, 5)
    expect((await of('middle')) / (ring(19, 2, 60) / 2)).toBeCloseTo(1, 5)
  })
  it('or a straight one: what is seen along the way times the wall', async () => {
    const p = await exact([...vault(30), thick({ along: 'top', wall: 3 })], 'wall')
    expect(p.measure.volume / (2 * 20 * Math.cos(Math.PI / 6) * 60 * 3)).toBeCloseTo(1, 6)
    expect((await diagnosis([...vault(0), thick({ along: 'top' })])).code).toBe('along-skin')
  })
  it('that closes round becomes a tube, with nothing where it meets itself', async () => {
    const p = await exact([...tube, thick()], 'wall')
    expect(p.measure.volume / ring(20, 2, 50)).toBeCloseTo(1, 5)
    expect(new Set(p.faces.flatMap((f) => f.names))).toEqual(
      new Set(['skin:ring1', 'wall:over(skin:ring1)', 'wall:start', 'wall:end']),
    )
  })
  it('with a corner where it meets itself takes no even wall, which is told with the place', async () => {
    const drop = (n: number, id: string, z: number) =>
      op(n, 'path', id, {
        closed: 'yes',
        stops: [
          { x: 30, y: 0, z, by: 'line' },
          { x: 0, y: 15, z, by: 'line' },
          { x: -12, y: 0, z, by: 'spline' },
          { x: 0, y: -15, z, by: 'spline' },
        ],
      })
    const route = [
      drop(10, 'a', 0),
      drop(20, 'b', 40),
      loft({ sections: [{ path: 'a' }, { path: 'b' }] }),
    ]
    const { reports } = await built(piece([...route, thick()]))
    const d = reports.at(-1)!.diagnoses[0]!
    expect([d.code, d.places.length]).toEqual(['creased', 1])
    expect(d.places[0]!.at[0]).toBeCloseTo(30, 3)
  })
  it('its wall is added to a body', async () => {
    // A block under it, up to half its height: what of the tube lies outside the block is added.
    const plate = rectangle(40, 'plate', 'top', [-30, -30], [60, 60])
    const slab = op(50, 'extrude', 'slab', { profile: 'plate', mode: 'new', length: 25 })
    const joined = await volume(
      [...tube, plate, slab, thick({ mode: 'join', body: 'slab' })],
      'slab',
    )
    expect(joined / (60 * 60 * 25 + ring(20, 2, 25))).toBeCloseTo(1, 5)
  })
  it('leaves with a corner, drawn in to points: thin triangles there are not taken for a crossing', async () => {
    const leaf = (n: number, id: string, x: number, z: number) =>
      op(n, 'path', id, {
        stops: [
          { x: 0, y: 0, z: 0 },
          { x, y: 20, z },
          { x: 0, y: 45, z: 0 },
        ],
      })
    // Kinks of paths are told, so not all is without a word.
    const kinked = async (ops: Op[]) => {
      const { shape } = (await built(piece(ops))).state.bodies.wall!
      return (shape as ExactPart).measure.volume
    }
    const route = [
      leaf(10, 'a', -12, 0),
      leaf(20, 'b', 0, 8),
      leaf(30, 'c', 12, 0),
      loft({ sections: ['a', 'b', 'c'].map((path) => ({ path })) }),
    ]
    for (const side of ['one', 'other', 'middle'])
      expect(await kinked([...route, thick({ along: 'top', side })])).toBeCloseTo(2 * 12 * 45, 6)
  })
  it('what cannot be is told: no sheet, a wall beyond its bend, holes', async () => {
    expect((await diagnosis([thick()])).code).toBe('no-sheet')
    const wide = await diagnosis([...vault(0), thick({ side: 'other', wall: 21 })])
    const far = await diagnosis([...vault(0), thick({ side: 'one', wall: 21 })])
    expect([wide, far].some((d) => d.code === 'too-tight' && d.places.length === 1)).toBe(true)
    const pipes = [
      circles(10, 'a', 'top', [
        [0, 0, 20],
        [0, 0, 15],
      ]),
      op(20, 'plane', 'up', { how: 'offset', from: 'top', offset: 50 }),
      circles(30, 'b', 'up', [
        [0, 0, 20],
        [0, 0, 15],
      ]),
      loft(),
    ]
    expect((await diagnosis(pipes)).code).toBe('holes')
  })
})
