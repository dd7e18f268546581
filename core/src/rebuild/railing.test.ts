import { describe, expect, it } from 'vitest'
import type { ExactPart } from '../exact'
import type { Op } from '../workpiece'
import { circles } from '../workpiece/flat.test-data'
import { op } from '../workpiece/samples.test-data'
import { built, diagnosis, exact, gauged, piece } from './exactroute.test-data'

const level = (number: number, id: string, z: number): Op =>
  op(number, 'plane', id, { how: 'offset', from: 'top', offset: z })
const rail = (number: number, id: string, places: [number, number, number][], by = 'spline'): Op =>
  op(number, 'path', id, {
    how: 'stops',
    stops: places.map(([x, y, z], i) => ({ x, y, z, rel: false, by: i === 0 ? 'line' : by })),
  })
const loft = (rails: string[], more: object = {}): Op =>
  op(90, 'loft', 'skin', {
    sections: [{ profile: 'a' }, { profile: 'b' }],
    rails,
    mode: 'new',
    ...more,
  })
/** Two circles of radius 20, 100 apart. */
const ends = [
  circles(10, 'a', 'top', [[0, 0, 20]]),
  level(20, 'up', 100),
  circles(30, 'b', 'up', [[0, 0, 20]]),
]
/** x = +-(20 + 10 sin(pi z / 100)) at z. */
const bulge = (side: 1 | -1, n = 24): [number, number, number][] =>
  Array.from({ length: n + 1 }, (_, i) => {
    const z = (100 * i) / n
    return [side * (20 + 10 * Math.sin((Math.PI * z) / 100)), 0, z]
  })
const says = async (route: Op[]) => (await built(piece(route))).reports.at(-1)!

