import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type ExactPart, faceRef } from '../exact'
import { norm3, type P3, sub3 } from '../math'
import { length3, place3 } from '../surface'
import type { Op } from '../workpiece'
import { circles, rectangle } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { built, diagnosis, exact, piece, volume } from './exactroute.test-data'

const through = (number: number, id: string, places: readonly P3[], more: object = {}): Op =>
  op(number, 'path', id, {
    how: 'stops',
    stops: places.map(([x, y, z]) => ({ x, y, z, by: 'line' })),
    ...more,
  })
const sweep = (more: object): Op =>
  op(90, 'sweep', 'bar', {
    path: 'way',
    section: 'rectangle',
    wide: 6,
    high: 2,
    mode: 'new',
    ...more,
  })
const straight = through(10, 'way', [
  [0, 0, 0],
  [0, 0, 50],
])

describe('sweeps turned by a guide rail', () => {
  it('beside a straight path nothing changes; sized by a rail that comes nearer it is a frustum', async () => {
    const beside = through(20, 'rail', [
      [10, 0, 0],
      [10, 0, 50],
    ])
    const plain = { standing: 'guide', guide: 'rail' }
    expect(await volume([straight, beside, sweep(plain)], 'bar')).toBeCloseTo(600, 6)
    const nearer = through(20, 'rail', [
      [10, 0, -5],
      [4.5, 0, 50],
    ])
    // At the start 9.5 away, at the end 4.5: both measures of the section shrink so.
    const k = 4.5 / 9.5
    const p = await exact([straight, nearer, sweep({ ...plain, sized: 'yes' })], 'bar')
    expect(p.measure.volume).toBeCloseTo(((12 * 50) / 3) * (1 + k + k * k), 5)
    expect(await volume([straight, nearer, sweep(plain)], 'bar')).toBeCloseTo(600, 6)
  })
  it('round a helix it is twisted as that winds, and what touches it stays on it', async () => {
    const rail = op(20, 'path', 'rail', {
      how: 'helix',
      radius: 3,
      turns: 0.75,
      height: 50,
    })
    const p = await exact(
      [straight, rail, sweep({ standing: 'guide', guide: 'rail', sized: 'yes' })],
      'bar',
    )
    // Twisting changes no volume; the middle of the side that looked along x has turned by 270 degrees.
    expect(p.measure.volume / 600).toBeCloseTo(1, 6)
    const end = p.faces.find((f) => f.names.includes('bar:end'))!
    expect(end.area).toBeCloseTo(12, 6)
    const [low, high] = [p.measure.bounds.min, p.measure.bounds.max]
    const reach = Math.hypot(3, 1)
    expect(low[1]).toBeCloseTo(-reach, 2)
    expect(high[0]).toBeLessThan(reach + 1e-3)
    const { state } = await built(piece([straight, rail]))
    const helix = state.paths.rail!.pieces[0]!
    const tri = p.mesh
    let worst = 0
    for (let k = 1; k < 12; k++) {
      const at = place3(helix, k / 12)
      worst = Math.max(worst, nearest(tri.positions, tri.triangles, at))
    }
    expect(worst).toBeLessThan(0.12)
  })
  it('refused where the rail ends too early, touches the path, or is not there', async () => {
    const short = through(20, 'rail', [
      [10, 0, 0],
      [10, 0, 30],
    ])
    const no = await diagnosis([straight, short, sweep({ standing: 'guide', guide: 'rail' })])
    expect(no.code).toBe('guide-short')
    expect((no.places[0]!.at as P3)[2]).toBeGreaterThan(29)
    const cross = through(20, 'rail', [
      [10, 0, 0],
      [-10, 0, 50],
    ])
    const met = await diagnosis([straight, cross, sweep({ standing: 'guide', guide: 'rail' })])
    expect(met.code).toBe('on-guide')
    const none = await diagnosis([straight, sweep({ standing: 'guide', guide: 'way' })])
    expect(none.code).toBe('no-guide')
  })
})

