import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Curve, lengthOf, nearest, pointAt } from '../../curve'
import type { Outcome, P2 } from '../../math'
import {
  type Drawing,
  drawingSchema,
  emptyDrawing,
  enclosed,
  profileHealth,
  regionArea,
  type Shape,
  shapeOf,
} from '..'
import {
  breakAtCrossings,
  chamferAt,
  circleThrough,
  ellipseAbout,
  extendAt,
  filletAt,
  mirrored,
  offsetChain,
  offsetPieces,
  partOf,
  polygon,
  rectangle,
  rectangleAbout,
  slot,
  transformed,
  trimAt,
  withPart,
} from '.'

const read = (v: number | string): number => Number(v)
const shape = (d: Drawing): Shape => shapeOf(drawingSchema.parse(d), read)
const got = <T>(o: Outcome<T>): T => {
  if (!o.ok) throw new Error(o.diagnosis.message)
  return o.value
}
const said = (o: Outcome<unknown>): string => (o.ok ? '' : o.diagnosis.message)
const segs = (s: Shape) =>
  s.drawn.filter((x) => !x.construction).map((x) => ({ curve: x.curve, name: x.id }))
const areaOf = (d: Drawing): number =>
  enclosed(segs(shape(d))).reduce((a, r) => a + regionArea(r), 0)
const areaOfCurves = (curves: Curve[]): number =>
  enclosed(curves.map((curve, i) => ({ curve, name: `c${i}` }))).reduce(
    (a, r) => a + regionArea(r),
    0,
  )
const polyline = (pts: P2[], closed = true): Drawing => ({
  points: Object.fromEntries(pts.map(([x, y], i) => [`p${i}`, { x, y }])),
  entities: (closed ? pts : pts.slice(1)).map((_, i) => ({
    id: `e${i}`,
    kind: 'line',
    a: `p${i}`,
    b: `p${(i + 1) % pts.length}`,
  })),
})

describe('shapes are sound, closed and held', () => {
  it.each([
    ['rectangle', rectangle(emptyDrawing(), [0, 0], [40, 25]), 1000, 4],
    ['rectangle about its middle', rectangleAbout(emptyDrawing(), [0, 0], [-20, 5]), 400, 4],
    ['hexagon', polygon(emptyDrawing(), [0, 0], [10, 0], 6), 150 * Math.sqrt(3), 4],
    ['slot', slot(emptyDrawing(), [0, 0], [40, 0], 10), 800 + 100 * Math.PI, 5],
    [
      'circle through three',
      circleThrough(emptyDrawing(), [5, 0], [0, 5], [-5, 0]),
      25 * Math.PI,
      3,
    ],
    ['ellipse', ellipseAbout(emptyDrawing(), [0, 0], [10, 0], 5), 50 * Math.PI, 4],
  ] as [string, Outcome<Drawing>, number, number][])('%s', (_, made, area, freedoms) => {
    const d = got(made)
    expect(areaOf(d) / area).toBeCloseTo(1, 7)
    const { hold } = shape(d)
    expect(hold).toMatchObject({ conflict: [], unfit: [], freedoms })
  })
  it('the ellipse has the perimeter of Abramowitz & Stegun ch. 17 (row C4)', () => {
    const [e] = shape(got(ellipseAbout(emptyDrawing(), [0, 0], [10, 0], 5))).drawn
    expect(lengthOf(e!.curve)).toBeCloseTo(48.442241102738, 6)
  })
  it.each([
    [rectangle(emptyDrawing(), [0, 0], [40, 0]), /width and height/],
    [polygon(emptyDrawing(), [0, 0], [1, 0], 2), /3 to 200/],
    [polygon(emptyDrawing(), [0, 0], [0, 0], 5), /on the centre/],
    [slot(emptyDrawing(), [0, 0], [0, 0], 5), /apart/],
    [slot(emptyDrawing(), [0, 0], [9, 0], Number.NaN), /width/],
    [circleThrough(emptyDrawing(), [0, 0], [1, 1], [2, 2]), /one line/],
    [ellipseAbout(emptyDrawing(), [0, 0], [9, 0], 0), /both half-axes/],
  ])('degenerate ones are refused in words (%#)', (o, word) => expect(said(o)).toMatch(word))
})

