import { beforeAll, describe, expect, test } from 'vitest'
import { type P3, placeAt } from '../math'
import type { Op } from '../workpiece'
import { circles, outline, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { built, diagnosis, exact, piece, the } from './exactroute.test-data'

beforeAll(the)

const lengthBetween = (a: P3, b: P3) => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])
const cage = (start: object, edits: object[] = [], more: object = {}) =>
  op(30, 'cage', 'cage', { start, edits, within: 0.01, mode: 'new', ...more })
const carried = (more: object = {}) => ({
  kind: 'carried',
  profile: 'area',
  height: 30,
  columns: 12,
  bands: 3,
  floor: 'shut',
  lid: 'shut',
  ...more,
})
const area = (points: [number, number][], plane = 'top') => outline(10, 'area', plane, points, true)

describe('a cage that begins as an area carried up', () => {
  test('a corner stays one: a wedge of any size, on any plane, up or down, is a prism', async () => {
    const wedge: [number, number][] = [
      [5, 2],
      [65, 2],
      [5, 47],
    ]
    for (const [plane, height] of [
      ['top', 30],
      ['front', -17],
      ['side', 4],
    ] as const) {
      const part = await exact([area(wedge, plane), cage(carried({ height }))], 'cage')
      expect(part.measure.volume).toBeCloseTo(((60 * 45) / 2) * Math.abs(height), 3)
      expect(part.faces).toHaveLength(5)
    }
  })
  test('a circle: a cylinder, as round as twelve cubic curves are', async () => {
    const part = await exact([circles(10, 'area', 'top', [[0, 0, 20]]), cage(carried())], 'cage')
    expect(Math.abs(part.measure.volume / (Math.PI * 400 * 30) - 1)).toBeLessThan(1e-3)
    const finer = await exact(
      [circles(10, 'area', 'top', [[0, 0, 20]]), cage(carried({ columns: 48 }))],
      'cage',
    )
    expect(Math.abs(finer.measure.volume / (Math.PI * 400 * 30) - 1)).toBeLessThan(1e-5)
  })
  test('its upper rim cut off: sharp columns end under it, and nothing folds there', async () => {
    const cut = cage(carried({ height: 60, bands: 4 }), [
      { id: 'e1', kind: 'bevel', on: ['row 4'], by: 2 },
    ])
    const { measure } = await exact(
      [rectangle(10, 'area', 'top', [-30, -20], [60, 40]), cut],
      'cage',
    )
    expect([measure.closed, measure.valid, measure.solids]).toEqual([true, true, 1])
    // Between what is left below the second row from above and the whole prism.
    expect(measure.volume).toBeGreaterThan(60 * 40 * 45)
    expect(measure.volume).toBeLessThan(60 * 40 * 60)
  })
  test('edits go on from it: turned by its rows, with its symmetry', async () => {
    const square = rectangle(10, 'area', 'top', [-20, -20], [40, 40])
    const twist = {
      id: 'e1',
      kind: 'rows',
      rows: ['1', '2', '3'].map((row) => ({ row, twist: '10 deg' })),
    }
    const part = await exact([square, cage(carried({ columns: 8 }), [twist], { turns: 4 })], 'cage')
    // Every level is the square turned: near to its area.
    expect(Math.abs(part.measure.volume / (1600 * 30) - 1)).toBeLessThan(0.03)
    expect(part.measure.bounds.max[2]).toBeCloseTo(30, 6)
  })
  test('two areas, holes, no height and no profile are told', async () => {
    const two = [
      circles(10, 'area', 'top', [
        [0, 0, 5],
        [30, 0, 5],
      ]),
      cage(carried()),
    ]
    expect((await diagnosis(two)).message).toContain('2 areas')
    const hole = [
      circles(10, 'area', 'top', [
        [0, 0, 15],
        [0, 0, 5],
      ]),
      cage(carried()),
    ]
    expect((await diagnosis(hole)).message).toContain('1 hole')
    const flat = [circles(10, 'area', 'top', [[0, 0, 15]]), cage(carried({ height: 0 }))]
    expect((await diagnosis(flat)).message).toContain('height')
    expect((await diagnosis([cage(carried())])).message).toContain('profile')
  })
})