/** The distance of a place from the nearest of some triangles. */
function nearest(p: Float32Array | Float64Array, t: Uint32Array, at: P3): number {
  let best = Number.POSITIVE_INFINITY
  const corner = (i: number): P3 => [p[3 * i]!, p[3 * i + 1]!, p[3 * i + 2]!]
  for (let k = 0; k < t.length; k += 3) {
    const [a, b, c] = [corner(t[k]!), corner(t[k + 1]!), corner(t[k + 2]!)]
    for (let i = 0; i <= 12; i++)
      for (let j = 0; j <= 12 - i; j++) {
        const [u, v] = [i / 12, j / 12]
        const q = [0, 1, 2].map((x) => a[x]! + u * (b[x]! - a[x]!) + v * (c[x]! - a[x]!))
        best = Math.min(best, norm3(sub3(q as unknown as P3, at)))
      }
  }
  return best
}

/** A round bar along y with a radius of 20. */
const log = [
  circles(10, 'round', 'front', [[0, 0, 20]]),
  op(20, 'extrude', 'log', { profile: 'round', mode: 'new', length: 80 }),
]

/** Its cylindrical faces: a drawn circle makes four. */
const rounds = (p: ExactPart) =>
  p.faces.flatMap((f, k) => (f.kind === 'cylinder' ? [faceRef(p, k)] : []))

describe('sweeps that stand on faces', () => {
  it('a strip round a cylinder lies flat on it: the volume of a ring', async () => {
    const hoop = through(30, 'way', [
      [20, -40, 0],
      [0, -40, 20],
      [-20, -40, 0],
    ])
    const bow = {
      ...hoop,
      inputs: {
        ...hoop.inputs,
        stops: [
          { x: 20, y: -40, z: 0, by: 'line' },
          { x: 0, y: -40, z: 20, by: 'over' },
          { x: -20, y: -40, z: 0, by: 'line' },
        ],
      },
    }
    const p = await exact(log, 'log')
    const strip = await exact(
      [...log, bow, sweep({ standing: 'face', on: 'log', faces: rounds(p) })],
      'bar',
    )
    // Half a ring, 6 along the axis and 2 high about radius 20.
    expect(strip.measure.volume).toBeCloseTo(Math.PI * 20 * 12, 4)
    const { min, max } = strip.measure.bounds
    expect(max[1] - min[1]).toBeCloseTo(6, 4)
    expect(max[2]).toBeCloseTo(21, 3)
  })
  it('along a helix on it, it keeps flat on the cylinder', async () => {
    const helix = op(30, 'path', 'way', {
      how: 'helix',
      axis: 'axle',
      radius: 20,
      turns: 1,
      height: 60,
    })
    const axle = op(28, 'axis', 'axle', {
      how: 'points',
      p1: { x: 0, y: -10, z: 0 },
      p2: { x: 0, y: -70, z: 0 },
    })
    const { reports } = await built(piece([...log, axle]))
    expect(reports.at(-1)!.status).toBe('ok')
    const p = await exact(log, 'log')
    const strip = await exact(
      [...log, axle, helix, sweep({ standing: 'face', on: 'log', faces: rounds(p) })],
      'bar',
    )
    // The section's centroid stays on the helix: area times its length (Pappus).
    const length = Math.hypot(2 * Math.PI * 20, 60)
    expect(strip.measure.volume / (12 * length)).toBeCloseTo(1, 5)
  })
  it('refused off the faces, and over their edges', async () => {
    const p = await exact(log, 'log')
    const off = through(30, 'way', [
      [20, -10, 0],
      [25, -60, 0],
    ])
    const no = await diagnosis([
      ...log,
      off,
      sweep({ standing: 'face', on: 'log', faces: rounds(p) }),
    ])
    expect(no.code).toBe('off-faces')
    expect(no.message).toMatch(/5\.00 mm off|mm off/)
    const none = await diagnosis([...log, off, sweep({ standing: 'face', on: 'log' })])
    expect(none.code).toBe('no-faces')
  })
})

