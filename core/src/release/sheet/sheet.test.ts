import { unzlibSync } from 'fflate'
import { PDFDocument, PDFName, PDFRawStream } from 'pdf-lib'
import { describe, expect, it } from 'vitest'
import type { P2 } from '../../math'
import type { TriMesh } from '../../mesh'
import { hatch } from './hatch'
import { type Seen, viewLines } from './lines'
import { sheetPdf } from './pdf'
import { viewsSheet } from './sheet'
import { sheetSvg } from './svg'

/** A box between two corners. */
function box([x, y, z]: number[], [X, Y, Z]: number[]): Seen {
  const positions: number[] = []
  for (let i = 0; i < 8; i++) positions.push(i & 1 ? X! : x!, i & 2 ? Y! : y!, i & 4 ? Z! : z!)
  const quads = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ]
  const triangles = quads.flatMap(([a, b, c, d]) => [a!, b!, c!, a!, c!, d!])
  const ends: number[] = []
  for (let a = 0; a < 8; a++)
    for (const bit of [1, 2, 4])
      if (!(a & bit))
        ends.push(
          ...positions.slice(3 * a, 3 * a + 3),
          ...positions.slice(3 * (a | bit), 3 * (a | bit) + 3),
        )
  const mesh: TriMesh = {
    positions: Float64Array.from(positions),
    triangles: Uint32Array.from(triangles),
  }
  return {
    mesh,
    edges: Float32Array.from(ends),
    rounds: [],
    bounds: { min: [x!, y!, z!], max: [X!, Y!, Z!] },
  }
}
const FRONT = { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 0, 1], z: [0, -1, 0] } as const
const total = (lines: readonly P2[][]) =>
  lines.reduce((s, [a, b]) => s + Math.hypot(b![0] - a![0], b![1] - a![1]), 0)

describe('lines of a view', () => {
  it('of a box: its outline, and nothing hidden that does not lie under it', () => {
    const { visible, hidden } = viewLines([box([0, 0, 0], [40, 30, 20])], FRONT)
    // The back outline lies behind the front one: both are where the outline is.
    for (const [a, b] of visible)
      for (const p of [a!, b!])
        expect([0, 40].includes(Math.round(p[0])) || [0, 20].includes(Math.round(p[1]))).toBe(true)
    expect(hidden).toEqual([])
  })
  it('a lower box behind a wall is hidden as far as the wall reaches (by hand)', () => {
    const wall = box([0, 0, 0], [40, 2, 20])
    const behind = box([10, 20, 5], [60, 30, 15])
    const { hidden } = viewLines([wall, behind], FRONT)
    // Its outline from x 10 to 40 at z 5 and 15, and the side between: 30 + 30 + 10, front and back alike.
    expect(total(hidden)).toBeGreaterThan(70 - 0.1)
    expect(total(hidden)).toBeLessThan(2 * 70 + 0.1)
    for (const [a, b] of hidden) for (const p of [a!, b!]) expect(p[0]).toBeLessThan(40.02)
    const ends = hidden.flat().map((p) => p[0])
    expect(Math.max(...ends)).toBeCloseTo(40, 1)
  })
  it('a round body has lines where it turns away', () => {
    const n = 90
    const positions: number[] = []
    const triangles: number[] = []
    const edges: number[] = []
    for (let i = 0; i < n; i++) {
      const a = (2 * Math.PI * i) / n
      positions.push(20 * Math.cos(a), 20 * Math.sin(a), 0, 20 * Math.cos(a), 20 * Math.sin(a), 50)
      const [p, q] = [2 * i, 2 * ((i + 1) % n)]
      triangles.push(p, q, q + 1, p, q + 1, p + 1)
      triangles.push(2 * n, q, p, 2 * n + 1, p + 1, q + 1)
    }
    positions.push(0, 0, 0, 0, 0, 50)
    const mesh = { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) }
    const { visible } = viewLines(
      [
        {
          mesh,
          edges: Float32Array.from(edges),
          rounds: [],
          bounds: { min: [-20, -20, 0], max: [20, 20, 50] },
        },
      ],
      FRONT,
    )
    expect(total(visible)).toBeCloseTo(100, 6)
    for (const [a, b] of visible)
      expect([Math.abs(a![0]), Math.abs(b![0])].every((x) => Math.abs(x - 20) < 0.05)).toBe(true)
  })
})

describe('hatch', () => {
  it('covers what loops enclose: its length times its step is about the area', () => {
    const square: P2[] = [
      [0, 0],
      [30, 0],
      [30, 30],
      [0, 30],
    ]
    const hole: P2[] = [
      [10, 10],
      [20, 10],
      [20, 20],
      [10, 20],
    ]
    expect((total(hatch([square, hole], false)) * 2.2) / 800).toBeCloseTo(1, 1)
    expect(total(hatch([], false))).toBe(0)
  })
})

