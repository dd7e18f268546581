import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { faceRef } from '../exact'
import type { P3 } from '../math'
import { fromViews } from '../path'
import { type Curve3, length3, place3 } from '../surface'
import type { Op } from '../workpiece'
import { circles, outline } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { built, diagnosis, exact, piece } from './exactroute.test-data'

const path = (number: number, id: string, inputs: Record<string, unknown>): Op =>
  op(number, 'path', id, inputs)
const arc = (
  number: number,
  id: string,
  plane: string,
  [a, m, b]: readonly [
    readonly [number, number],
    readonly [number, number],
    readonly [number, number],
  ],
): Op =>
  op(number, 'profile', id, {
    plane,
    use: 'open',
    drawing: {
      points: {
        a: { x: a[0], y: a[1] },
        m: { x: m[0], y: m[1] },
        b: { x: b[0], y: b[1] },
      },
      entities: [{ id: 'bow', kind: 'arc', a: 'a', via: 'm', b: 'b' }],
    },
  })
const pathOf = async (route: Op[], id: string) => {
  const { reports, state } = await built(piece(route))
  const last = reports.at(-1)!
  expect([last.id, last.status, last.diagnoses[0]?.message ?? '']).toEqual([last.id, 'ok', ''])
  return { ...state.paths[id]!, words: last.consequence }
}
const spots = (pieces: readonly Curve3[]): P3[] =>
  pieces.flatMap((c) => Array.from({ length: 41 }, (_, i) => place3(c, i / 40)))