describe('rails', () => {
  it('two alike on opposite sides: what is turned about the axis, 221,371.669 mm³', async () => {
    const p = await exact(
      [...ends, rail(40, 'r1', bulge(1)), rail(50, 'r2', bulge(-1)), loft(['r1', 'r2'])],
      'skin',
    )
    // 100 pi (450 + 800 / pi), closed form of the turned body.
    expect(100 * Math.PI * (450 + 800 / Math.PI)).toBeCloseTo(221371.669, 2)
    expect(p.measure.volume / 221371.669).toBeCloseTo(1, 4)
    const r = await says([
      ...ends,
      rail(40, 'r1', bulge(1)),
      rail(50, 'r2', bulge(-1)),
      loft(['r1', 'r2']),
    ])
    expect(r.consequence).toMatch(/^2 sections, 2 rails met within 0\.0\d+ mm/)
  })
  it('a waist under half the area that rails ask for is meant: 20-12-20 by arcs, 41,182.798 mm³', async () => {
    const up = level(20, 'up', 60)
    const short = [circles(10, 'a', 'top', [[0, 0, 20]]), up, circles(30, 'b', 'up', [[0, 0, 20]])]
    const waist = (n: number, id: string, side: 1 | -1) =>
      op(n, 'path', id, {
        how: 'stops',
        stops: [
          { x: 20 * side, y: 0, z: 0, by: 'line' },
          { x: 12 * side, y: 0, z: 30, by: 'over' },
          { x: 20 * side, y: 0, z: 60, by: 'line' },
        ],
      })
    const p = await exact(
      [...short, waist(40, 'r1', 1), waist(50, 'r2', -1), loft(['r1', 'r2'])],
      'skin',
    )
    // The solid the arc turns about the axis, by the midpoint rule over its radius.
    const far = (400 + 900 - 144) / 16
    let right = 0
    const n = 20_000
    for (let i = 0; i < n; i++) {
      const z = (60 * (i + 0.5)) / n - 30
      right += (Math.PI * (far - Math.sqrt((far - 12) ** 2 - z * z)) ** 2 * 60) / n
    }
    expect(right).toBeCloseTo(41182.8, 2)
    expect(p.measure.volume / right).toBeCloseTo(1, 6)
  })
  it('rails that cross between the sections are told there; that come near each other are met', async () => {
    const leaning = (gap: number) => {
      const place = (a: number, r: number, z: number): [number, number, number] => [
        r * Math.cos(a),
        r * Math.sin(a),
        z,
      ]
      return [
        ...ends,
        rail(40, 'r1', [place(0, 20, 0), place(0.8 - gap / 2, 22, 50), place(0, 20, 100)]),
        rail(50, 'r2', [place(1.6, 20, 0), place(0.8 + gap / 2, 22, 50), place(1.6, 20, 100)]),
        loft(['r1', 'r2']),
      ]
    }
    for (const gap of [-0.5, -0.1]) {
      const found = await diagnosis(leaning(gap))
      expect(found.message).toMatch(/^Rails 1 and 2 cross here, between the sections/)
      expect(found.places).toHaveLength(1)
    }
    expect((await says(leaning(0.2))).consequence).toMatch(/2 rails met within/)
  })
  it('one rail mirrored counts as two; alone it works about the middle', async () => {
    const mirrored = await exact(
      [...ends, rail(40, 'r1', bulge(1)), loft(['r1'], { mirror: 'side' })],
      'skin',
    )
    expect(mirrored.measure.volume / 221371.669).toBeCloseTo(1, 4)
    const alone = await exact([...ends, rail(40, 'r1', bulge(1)), loft(['r1'])], 'skin')
    expect(alone.measure.volume / 221371.669).toBeCloseTo(1, 4)
  })
  it('four rails, two of them straight: wide one way only, ellipses of 165,663.706 mm³ at most', async () => {
    const straight = (x: number, y: number): [number, number, number][] => [
      [x, y, 0],
      [x, y, 100],
    ]
    const p = await exact(
      [
        ...ends,
        rail(40, 'r1', bulge(1)),
        rail(50, 'r2', bulge(-1)),
        rail(60, 'r3', straight(0, 20), 'line'),
        rail(70, 'r4', straight(0, -20), 'line'),
        loft(['r1', 'r2', 'r3', 'r4']),
      ],
      'skin',
    )
    // Slices wider in x only: an ellipse has pi a b; blends make it within a few parts of a hundred of that.
    const ellipses = 20 * Math.PI * 100 * (20 + 20 / Math.PI)
    expect(ellipses).toBeCloseTo(165663.706, 2)
    expect(Math.abs(p.measure.volume / ellipses - 1)).toBeLessThan(0.03)
  })
  it('a gap is told with size, section and place; the fix leads the rail through', async () => {
    const off = bulge(1).map(([x, y, z]): [number, number, number] => [
      x + (z === 100 ? 0.3 : 0),
      y,
      z,
    ])
    const route = [...ends, rail(40, 'r1', off), rail(50, 'r2', bulge(-1)), loft(['r1', 'r2'])]
    const d = await diagnosis(route)
    expect(d.code).toBe('rail-gap')
    expect(d.message).toContain('misses section 2 by 0.3')
    expect(d.places.length).toBe(2)
    const mended = [...route.slice(0, -1), loft(['r1', 'r2'], d.fixes[0]!.inputs)]
    const r = await says(mended)
    expect([r.status, r.diagnoses[0]!.code]).toEqual(['warn', 'rail-joined'])
  })
  it('or the section is drawn to the rails, in its plane: circles to a frustum, and what moved is told', async () => {
    const lean = (side: 1 | -1): [number, number, number][] => [
      [side * 20, 0, 0],
      [side * 25.1, 0, 102],
    ]
    const rails = [rail(40, 'r1', lean(1), 'line'), rail(50, 'r2', lean(-1), 'line')]
    const d = await diagnosis([...ends, ...rails, loft(['r1', 'r2'])])
    expect(d.fixes.map((f) => f.inputs!.gives)).toEqual(['rails', 'sections'])
    const route = [...ends, ...rails, loft(['r1', 'r2'], { give: 6, gives: 'sections' })]
    const { state } = await built(piece(route))
    const p = state.bodies.skin!.shape as ExactPart
    const r = [20, 25] as const
    const frustum = ((Math.PI * 100) / 3) * (r[0] ** 2 + r[0] * r[1] + r[1] ** 2)
    expect(p.measure.volume / frustum).toBeCloseTo(1, 6)
    const report = await says(route)
    expect(report.diagnoses[0]!.message).toContain('rail 1 misses by 5 mm is drawn to it')
    expect(report.consequence).toContain('sections moved by up to 5 mm')
  })
  it('end on a flat field in the middle: a shallow dome by arcs that run level into it', async () => {
    // Radius 85 about (20, -75): through (60, 0) at the outside, level at the edge of the field (20, 10).
    const r = (z: number) => 20 + Math.sqrt(85 ** 2 - (z + 75) ** 2)
    const half = Math.asin(40 / 85) / 2
    const over = [20 + 85 * Math.sin(half), -75 + 85 * Math.cos(half)] as const
    const bow = (number: number, id: string, c: number, s: number) =>
      op(number, 'path', id, {
        how: 'stops',
        stops: [
          { x: 60 * c, y: 60 * s, z: 0, by: 'line' },
          { x: over[0] * c, y: over[0] * s, z: over[1], by: 'over' },
          { x: 20 * c, y: 20 * s, z: 10, by: 'line' },
        ],
      })
    const route = [
      circles(10, 'a', 'top', [[0, 0, 60]]),
      level(20, 'up', 10),
      circles(30, 'b', 'up', [[0, 0, 20]]),
      ...[0, 1, 2, 3].map((k) =>
        bow(40 + k, `r${k}`, Math.cos((k * Math.PI) / 2), Math.sin((k * Math.PI) / 2)),
      ),
      loft(['r0', 'r1', 'r2', 'r3']),
    ]
    const p = await exact(route, 'skin')
    // The turned body, by Simpson's rule over 1,000 steps.
    let turned = 0
    for (let k = 0; k < 1000; k++) {
      const [lo, hi] = [k / 100, (k + 1) / 100]
      turned += (Math.PI * (r(lo) ** 2 + 4 * r((lo + hi) / 2) ** 2 + r(hi) ** 2)) / 600
    }
    expect(p.measure.volume / turned).toBeCloseTo(1, 5)
    const field = p.faces.find((f) => f.names[0] === 'skin:end')!
    expect([field.kind, field.middle[2]]).toEqual(['plane', expect.closeTo(10, 9)])
    expect(field.area / (Math.PI * 400)).toBeCloseTo(1, 6)
    // Smooth where it runs into the field, as far as the rails say.
    const [seams] = await gauged(route, [{ kind: 'seams', body: 'skin' }])
    const rim = seams!.reading!.rows.find((row) => row.label.includes('skin:end'))!
    expect(rim.text).toMatch(/^G1, 0\.00/)
  })
  it('a kinked rail creases the skin where it is kinked, and its faces end there: two cones', async () => {
    const kinked = (side: 1 | -1) =>
      rail(
        side > 0 ? 40 : 50,
        side > 0 ? 'r1' : 'r2',
        [
          [side * 20, 0, 0],
          [side * 30, 0, 50],
          [side * 20, 0, 100],
        ],
        'line',
      )
    const route = [...ends, kinked(1), kinked(-1), loft(['r1', 'r2'])]
    const { state } = await built(piece(route))
    const report = await says(route)
    expect(report.status).toBe('warn')
    expect(report.diagnoses.map((d) => [d.code, d.places[0]!.at])).toEqual([
      ['kinked-rail', [30, 0, 50]],
      ['kinked-rail', [-30, 0, 50]],
    ])
    expect(report.diagnoses[0]!.message).toContain('22.6°')
    const shape = state.bodies.skin!.shape as ExactPart
    const cone = (Math.PI * 50 * (400 + 600 + 900)) / 3
    expect(shape.measure.volume / (2 * cone)).toBeCloseTo(1, 6)
    // Each side ends half-way up, at a crease.
    const skins = shape.faces.filter((f) => f.kind === 'free')
    expect(skins.length).toBeGreaterThanOrEqual(2)
    for (const f of skins) expect(Math.abs(f.middle[2] - 50)).toBeGreaterThan(5)
  })
  it('rails that double back or lie on each other are told before anything is built', async () => {
    const same = [...ends, rail(40, 'r1', bulge(1)), rail(50, 'r2', bulge(1)), loft(['r1', 'r2'])]
    expect((await diagnosis(same)).code).toBe('rails-alike')
    const short = rail(40, 'r1', [
      [20, 0, 0],
      [24, 0, 30],
      [20, 0, 60],
    ])
    expect((await diagnosis([...ends, short, loft(['r1'])])).code).toBe('rail-gap')
    expect((await diagnosis([...ends, loft(['nothing'])])).code).toBe('no-path')
  })
})