describe('a sheet', () => {
  const sheet = viewsSheet([box([0, 0, 0], [60, 40, 20])], {
    name: 'Tray <small>',
    material: 'PLA',
    bodies: ['Tray'],
  })
  it('has the sizes at its scale, measured on the paper', () => {
    expect(sheet.scale).toBe('1:1')
    expect([sheet.width, sheet.height]).toEqual([297, 210])
    expect(sheet.texts.map((t) => t.text)).toEqual(
      expect.arrayContaining(['60.00', '40.00', '20.00', 'A – A', 'Tray <small>']),
    )
    const cut = sheet.strokes.filter((s) => s.pen === 'cut').flatMap((s) => s.points)
    const across = (k: 0 | 1) =>
      Math.max(...cut.map((p) => p[k])) - Math.min(...cut.map((p) => p[k]))
    expect(across(0)).toBeCloseTo(60, 6)
    expect(across(1)).toBeCloseTo(20, 6)
    for (const p of sheet.strokes.flatMap((s) => s.points)) {
      expect(p[0]).toBeGreaterThan(0)
      expect(p[0]).toBeLessThan(297)
      expect(p[1]).toBeGreaterThan(0)
      expect(p[1]).toBeLessThan(210)
    }
  })
  it('chooses smaller scales and larger paper for larger goods, and larger scales for small ones', () => {
    const of = (w: number) =>
      viewsSheet([box([0, 0, 0], [w, w, w])], { name: 'x', material: 'y', bodies: ['z'] })
    expect(of(6).scale).toBe('10:1')
    expect([of(90).scale, of(90).width]).toEqual(['1:1', 420])
    expect(of(400).scale).toBe('1:5')
  })
  it('is well-formed SVG in real millimetres', () => {
    const svg = sheetSvg(sheet)
    expect(svg).toContain('width="297mm" height="210mm" viewBox="0 0 297 210"')
    expect(svg).toContain('Tray &#60;small&#62;')
  })
  it('is a PDF page in real size: read back, the cut is 60 mm wide', async () => {
    const doc = await PDFDocument.load(
      await sheetPdf({
        ...sheet,
        texts: [...sheet.texts, { at: [9, 9], text: 'Ω – ü', size: 3, anchor: 'end' }],
      }),
    )
    expect(doc.getPageCount()).toBe(1)
    const page = doc.getPage(0)
    expect(page.getWidth()).toBeCloseTo((297 / 25.4) * 72, 6)
    const streams = doc.context
      .enumerateIndirectObjects()
      .flatMap(([, o]) =>
        o instanceof PDFRawStream && !o.dict.has(PDFName.of('Subtype')) ? [o.getContents()] : [],
      )
    const text = streams
      .map((s) => {
        try {
          return new TextDecoder('latin1').decode(unzlibSync(s))
        } catch {
          return ''
        }
      })
      .join('\n')
    const thick = (0.5 * 72) / 25.4
    const at = text.indexOf(`${thick} w`)
    expect(at).toBeGreaterThan(0)
    const xs = [
      ...text.slice(at, text.indexOf('S\n', at)).matchAll(/^(-?[\d.]+) -?[\d.]+ [ml]$/gm),
    ].map((m) => Number(m[1]))
    expect(((Math.max(...xs) - Math.min(...xs)) * 25.4) / 72).toBeCloseTo(60, 4)
  })
})

describe('diameters', () => {
  const hole = (x: number, y: number, radius: number) =>
    [0, 20].map((z) => ({ origin: [x, y, z] as const, dir: [0, 0, 1] as const, radius }))
  const plate = {
    ...box([0, 0, 0], [60, 40, 20]),
    rounds: [...hole(10, 10, 3), ...hole(50, 10, 3), ...hole(30, 20, 8.25)],
  }
  const sheet = viewsSheet([plate], { name: 'Plate', material: '', bodies: ['Plate'] })
  it('are told once in the view that sees the circles square on, those alike with their number', () => {
    const told = sheet.texts.map((t) => t.text).filter((t) => t.includes('Ø'))
    expect(told.sort()).toEqual(['2 × Ø6.00', 'Ø16.50'])
  })
  it('their figures stand left of the view and on the paper', () => {
    for (const t of sheet.texts.filter((x) => x.text.includes('Ø'))) {
      // Capitals 3 mm high are some 2.2 mm wide at most.
      expect(t.at[0] - 2.2 * t.text.length).toBeGreaterThan(5)
    }
  })
  it('of circles seen from the side there are none', () => {
    const round = { origin: [0, 20, 10] as const, dir: [1, 0, 0] as const, radius: 5 }
    const side = { ...box([0, 0, 0], [60, 40, 20]), rounds: [round] }
    const { texts } = viewsSheet([side], { name: 'Rod', material: '', bodies: ['Rod'] })
    expect(texts.some((t) => t.text.includes('Ø'))).toBe(false)
  })
})