const pathOf = async (route: Op[], id: string) => {
  const { reports, state } = await built(piece(route))
  const last = reports.at(-1)!
  expect([last.status, last.diagnoses[0]?.message ?? '']).toEqual(['ok', ''])
  return state.paths[id]!
}

describe('a path where faces go through each other', () => {
  const post = [
    circles(30, 'ring', 'top', [[0, -40, 8]]),
    op(40, 'extrude', 'post', { profile: 'ring', mode: 'new', length: 60 }),
  ]
  it('of a bar and a post: on both cylinders everywhere, one closed line', async () => {
    const route = [...log, ...post]
    const [a, b] = [await exact(route, 'log'), await exact(route, 'post')]
    const path = await pathOf(
      [
        ...route,
        op(50, 'path', 'way', {
          how: 'meeting',
          body: 'log',
          faces: rounds(a),
          with: 'post',
          others: rounds(b),
        }),
      ],
      'way',
    )
    expect(path.closed).toBe(true)
    for (const c of path.pieces)
      for (let k = 0; k <= 20; k++) {
        const [x, y, z] = place3(c, k / 20)
        expect(Math.hypot(x, z)).toBeCloseTo(20, 4)
        expect(Math.hypot(x, y + 40)).toBeCloseTo(8, 4)
      }
  })
  it('in two lines apart: which is asked, each is offered and taken', async () => {
    // The top of a bar right through a post of radius 8: an arc on either side, each over two of its faces.
    const route = [
      rectangle(10, 'flat', 'top', [-30, -4], [60, 8]),
      op(20, 'extrude', 'bar', { profile: 'flat', mode: 'new', length: 20 }),
      circles(30, 'ring', 'top', [[0, 0, 8]]),
      op(40, 'extrude', 'post', { profile: 'ring', mode: 'new', length: 60 }),
    ]
    const [bar, post] = [await exact(route, 'bar'), await exact(route, 'post')]
    const top = bar.faces.findIndex((f) => Math.abs((f.normal ?? [0, 0, 0])[2]! - 1) < 1e-9)
    const way = (more: object) =>
      op(50, 'path', 'way', {
        how: 'meeting',
        body: 'bar',
        faces: [faceRef(bar, top)],
        with: 'post',
        others: rounds(post),
        ...more,
      })
    const asked = await diagnosis([...route, way({})])
    expect([asked.code, asked.places.length]).toEqual(['several-lines', 2])
    expect(asked.fixes.map((f) => f.inputs)).toEqual([{ which: 1 }, { which: 2 }])
    for (const [which, side] of [
      [1, -1],
      [2, 1],
    ] as const) {
      const { pieces, closed } = await pathOf([...route, way({ which })], 'way')
      expect(closed).toBe(false)
      const length = pieces.reduce((sum, c) => sum + length3(c), 0)
      expect(length).toBeCloseTo(2 * 8 * Math.asin(0.5), 5)
      expect(Math.sign(place3(pieces[0]!, 0.5)[0])).toBe(side)
    }
    expect((await diagnosis([...route, way({ which: 3 })])).message).toContain('2 lines')
  })
  it('of flat faces: lines; refused where they do not meet', async () => {
    const route = [
      rectangle(10, 'flat', 'top', [0, 0], [60, 40]),
      op(20, 'extrude', 'block', { profile: 'flat', mode: 'new', length: 20 }),
      rectangle(30, 'mid', 'top', [10, 10], [20, 20]),
      op(40, 'extrude', 'peg', { profile: 'mid', mode: 'new', length: 50 }),
    ]
    const [block, peg] = [await exact(route, 'block'), await exact(route, 'peg')]
    const found = block.faces.findIndex((f) => Math.abs((f.normal ?? [0, 0, 0])[2]! - 1) < 1e-9)
    const upright = peg.faces.findIndex((f) => Math.abs((f.normal ?? [0, 0, 0])[1]! + 1) < 1e-9)
    const way = (faces: unknown[], others: unknown[]) =>
      op(50, 'path', 'way', { how: 'meeting', body: 'block', faces, with: 'peg', others })
    const path = await pathOf(
      [...route, way([faceRef(block, found)], [faceRef(peg, upright)])],
      'way',
    )
    expect(path.pieces.map((c) => c.kind)).toEqual(['line'])
    expect(length3(path.pieces[0]!)).toBeCloseTo(20, 9)
    const bottom = block.faces.findIndex((f) => Math.abs((f.normal ?? [0, 0, 0])[0]! - 1) < 1e-9)
    const no = await diagnosis([...route, way([faceRef(block, bottom)], [faceRef(peg, upright)])])
    expect(no.code).toBe('apart')
  })
})

