import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { arc, type Curve, lengthOf, line, nearest, pointAt, spline } from '../curve'
import { drawingSchema, enclosed, regionArea, shapeOf } from '../profile'
import { drawingOf, type Outlines, readDxf, readSvg, writeDxf, writeSvg } from '.'

const got = (o: ReturnType<typeof readDxf>): Outlines => {
  if (!o.ok) throw new Error(o.diagnosis.message)
  return o.value
}
const said = (o: ReturnType<typeof readDxf>) => (o.ok ? '' : o.diagnosis.message)
const curves: Curve[] = [
  line([0, 0], [40, 5]),
  arc([10, 20], 7.5, 0.3, 2.1),
  arc([10, 20], 7.5, -1, -4.2),
  arc([-5, 3], 4, 0, 2 * Math.PI),
  spline(
    3,
    [0, 0, 0, 0, 0.4, 1, 1, 1, 1],
    [
      [0, 0],
      [9, 12],
      [20, -4],
      [30, 9],
      [44, 1],
    ],
  ),
  spline(
    2,
    [0, 0, 0, 1, 1, 1],
    [
      [0, 0],
      [5, 9],
      [12, 0],
    ],
  ),
]
const same = (a: Curve, b: Curve, tol: number) => {
  expect(lengthOf(b)).toBeCloseTo(lengthOf(a), 6)
  for (const t of [0, 0.2, 0.5, 0.9, 1]) expect(nearest(b, pointAt(a, t)).d).toBeLessThan(tol)
}
const dxf = (entities: string) =>
  `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n1\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`
const pairs = (...v: (string | number)[]) => `${v.join('\n')}\n`

describe('DXF', () => {
  it('goes out and comes in as the same curves of the same kinds', () => {
    const back = got(readDxf(writeDxf(curves)))
    expect(back.skipped).toEqual({})
    expect(back.unit).toBe(1)
    expect(back.curves.map((c) => c.kind)).toEqual(curves.map((c) => c.kind))
    for (const [i, c] of curves.entries()) same(c, back.curves[i]!, 1e-7)
  })
  it('knows bulges: a closed polyline of two half circles is a circle (DXF reference)', () => {
    const text = dxf(
      pairs(0, 'LWPOLYLINE', 8, 0, 90, 2, 70, 1, 10, 0, 20, 0, 42, 1, 10, 10, 20, 0, 42, 1),
    )
    const { curves: c, unit } = got(readDxf(text))
    expect(unit).toBe(25.4)
    expect(c.map((x) => x.kind)).toEqual(['arc', 'arc'])
    const [r] = enclosed(c.map((curve, i) => ({ curve, name: `c${i}` })))
    expect(regionArea(r!)).toBeCloseTo(25 * Math.PI, 9)
    expect(pointAt(c[0]!, 0.5)[1]).toBeCloseTo(-5, 9)
  })
  it('draws an ellipse to 1e-7 and lists what it does not know', () => {
    const text = dxf(
      pairs(
        0,
        'ELLIPSE',
        8,
        0,
        10,
        0,
        20,
        0,
        30,
        0,
        11,
        10,
        21,
        0,
        31,
        0,
        40,
        0.5,
        41,
        0,
        42,
        6.283185307179586,
      ) +
        pairs(0, 'TEXT', 8, 0, 10, 1, 20, 1, 40, 2, 1, 'hello') +
        pairs(0, 'POINT', 8, 0, 10, 1, 20, 1) +
        pairs(0, 'HATCH', 8, 0, 10, 1, 20, 1),
    )
    const { curves: c, skipped } = got(readDxf(text))
    // Perimeter: Abramowitz & Stegun ch. 17 (row C4).
    expect(lengthOf(c[0]!)).toBeCloseTo(48.442241102738, 6)
    expect(skipped).toEqual({ TEXT: 1, POINT: 1, HATCH: 1 })
  })
  it.each([
    ['', /not a readable|nothing/],
    ['hello\nworld\n', /not a readable|nothing/],
    [dxf(''), /nothing/],
    [dxf(pairs(0, 'TEXT', 8, 0, 10, 1, 20, 1, 1, 'x')), /Nothing in the file/],
    ['x'.repeat(21 * 1024 * 1024), /20 MB/],
    [dxf(pairs(0, 'CIRCLE', 8, 0, 10, 'abc', 20, 0, 40, 5)), /Nothing|not a readable/],
    [dxf(pairs(0, 'LINE', 8, 0, 10, 0, 20, 0, 11, 1, 21, 1).repeat(2500)), /2000 are the most/],
  ])('refuses in a sentence (%#)', (text, word) => expect(said(readDxf(text))).toMatch(word))
  it('survives any cut of a file', () => {
    const text = writeDxf(curves)
    fc.assert(
      fc.property(fc.integer({ min: 0, max: text.length }), (n) => {
        expect(['boolean']).toContain(typeof readDxf(text.slice(0, n)).ok)
      }),
      { numRuns: 60 },
    )
  })
})