describe('a flat cage over an area', () => {
  const plate = (columns: number) =>
    cage({ kind: 'region', profile: 'area', columns }, [
      { id: 'e1', kind: 'thicken', by: 2, side: 'out' },
    ])
  test('made a wall it has the area of what was drawn: a rectangle, an L, a circle', async () => {
    const box = await exact([rectangle(10, 'area', 'top', [3, 4], [50, 30]), plate(12)], 'cage')
    expect(box.measure.volume).toBeCloseTo(50 * 30 * 2, 3)
    const disc = await exact([circles(10, 'area', 'top', [[7, 1, 25]]), plate(24)], 'cage')
    expect(Math.abs(disc.measure.volume / (Math.PI * 625 * 2) - 1)).toBeLessThan(1e-4)
  })
  test('without a wall it encloses nothing, on any plane: told with its cure, which holds; pushed it is a body', async () => {
    for (const plane of ['top', 'front', 'side']) {
      const drawn = rectangle(10, 'area', plane, [3, 4], [50, 30])
      const flat = (edits: object[]) =>
        cage({ kind: 'region', profile: 'area', columns: 12 }, edits)
      const told = await diagnosis([drawn, flat([{ id: 'e1', kind: 'finer' }])])
      expect([told.code, told.fixes.length]).toEqual(['cage-flat', 1])
      const edits = told.fixes[0]!.inputs.edits as object[]
      const { measure } = await exact([drawn, flat(edits)], 'cage')
      expect(measure.volume).toBeCloseTo(50 * 30 * 2.5, 3)
    }
    const sheet = cage({ kind: 'plane', sx: 60, sy: 40, across: 4, along: 4 }, [
      { id: 'e1', kind: 'move', on: ['2.2'], z: 8 },
    ])
    expect((await exact([sheet], 'cage')).measure.volume).toBeGreaterThan(100)
  })
  test('corners that bend in are rounded: sharp, the form would fold there, which is told with its place', async () => {
    const kidney = area([
      [0, 0],
      [70, 0],
      [90, 30],
      [70, 60],
      [0, 60],
      [15, 30],
    ])
    const part = await exact([kidney, plate(12)], 'cage')
    const whole = (70 * 60 + (20 * 60) / 2 - (15 * 60) / 2) * 2
    expect(Math.abs(part.measure.volume / whole - 1)).toBeLessThan(0.02)
    const sharp = cage({ kind: 'region', profile: 'area', columns: 12 }, [
      { id: 'e0', kind: 'corner', on: ['row 0'], sharp: 10 },
      // Bulging: where all of it is flat it is one flat face.
      { id: 'e2', kind: 'move', on: ['row 1'], z: 4 },
      { id: 'e1', kind: 'thicken', by: 2, side: 'out' },
    ])
    const folds = await diagnosis([kidney, sharp])
    expect(['cage-folds', 'crosses-itself']).toContain(folds.code)
    expect(Math.hypot(folds.places[0]!.at[0]! - 15, folds.places[0]!.at[1]! - 30)).toBeLessThan(8)
  })
  test('where it would fold it says so, with the place; an odd number of points too', async () => {
    const hook = area([
      [0, 0],
      [60, 0],
      [60, 50],
      [52, 50],
      [52, 8],
      [0, 8],
    ])
    const folds = await diagnosis([hook, plate(24)])
    expect(folds.code).toBe('cage-folds')
    expect(folds.places).toHaveLength(1)
    expect((await diagnosis([hook, plate(13)])).message).toContain('even')
  })
})

describe('points put onto a path', () => {
  const path = (stops: [number, number, number][], closed: boolean) =>
    op(20, 'path', 'way', {
      how: 'stops',
      stops: stops.map(([x, y, z]) => ({ x, y, z, rel: false, by: 'line' })),
      closed: closed ? 'yes' : 'no',
    })
  const tube = { kind: 'cylinder', radius: 20, height: 30, columns: 8, bands: 3 }
  const frame = path(
    [
      [30, 30, 50],
      [-30, 30, 50],
      [-30, -30, 40],
      [30, -30, 40],
    ],
    true,
  )
  /** The rim of the tube after an edit, and what the edit said. */
  const rim = async (way: Op, edit: object, start: object = tube) => {
    const e = { id: 'e1', kind: 'along', on: ['row 3'], path: 'way', ...edit }
    const report = (await built(piece([way, cage(start, [e])]))).reports.at(-1)!
    const { at, rows } = report.shown?.cage ?? { at: new Float64Array(0), rows: [] }
    return {
      at: (rows.at(-1)?.points ?? []).map((p) => placeAt(at, p)),
      said: report.diagnoses[0]?.message ?? '',
    }
  }
  test('the rim of a tube onto a closed path: evenly by its length, or each where it is nearest', async () => {
    const even = await rim(frame, { spread: 'even' })
    const steps = even.at.map((p, k) => lengthBetween(p, even.at[(k + 1) % 8]!))
    const round = 60 + Math.hypot(60, 10) + 60 + Math.hypot(60, 10)
    // Chords where it turns a corner are shorter than the way.
    for (const s of steps) expect(s).toBeLessThan(round / 8 + 1e-6)
    expect(steps.filter((s) => Math.abs(s - round / 8) < 1e-6).length).toBeGreaterThanOrEqual(4)
    const kept = await rim(frame, {})
    // From (20, 0, 30) the foot on the line (30, y, 45 + y / 6).
    const y = -2.5 / (1 + 1 / 36)
    expect(lengthBetween(kept.at[0]!, [30, y, 45 + y / 6])).toBeLessThan(1e-5)
  })
  test('one side of a plane onto an open path: its ends to the ends, evenly between', async () => {
    const slope = path(
      [
        [-30, 40, 0],
        [30, 40, 30],
      ],
      false,
    )
    const flat = { kind: 'plane', sx: 60, sy: 40, across: 4, along: 3 }
    const { at } = await rim(slope, { spread: 'even' }, flat)
    const steps = at.slice(1).map((p, k) => lengthBetween(p, at[k]!))
    for (const s of steps) expect(s).toBeCloseTo(steps[0]!, 9)
    expect(steps[0]!).toBeGreaterThan(10)
    for (const p of at) expect(p[2]).toBeCloseTo((p[0] + 30) / 2, 9)
  })
  test('what is no one line, and a line that closes onto one that does not, are told', async () => {
    const open = path(
      [
        [0, 0, 50],
        [9, 0, 50],
      ],
      false,
    )
    expect((await rim(open, { spread: 'even' })).said).toContain('closes')
    const both = await rim(frame, { spread: 'even', on: ['row 3', 'row 1'] })
    expect(both.said).toContain('one line')
    expect((await rim(frame, { path: 'gone' })).said).toContain('Choose the path')
  })
})