describe('a path beside another', () => {
  const beside = (more: object): Op =>
    op(20, 'path', 'aside', { how: 'beside', from: 'way', plane: 'top', distance: 5, ...more })
  it('straight pieces with mitred corners, arcs as arcs, heights kept', async () => {
    const square = through(
      10,
      'way',
      [
        [0, 0, 3],
        [40, 0, 3],
        [40, 30, 3],
        [0, 30, 3],
      ],
      { closed: 'yes' },
    )
    const { reports, state } = await built(piece([square, beside({})]))
    expect(reports.at(-1)!.status).toBe('warn')
    const inner = state.paths.aside!
    expect(inner.pieces.reduce((s, c) => s + length3(c), 0)).toBeCloseTo(100, 9)
    expect(place3(inner.pieces[0]!, 0)).toEqual([5, 5, 3])
    const rounded = { ...square, inputs: { ...square.inputs, round: 8 } }
    const out = await pathOf([rounded, beside({ side: 'right' })], 'aside')
    expect(out.pieces.map((c) => c.kind).filter((k) => k === 'arc')).toHaveLength(4)
    expect(out.pieces.reduce((s, c) => s + length3(c), 0)).toBeCloseTo(
      140 - 64 + 2 * Math.PI * 13,
      9,
    )
  })
  it('property: of a rounded path up a slope, without a kink, its places as far aside in the level, its ends as high', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: -12, max: 25 })), {
          minLength: 2,
          maxLength: 4,
        }),
        fc.double({ min: 1, max: 5, noNaN: true }),
        fc.constantFrom('left', 'right'),
        async (turns, distance, side) => {
          let [x, y, z, way] = [0, 0, 0, 0]
          const stops = [{ x, y, z, by: 'line', round: 0 }]
          for (const [turn, up] of [[0, 8], ...turns] as const) {
            way += (turn * Math.PI) / 180
            x += 50 * Math.cos(way)
            y += 50 * Math.sin(way)
            z += up
            stops.push({ x, y, z, by: 'line', round: 9 })
          }
          const first = { ...op(10, 'path', 'way', { how: 'stops', stops }) }
          const { reports, state } = await built(piece([first, beside({ distance, side })]))
          expect([reports.at(-1)!.status, reports.at(-1)!.diagnoses[0]?.message ?? '']).toEqual([
            'ok',
            '',
          ])
          const [from, path] = [state.paths.way!, state.paths.aside!]
          for (const [i, c] of path.pieces.entries())
            for (const t of [0, 0.31, 0.5, 0.87, 1]) {
              const p = place3(c, t)
              let least = Number.POSITIVE_INFINITY
              for (const f of from.pieces)
                for (let k = 0; k <= 400; k++) {
                  const q = place3(f, k / 400)
                  least = Math.min(least, Math.hypot(p[0] - q[0], p[1] - q[1]))
                }
              expect(Math.abs(least - distance)).toBeLessThan(3e-3)
              const q = place3(from.pieces[i]!, t)
              expect(Math.abs(p[2] - q[2])).toBeLessThan(t === 0 || t === 1 ? 1e-4 : 2)
            }
        },
      ),
      { numRuns: 25 },
    )
  })
  it('any curve in space: as far aside in the level all along, or refused by its bends', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(
          fc.tuple(
            fc.integer({ min: 8, max: 30 }),
            fc.integer({ min: -15, max: 15 }),
            fc.integer({ min: -20, max: 20 }),
          ),
          {
            minLength: 2,
            maxLength: 5,
          },
        ),
        fc.integer({ min: 1, max: 12 }),
        fc.constantFrom('left', 'right'),
        async (steps, distance, side) => {
          let x = 0
          const stops = [{ x: 0, y: 0, z: 0, by: 'spline' }].concat(
            steps.map(([dx, y, z]) => {
              x += dx
              return { x, y, z, by: 'spline' }
            }),
          )
          const way = op(10, 'path', 'way', { how: 'stops', stops })
          const { reports, state } = await built(piece([way, beside({ distance, side })]))
          const first = state.paths.way
          const path = state.paths.aside
          if (!path || !first) {
            expect(reports.at(-1)!.diagnoses[0]!.places.length).toBeGreaterThan(0)
            return
          }
          for (let k = 0; k <= 30; k++) {
            const [p, q] = [place3(first.pieces[0]!, k / 30), place3(path.pieces[0]!, k / 30)]
            expect(q[2]).toBeCloseTo(p[2], 4)
            expect(Math.hypot(q[0] - p[0], q[1] - p[1])).toBeCloseTo(distance, 4)
          }
        },
      ),
      { numRuns: 30 },
    )
  })
  it('refused inside a tighter bend, on an upright piece, past a short one', async () => {
    const tight = op(10, 'path', 'way', {
      how: 'stops',
      round: 4,
      stops: [
        { x: 0, y: 0, z: 0, by: 'line' },
        { x: 40, y: 0, z: 0, by: 'line' },
        { x: 40, y: 40, z: 0, by: 'line' },
      ],
    })
    expect((await diagnosis([tight, beside({})])).code).toBe('folds')
    expect((await diagnosis([straight, beside({})])).code).toBe('upright')
    const step = through(10, 'way', [
      [0, 0, 0],
      [40, 0, 0],
      [40, 6, 0],
      [0, 6, 0],
    ])
    expect((await diagnosis([step, beside({})])).code).toBe('eaten')
  })
})