describe('SVG', () => {
  it('goes out and comes in as the same curves of the same kinds', () => {
    const out = writeSvg(curves)
    expect(out.skipped).toBe(0)
    const back = got(readSvg(out.text))
    expect(back.unit).toBeCloseTo(1, 12)
    const kinds = back.curves.map((c) => c.kind)
    // A circle leaves as two arcs, a spline as its Bezier pieces.
    expect(kinds).toEqual(['line', 'arc', 'arc', 'arc', 'arc', 'spline', 'spline', 'spline'])
    const total = (list: Curve[]) => list.reduce((s, c) => s + lengthOf(c), 0)
    expect(total(back.curves)).toBeCloseTo(total(curves), 6)
    for (const c of curves)
      for (const t of [0, 0.3, 0.8])
        expect(Math.min(...back.curves.map((b) => nearest(b, pointAt(c, t)).d))).toBeLessThan(1e-7)
  })
  it('follows units, groups and transforms', () => {
    const { curves: c, unit } = got(
      readSvg(
        '<svg width="2in" viewBox="0 0 100 50"><g transform="translate(10 5) rotate(90)"><rect width="4" height="2"/></g><circle transform="scale(2)" cx="5" cy="5" r="3"/><ellipse cx="0" cy="0" rx="4" ry="2"/></svg>',
      ),
    )
    expect(unit).toBeCloseTo(0.508, 12)
    expect(c.map((x) => x.kind)).toEqual(['line', 'line', 'line', 'line', 'arc', 'spline'])
    expect(pointAt(c[0]!, 1)[0]).toBeCloseTo(10, 12)
    expect(pointAt(c[0]!, 1)[1]).toBeCloseTo(-9, 12)
    expect(c[4]).toMatchObject({ radius: 6, c: [10, -10] })
  })
  it.each([
    ['M0 0h10v10h-10z', 40],
    ['M0 0A10 10 0 0 1 10 10', 5 * Math.PI],
    ['M0 0A10 10 0 1 1 10 10', 15 * Math.PI],
    ['M0 0a2 2 0 0 0 20 0', 10 * Math.PI],
    ['M0 0Q5 5 10 0T20 0', 22.95587],
    ['M0,0 C0,10 10,10 10,0 S20,-10 20,0', 40.0],
  ])('path %s', (d, length) => {
    const { curves: c } = got(readSvg(`<svg><path d="${d}"/></svg>`))
    expect(c.reduce((s, x) => s + lengthOf(x), 0)).toBeCloseTo(
      length,
      d.includes('C') || d.includes('Q') ? 0 : 9,
    )
  })
  it.each([
    ['', /not a readable|no <svg>/],
    ['{"a":1}', /not/],
    ['<svg></svg>', /Nothing/],
    ['<svg><text>hi</text></svg>', /Nothing/],
    ['<svg><path d="M0 0 L"/></svg>', /Nothing/],
    ['<svg><g transform="warp(3)"><path d="M0 0L9 9"/></g></svg>', /not understood/],
    [
      `<svg>${'<g>'.repeat(80)}<path d="M0 0L1 1"/>${'</g>'.repeat(80)}</svg>`,
      /deeply|not a readable/,
    ],
  ])('refuses in a sentence (%#)', (text, word) => expect(said(readSvg(text))).toMatch(word))
})

describe('a drawing of an outline', () => {
  it('joins ends within the tolerance asked, scaled, and says what was skipped', () => {
    const open: Outlines = {
      curves: [line([0, 0], [10, 0]), line([10.003, 0], [10, 8]), line([10, 8], [0, 0.004])],
      skipped: { TEXT: 2 },
    }
    const loose = drawingOf(open, 2.54, 0.001)
    expect(Object.keys(loose.drawing.points)).toHaveLength(5)
    const joined = drawingOf(open, 2.54, 0.02)
    expect(Object.keys(joined.drawing.points)).toHaveLength(3)
    expect(joined.says).toBe('3 pieces, ends within 0.02 mm joined; skipped: 2 TEXT.')
    const d = drawingSchema.parse(joined.drawing)
    expect(shapeOf(d, Number).points.p2![0]).toBeCloseTo(25.4, 9)
  })
  it('500 pieces come in as a sound drawing', () => {
    const many: Outlines = {
      curves: Array.from({ length: 500 }, (_, i) =>
        line([i, Math.sin(i)], [i + 1, Math.sin(i + 1)]),
      ),
      skipped: {},
    }
    const { drawing } = drawingOf(many, 1, 0.001)
    expect(drawing.entities).toHaveLength(500)
    expect(shapeOf(drawingSchema.parse(drawing), Number).hold.freedoms).toBe(1002)
  })
})