describe('corners', () => {
  const corner = (x: number, y: number) =>
    polyline(
      [
        [60, 0],
        [0, 0],
        [x, y],
      ],
      false,
    )
  // Row C2: tangent length r / tan(angle / 2).
  it.each([
    [0, 60, 8, 8],
    [60 * Math.cos(Math.PI / 3), 60 * Math.sin(Math.PI / 3), 5, 5 / Math.tan(Math.PI / 6)],
    [60 * Math.cos(2.5), 60 * Math.sin(2.5), 10, 10 / Math.tan(1.25)],
  ])('a fillet between lines starts at the tangent length (%#)', (x, y, r, tangent) => {
    const d = corner(x, y)
    const s = shape(got(filletAt(d, shape(d), 'p1', r)))
    const e0 = s.drawn.find((c) => c.id === 'e0')!
    expect(lengthOf(e0.curve)).toBeCloseTo(60 - tangent, 6)
    const arc = s.drawn.find((c) => c.curve.kind === 'arc')!.curve
    expect(arc.kind === 'arc' && arc.radius).toBeCloseTo(r, 6)
    expect(s.hold.conflict).toEqual([])
  })
  it('between a line and an arc it touches both', () => {
    const d: Drawing = {
      points: {
        a: { x: -30, y: 0 },
        b: { x: 20, y: 0 },
        m: { x: 20 * Math.SQRT1_2, y: 20 * Math.SQRT1_2 },
        c: { x: 0, y: 20 },
      },
      entities: [
        { id: 'l', kind: 'line', a: 'a', b: 'b' },
        { id: 'k', kind: 'arc', a: 'b', via: 'm', b: 'c' },
      ],
    }
    const s = shape(got(filletAt(d, shape(d), 'b', 3)))
    const arc = s.drawn.find((c) => c.id !== 'l' && c.id !== 'k')!.curve
    if (arc.kind !== 'arc') throw new Error('no arc')
    // Centre 3 over the line and 17 from the origin.
    expect(arc.c[1]).toBeCloseTo(3, 4)
    expect(Math.hypot(...arc.c)).toBeCloseTo(17, 3)
  })
  it('too large is told with the largest that fits', () => {
    const d = corner(0, 20)
    expect(said(filletAt(d, shape(d), 'p1', 30))).toMatch(/19\.999|20/)
    expect(said(chamferAt(d, shape(d), 'p1', 30))).toMatch(/19\.999|20/)
    expect(said(filletAt(d, shape(d), 'p0', 3))).toMatch(/corner has two/)
    expect(said(filletAt(d, shape(d), 'p1', -3))).toMatch(/more than 0/)
  })
  it('a chamfer sets back along both pieces', () => {
    const d = corner(0, 60)
    const s = shape(got(chamferAt(d, shape(d), 'p1', 10)))
    expect(s.drawn.map((c) => lengthOf(c.curve))).toEqual(
      expect.arrayContaining([expect.closeTo(10 * Math.SQRT2, 6)]),
    )
  })
})

describe('cutting', () => {
  const cross = (): Drawing => ({
    points: {
      a: { x: -30, y: 0 },
      b: { x: 30, y: 0 },
      c: { x: 10, y: -20 },
      d: { x: 10, y: 20 },
      o: { x: 0, y: 0 },
    },
    entities: [
      { id: 'l', kind: 'line', a: 'a', b: 'b' },
      { id: 'm', kind: 'line', a: 'c', b: 'd' },
      { id: 'k', kind: 'circle', c: 'o', radius: 20 },
    ],
  })
  const total = (d: Drawing) => shape(d).drawn.reduce((s, c) => s + lengthOf(c.curve), 0)
  it('trims a stretch between its crossings, an end, and a ring', () => {
    const d = cross()
    const s = shape(d)
    expect(total(d) - total(got(trimAt(d, s, 'l', [0, 0])))).toBeCloseTo(30, 6)
    expect(total(d) - total(got(trimAt(d, s, 'l', [29, 0])))).toBeCloseTo(10, 6)
    // The circle between the line at 0 deg and the upright's crossing at 60 deg.
    const ring = got(trimAt(d, s, 'k', [20 * Math.cos(0.5), 20 * Math.sin(0.5)]))
    expect(total(d) - total(ring)).toBeCloseTo((20 * Math.PI) / 3, 4)
    // A piece nothing crosses goes as a whole.
    const lone = polyline(
      [
        [0, 0],
        [9, 0],
      ],
      false,
    )
    expect(got(trimAt(lone, shape(lone), 'e0', [1, 0])).entities).toEqual([])
  })
  it('breaks at every crossing and loses nothing', () => {
    const d = cross()
    for (const [id, parts] of [
      ['l', 4],
      ['m', 4],
      ['k', 4],
    ] as const) {
      const broken = got(breakAtCrossings(d, shape(d), id))
      expect(total(broken)).toBeCloseTo(total(d), 6)
      expect(broken.entities.length).toBe(2 + parts)
    }
  })
  it('lengthens a line and an arc to what they meet', () => {
    const d: Drawing = {
      points: {
        a: { x: 0, y: 0 },
        b: { x: 10, y: 0 },
        c: { x: 25, y: -9 },
        d: { x: 25, y: 30 },
        m: { x: 12, y: 2 },
        e: { x: 14, y: 4 },
      },
      entities: [
        { id: 'l', kind: 'line', a: 'a', b: 'b' },
        { id: 'w', kind: 'line', a: 'c', b: 'd' },
      ],
    }
    const s = shape(got(extendAt(d, shape(d), 'l', [9, 0])))
    expect(
      s.points[(got(extendAt(d, shape(d), 'l', [9, 0])).entities[0] as { b: string }).b],
    ).toEqual([25, 0])
    expect(said(extendAt(d, shape(d), 'l', [1, 0]))).toMatch(/meets nothing/)
    const arc: Drawing = {
      points: {
        a: { x: 10, y: 0 },
        m: { x: 7.0710678, y: 7.0710678 },
        b: { x: 0, y: 10 },
        c: { x: -20, y: 0 },
        d: { x: 0, y: 0 },
      },
      entities: [
        { id: 'k', kind: 'arc', a: 'a', via: 'm', b: 'b' },
        { id: 'w', kind: 'line', a: 'c', b: 'd' },
      ],
    }
    const longer = shape(got(extendAt(arc, shape(arc), 'k', [0, 10])))
    expect(lengthOf(longer.drawn[0]!.curve)).toBeCloseTo(10 * Math.PI, 4)
  })
})