describe('patterns along a path', () => {
  const ball = [
    rectangle(10, 'flat', 'top', [19, -2], [2, 4]),
    op(20, 'extrude', 'bead', { profile: 'flat', mode: 'new', length: 3 }),
  ]
  const along = (more: object): Op =>
    op(60, 'pattern', 'beads', { body: 'bead', how: 'way', way: 'way', count: 5, ...more })
  it('along a helix: turned with it, upright, or not; as many as asked, at even lengths', async () => {
    const helix = op(30, 'path', 'way', { how: 'helix', radius: 20, turns: 1, height: 40 })
    for (const follow of ['yes', 'upright', 'no']) {
      const p = await exact([...ball, helix, along({ space: 'even', follow })], 'bead')
      expect(p.measure.solids).toBe(5)
      expect(p.measure.volume).toBeCloseTo(5 * 24, 6)
      // The one half-way round lies 40 to the left and 20 up.
      const half = p.vertices.filter((v) => v.at[0] < -15)
      expect(half.length).toBeGreaterThan(3)
      if (follow !== 'yes') {
        const zs = half.map((v) => v.at[2])
        expect(Math.min(...zs)).toBeCloseTo(20, 4)
        expect(Math.max(...zs)).toBeCloseTo(23, 4)
      }
    }
  })
  it('by pitch as far as it is long; else how much line is missing', async () => {
    const way = through(30, 'way', [
      [0, 0, 0],
      [0, 60, 0],
    ])
    const p = await exact([...ball, way, along({ pitch: 12, count: 6 })], 'bead')
    expect(p.measure.bounds.max[1]).toBeCloseTo(62, 6)
    const no = await diagnosis([...ball, way, along({ pitch: 13, count: 6 })])
    expect(no.code).toBe('too-long')
    const up = through(30, 'way', [
      [0, 0, 0],
      [0, 0, 60],
    ])
    expect((await diagnosis([...ball, up, along({ pitch: 6, follow: 'upright' })])).code).toBe(
      'steep',
    )
  })
})