describe('a path as two drawings show it', () => {
  it('looks like each of them: an arc from above, a slope from the front', async () => {
    const above = arc(10, 'above', 'top', [
      [-40, 30],
      [0, 50],
      [40, 30],
    ])
    const slope = outline(
      20,
      'slope',
      'front',
      [
        [-60, -30],
        [50, 25],
      ],
      false,
    )
    const { pieces } = await pathOf(
      [above, slope, path(30, 'way', { how: 'views', profile: 'above', other: 'slope' })],
      'way',
    )
    const ends = [place3(pieces[0]!, 0)[0], place3(pieces.at(-1)!, 1)[0]].sort((a, b) => a - b)
    expect(ends[0]).toBeCloseTo(-40, 6)
    expect(ends[1]).toBeCloseTo(40, 6)
    for (const [x, y, z] of spots(pieces)) {
      expect(Math.hypot(x, y)).toBeCloseTo(50, 4)
      expect(z).toBeCloseTo(x / 2, 4)
    }
  })
  it('two slopes make a straight line, in pieces where either has a corner', async () => {
    const roof = outline(
      10,
      'roof',
      'front',
      [
        [0, 0],
        [20, 10],
        [40, 0],
      ],
      false,
    )
    const bend = outline(
      20,
      'bend',
      'top',
      [
        [0, 0],
        [30, 6],
        [50, 0],
      ],
      false,
    )
    const { reports, state } = await built(
      piece([roof, bend, path(30, 'way', { how: 'views', profile: 'roof', other: 'bend' })]),
    )
    expect(reports.at(-1)!.status).toBe('warn')
    const { pieces } = state.paths.way!
    expect(pieces.map((c) => c.kind)).toEqual(['line', 'line', 'line'])
    const [, second] = pieces
    expect([...place3(second!, 0)].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([20, 4, 10])
  })
  it('refuses what turns back, stands square, or lies beside', async () => {
    const seen = (a: Op, b: Op) =>
      diagnosis([a, b, path(30, 'way', { how: 'views', profile: a.id, other: b.id })])
    const slope = outline(
      10,
      'slope',
      'front',
      [
        [0, 0],
        [50, 25],
      ],
      false,
    )
    const upright = outline(
      20,
      'up',
      'top',
      [
        [10, 0],
        [10, 25],
      ],
      false,
    )
    expect((await seen(slope, upright)).code).toBe('turns-back')
    const far = outline(
      20,
      'far',
      'top',
      [
        [80, 0],
        [95, 25],
      ],
      false,
    )
    const d = await seen(slope, far)
    expect([d.code, d.message.includes('50')]).toEqual(['beside', true])
    const same = outline(
      20,
      'same',
      'front',
      [
        [0, 5],
        [95, 25],
      ],
      false,
    )
    expect((await seen(slope, same)).code).toBe('same-view')
  })
  it('property: any two slopes on planes at any angle are seen as drawn', () => {
    const n = (least: number, most: number) => fc.integer({ min: least, max: most })
    fc.assert(
      fc.property(n(10, 170), n(-50, 50), n(-50, 50), n(20, 90), n(20, 90), (deg, a, b, p, q) => {
        const w = (deg * Math.PI) / 180
        // Both planes share the x axis.
        const frame = (angle: number) => ({
          origin: [0, 0, 0] as P3,
          x: [1, 0, 0] as P3,
          y: [0, Math.cos(angle), Math.sin(angle)] as P3,
          z: [0, -Math.sin(angle), Math.cos(angle)] as P3,
        })
        const drawn = (f: ReturnType<typeof frame>, long: number, rise: number) => ({
          frame: f,
          pieces: [
            { kind: 'line', a: [0, 0, 0], b: [long, rise * f.y[1], rise * f.y[2]] } as Curve3,
          ],
        })
        const [f, g] = [frame(0), frame(w)]
        const made = fromViews(drawn(f, p, a), drawn(g, q, b))
        if (!made.ok) throw new Error(made.diagnosis.message)
        for (const at of spots(made.value)) {
          const along = (y: P3) => at[1] * y[1] + at[2] * y[2]
          expect(along(f.y)).toBeCloseTo((a * at[0]) / p, 6)
          expect(along(g.y)).toBeCloseTo((b * at[0]) / q, 6)
        }
      }),
      { numRuns: 100 },
    )
  })
})

describe('paths made from others', () => {
  const log: Op[] = [
    circles(10, 'disc', 'front', [[0, 0, 30]]),
    op(20, 'extrude', 'log', { profile: 'disc', mode: 'new', length: 100 }),
  ]
  const skin = async () => {
    const p = await exact(log, 'log')
    return p.faces.flatMap((f, i) => (f.names[0] === 'log:ring1' ? [faceRef(p, i)] : []))
  }
  const over = arc(30, 'over', 'top', [
    [-20, -40],
    [0, -60],
    [20, -40],
  ])
  const flat = path(40, 'flat', { how: 'profile', profile: 'over' })
  it('pulled straight down onto a log: on its skin, and as seen from above', async () => {
    const pull = { how: 'onto', from: 'flat', body: 'log', faces: await skin(), pull: 'straight' }
    const { pieces, words } = await pathOf([...log, over, flat, path(50, 'way', pull)], 'way')
    expect(words).toContain('on the faces within')
    for (const [x, y, z] of spots(pieces)) {
      expect(Math.hypot(x, z)).toBeCloseTo(30, 3)
      expect(Math.hypot(x, y + 40)).toBeCloseTo(20, 2)
    }
  })
  it('pulled straight from the axis, both sides as near: onto the side the plane looks to', async () => {
    const mid = outline(
      30,
      'mid',
      'top',
      [
        [-20, -70],
        [20, -20],
      ],
      false,
    )
    const route = [...log, mid, path(40, 'flat', { how: 'profile', profile: 'mid' })]
    const pull = { how: 'onto', from: 'flat', body: 'log', faces: await skin(), pull: 'straight' }
    const { pieces } = await pathOf([...route, path(50, 'way', { ...pull, plane: 'top' })], 'way')
    for (const [x, , z] of spots(pieces)) expect(z).toBeCloseTo(Math.sqrt(900 - x * x), 3)
  })
  it('pulled to the nearest places: straight out from the axis', async () => {
    const lifted: Op[] = [
      op(25, 'plane', 'above', { how: 'offset', from: 'top', offset: 45 }),
      { ...over, inputs: { ...over.inputs, plane: 'above' } },
      flat,
    ]
    const pull = { how: 'onto', from: 'flat', body: 'log', faces: await skin(), pull: 'nearest' }
    const { pieces } = await pathOf([...log, ...lifted, path(50, 'way', pull)], 'way')
    const start = place3(pieces[0]!, 0)
    const k = 30 / Math.hypot(20, 45)
    expect(Math.abs(start[0])).toBeCloseTo(20 * k, 3)
    expect(start[1]).toBeCloseTo(-40, 3)
    expect(start[2]).toBeCloseTo(45 * k, 3)
  })
  it('refuses where nothing is behind it', async () => {
    const wide = arc(30, 'over', 'top', [
      [-50, -40],
      [0, -60],
      [50, -40],
    ])
    const pull = { how: 'onto', from: 'flat', body: 'log', faces: await skin(), pull: 'straight' }
    const d = await diagnosis([...log, wide, flat, path(50, 'way', pull)])
    expect(d.code).toBe('beside')
    expect(d.places).toHaveLength(1)
  })
  it('lines of a lofted face: its rings and its rulings', async () => {
    const cone: Op[] = [
      circles(10, 'a', 'top', [[0, 0, 20]]),
      op(20, 'plane', 'up', { how: 'offset', from: 'top', offset: 60 }),
      circles(30, 'b', 'up', [[0, 0, 10]]),
      op(40, 'loft', 'cone', { sections: [{ profile: 'a' }, { profile: 'b' }], mode: 'new' }),
    ]
    const p = await exact(cone, 'cone')
    const side = faceRef(
      p,
      p.faces.findIndex((f) => f.kind === 'free'),
    )
    const line = (more: object) =>
      path(50, 'way', { how: 'line', body: 'cone', faces: [side], ...more })
    const ring = await pathOf([...cone, line({ lines: 'along', fraction: 0.25 })], 'way')
    const long = ring.pieces.reduce((sum, c) => sum + length3(c), 0)
    expect(long).toBeCloseTo(2 * Math.PI * 17.5, 3)
    expect(ring.closed).toBe(true)
    const ruling = await pathOf([...cone, line({ lines: 'across', fraction: 0.4 })], 'way')
    expect(length3(ruling.pieces[0]!)).toBeCloseTo(Math.hypot(60, 10), 4)
    const end = faceRef(
      p,
      p.faces.findIndex((f) => f.kind === 'plane'),
    )
    expect(
      (await diagnosis([...cone, path(50, 'way', { how: 'line', body: 'cone', faces: [end] })]))
        .code,
    ).toBe('no-lines')
  })
  it('in a mirror, and smoothly through a few of its places, with how far that is off', async () => {
    const coil = path(10, 'coil', { how: 'helix', radius: 20, turns: 2, height: 30 })
    const over = await pathOf(
      [coil, path(20, 'way', { how: 'mirror', from: 'coil', plane: 'side' })],
      'way',
    )
    const [x, y, z] = place3(over.pieces[0]!, 0)
    expect([x, y, z].map((v) => Math.round(v * 1e6) / 1e6 + 0)).toEqual([-20, 0, 0])
    const off = async (count: number) => {
      const { words } = await pathOf(
        [coil, path(20, 'way', { how: 'refit', from: 'coil', count })],
        'way',
      )
      return Number(/off by ([\d.]+) mm/.exec(words)![1])
    }
    const [few, many] = [await off(9), await off(33)]
    expect(few).toBeGreaterThan(0.05)
    expect(many).toBeLessThan(few / 50)
    expect(
      (await diagnosis([coil, path(20, 'way', { how: 'refit', from: 'coil', count: 2 })])).code,
    ).toBe('not-whole')
  })
  it('an arc over a place to the next: a quarter of a circle, and what is no arc', async () => {
    const stops = (...list: [number, number, number, string][]) =>
      path(10, 'way', { how: 'stops', stops: list.map(([x, y, z, by]) => ({ x, y, z, by })) })
    const r = 10 / Math.SQRT2
    const { pieces } = await pathOf(
      [stops([10, 0, 0, 'line'], [r, 0, r, 'over'], [0, 0, 10, 'line'], [-5, 0, 10, 'line'])],
      'way',
    )
    expect(pieces.map((c) => c.kind)).toEqual(['arc', 'line'])
    expect(length3(pieces[0]!)).toBeCloseTo(5 * Math.PI, 9)
    const open = await diagnosis([stops([10, 0, 0, 'line'], [r, 0, r, 'over'])])
    expect(open.code).toBe('no-end')
    const flat = await diagnosis([stops([10, 0, 0, 'line'], [5, 0, 0, 'over'], [0, 0, 0, 'line'])])
    expect(flat.code).toBe('straight')
  })
})