describe('offsets (row C1: Steiner formula)', () => {
  const chain = (pts: P2[]) => shape(polyline(pts)).drawn.map((x) => x.curve)
  const triangle: P2[] = [
    [0, 0],
    [40, 0],
    [0, 30],
  ]
  const ell: P2[] = [
    [0, 0],
    [40, 0],
    [40, 10],
    [10, 10],
    [10, 30],
    [0, 30],
  ]
  it.each([
    ['triangle out, round', triangle, -5, 'round', 600 + 600 + 25 * Math.PI],
    ['triangle out, sharp', triangle, -5, 'sharp', 1350],
    ['triangle in', triangle, 5, 'round', 150],
    ['L out, round', ell, -4, 'round', 1160 + 20 * Math.PI - 16],
    ['L in, round', ell, 3, 'round', 216 + 9 * (1 - Math.PI / 4)],
  ] as const)('%s', (_, pts, d, gap, area) => {
    expect(areaOfCurves(offsetChain(chain(pts as unknown as P2[]), d, gap))).toBeCloseTo(area, 6)
  })
  it('a slot both ways, and a narrow shape leaves nothing', () => {
    const d = got(slot(emptyDrawing(), [0, 0], [40, 0], 10))
    const all = d.entities.map((e) => e.id)
    const s = shape(d)
    const both = got(offsetPieces(d, s, all, 3, 0, 'round'))
    const added = shape({ ...both, relations: [], entities: both.entities.slice(4) })
    const areas = [13, 7].map((r) => 80 * r + Math.PI * r * r)
    expect(areaOfCurves(added.drawn.map((x) => x.curve))).toBeCloseTo(areas[0]! - areas[1]!, 4)
    expect(said(offsetPieces(d, s, all, 12, 1, 'round'))).toMatch(/too narrow/)
    expect(said(offsetPieces(d, s, [], 3, 1, 'round'))).toMatch(/Choose/)
    expect(said(offsetPieces(d, s, all, 0, 1, 'round'))).toMatch(/more than 0/)
  })
  it('stays at its distance from random chains', () => {
    const pt = fc.tuple(fc.integer({ min: 5, max: 60 }), fc.integer({ min: -9, max: 9 }))
    fc.assert(
      fc.property(
        fc.array(pt, { minLength: 3, maxLength: 7 }),
        fc.integer({ min: -6, max: 6 }),
        (raw, k) => {
          const pts = raw.map(([dx, y], i): P2 => [i * 12 + dx / 10, y])
          const curves = shape(polyline(pts, false)).drawn.map((x) => x.curve)
          const d = k === 0 ? 2.5 : k
          for (const c of offsetChain(curves, d, 'round'))
            for (const t of [0, 0.3, 0.7, 1]) {
              const near = Math.min(...curves.map((o) => nearest(o, pointAt(c, t)).d))
              expect(Math.abs(near - Math.abs(d))).toBeLessThan(1e-3)
            }
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('mirror, move, copy', () => {
  const half = polyline(
    [
      [0, 0],
      [20, 0],
      [20, 30],
      [0, 30],
    ],
    false,
  )
  it('mirrors in the axis, shares what lies on it and stays mirrored', () => {
    const d = got(mirrored(half, shape(half).points, ['e0', 'e1', 'e2'], 'axis'))
    expect(areaOf(d)).toBeCloseTo(1200, 6)
    expect(Object.keys(d.points)).toHaveLength(6)
    const wider = { ...d, points: { ...d.points, p1: { x: 25, y: 0 } } }
    const s = shape({
      ...wider,
      relations: [
        ...d.relations!,
        { id: 'f', kind: 'fixed', points: ['p1'], entities: [], at: [25, 0] },
      ],
    })
    const twin = d.relations!.find((r) => r.points[0] === 'p1')!.points[1]!
    expect(s.points[twin]![0]).toBeCloseTo(-25, 6)
    expect(said(mirrored(half, shape(half).points, [], 'axis'))).toMatch(/Choose/)
    expect(said(mirrored(half, shape(half).points, ['e0'], 'e9'))).toMatch(/straight line/)
  })
  it('moves, turns and scales, but not what a figure drives', () => {
    const d = got(
      transformed(half, shape(half).points, Object.keys(half.points), {
        about: [0, 0],
        turn: Math.PI / 2,
        scale: 2,
        step: [5, 0],
      }),
    )
    expect(shape(d).points.p1).toEqual([5, 40])
    const driven = { ...half, points: { ...half.points, p1: { x: '20', y: 0 } } }
    const l = { about: [0, 0] as P2, turn: 0, scale: 1, step: [1, 0] as P2 }
    expect(said(transformed(driven, shape(half).points, ['p1'], l))).toMatch(/driven/)
    expect(said(transformed(half, shape(half).points, ['p1'], { ...l, scale: 0 }))).toMatch(/scale/)
  })
  it('a copy keeps the relations among its pieces and leaves the others', () => {
    const d = got(rectangle(half, [50, 0], [60, 9]))
    const ids = d.entities.slice(3).map((e) => e.id)
    const part = partOf(d, shape(d).points, ids)
    expect(part.relations).toHaveLength(4)
    const { drawing, added } = withPart(d, part)
    expect(added).toHaveLength(4)
    expect(drawing.relations).toHaveLength(8)
    expect(drawingSchema.safeParse(drawing).success).toBe(true)
  })
})

describe('patterns', () => {
  const ribs = (pattern: NonNullable<Drawing['patterns']>[number]): Drawing => ({
    ...got(rectangle(emptyDrawing(), [20, 0], [24, 2])),
    patterns: [pattern],
  })
  const sides = ['line1', 'line2', 'line3', 'line4']
  it('a row repeats pieces by count and extent', () => {
    const d = ribs({
      id: 'row1',
      kind: 'row',
      entities: sides,
      along: 'upright',
      size: 2,
      count: 5,
      extent: 42,
    })
    expect(areaOf(d)).toBeCloseTo(5 * 8, 9)
    const top = Math.max(
      ...shape(d).drawn.flatMap((c) => [0, 1].map((t) => pointAt(c.curve, t)[1])),
    )
    expect(top).toBeCloseTo(42, 9)
  })
  it('a ring spreads them over a whole turn', () => {
    const d = ribs({ id: 'ring1', kind: 'ring', entities: sides, about: 'origin', count: 12 })
    expect(areaOf(d)).toBeCloseTo(12 * 8, 6)
  })
  it('one that cannot be is told, and the pieces stay', () => {
    const d = ribs({
      id: 'row1',
      kind: 'row',
      entities: sides,
      along: 'level',
      size: 4,
      count: 2.5,
      pitch: 9,
    })
    const s = shape(d)
    expect(s.hold.unfit[0]).toMatchObject({ id: 'row1', message: expect.stringContaining('whole') })
    expect(areaOf(d)).toBeCloseTo(8, 9)
  })
})

it('the health of a patterned drawing is that of its pieces', () => {
  const d: Drawing = {
    ...got(rectangle(emptyDrawing(), [20, 0], [24, 2])),
    patterns: [
      {
        id: 'row1',
        kind: 'row',
        entities: ['line1', 'line2', 'line3', 'line4'],
        along: 'upright',
        size: 2,
        count: 4,
        pitch: 5,
      },
    ],
  }
  expect(profileHealth(d, shape(d))).toEqual([])
})
