import fc from 'fast-check'
import { unzlibSync } from 'fflate'
import { PDFDocument, type PDFRawStream } from 'pdf-lib'
import { describe, expect, test } from 'vitest'
import type { P2 } from '../../math'
import { emptyWorkpiece } from '../../workpiece'
import { BAR, printedPdf } from './printed'
import { reportPdf } from './report'
import { FOOT, MARGIN, OVERLAP, PAPERS, tiling } from './tiles'

const MM = 72 / 25.4
/** Signs of the standard font that are not where they are in Latin 1 (PDF 32000-1, annex D.2, from memory). */
const WINDOWS: Readonly<Record<string, string>> = { '93': '“', '94': '”', '96': '–' }
/** Sheets of a PDF as they are read back: their sizes in mm, what their streams say, and the words in them. */
async function readBack(bytes: Uint8Array) {
  const doc = await PDFDocument.load(bytes)
  const text = (s: PDFRawStream) => new TextDecoder('latin1').decode(unzlibSync(s.getContents()))
  return doc.getPages().map((page) => {
    const contents = page.node.normalizedEntries().Contents!
    const said = Array.from({ length: contents.size() }, (_, i) =>
      text(doc.context.lookup(contents.get(i)) as PDFRawStream),
    ).join('\n')
    const words = [...said.matchAll(/<([0-9A-F]+)> Tj/g)].map((m) =>
      m[1]!
        .match(/../g)!
        .map((h) => WINDOWS[h] ?? String.fromCharCode(Number.parseInt(h, 16)))
        .join(''),
    )
    const segments = [...said.matchAll(/([-\d.]+) ([-\d.]+) m\s+([-\d.]+) ([-\d.]+) l/g)].map(
      (m) => m.slice(1).map((x) => Number(x) / MM) as [number, number, number, number],
    )
    return { width: page.getWidth() / MM, height: page.getHeight() / MM, said, words, segments }
  })
}
const made = async (...of: Parameters<typeof printedPdf>) => {
  const out = await printedPdf(...of)
  if (typeof out === 'string') throw new Error(out)
  return { ...out, sheets: await readBack(out.bytes) }
}
const square = (side: number, at = 0): P2[] => [
  [at, at],
  [at + side, at],
  [at + side, at + side],
  [at, at + side],
  [at, at],
]

describe('a drawing printed in real size', () => {
  test('read back: the sheet, the lines and the bar have the millimetres they stand for', async () => {
    const { sheets, note } = await made({ title: 'Cup', lines: [square(60, -17)] }, 1, 'A4')
    expect(sheets).toHaveLength(1)
    expect([sheets[0]!.width, sheets[0]!.height].sort((a, b) => a - b)[0]).toBeCloseTo(210, 6)
    const long = sheets[0]!.segments.map(([x, y, X, Y]) => Math.hypot(X - x, Y - y))
    expect(long.filter((l) => Math.abs(l - 60) < 1e-3)).toHaveLength(4)
    expect(long.some((l) => Math.abs(l - BAR) < 1e-6)).toBe(true)
    expect(sheets[0]!.words).toContain('Cup, 1:1')
    expect(note).toContain('60.0 x 60.0 mm on 1 sheet of A4')
  })
  test('to a scale: lines by it, the bar as it is', async () => {
    const { sheets } = await made({ title: 'Cup', lines: [square(60)] }, 0.5, 'Letter')
    const long = sheets[0]!.segments.map(([x, y, X, Y]) => Math.hypot(X - x, Y - y))
    expect(long.filter((l) => Math.abs(l - 30) < 1e-3)).toHaveLength(4)
    expect(long.some((l) => Math.abs(l - BAR) < 1e-6)).toBe(true)
    expect(sheets[0]!.words.some((w) => w.includes('1:2'))).toBe(true)
  })
  test('over several sheets: each says which it is, and laid together they are the drawing', async () => {
    const line: P2[] = [
      [0, 0],
      [500, 333],
    ]
    const { sheets } = await made({ title: 'Board', lines: [line] }, 1, 'A4')
    const plan = tiling([500, 333], 'A4')
    expect(sheets).toHaveLength(plan.tiles.length)
    for (const [k, s] of sheets.entries()) {
      const { from, column, row } = plan.tiles[k]!
      expect(s.words.some((w) => w.includes(`${column + 1} across, ${row + 1} up`))).toBe(true)
      const diagonal = s.segments.find(([x, , X]) => Math.abs(X - x) > 400)
      if (!diagonal) continue
      // Back where it was drawn; paths run down the sheet.
      const back = [diagonal[0] - MARGIN + from[0], -diagonal[1] - MARGIN - FOOT + from[1]]
      expect(Math.hypot(back[0]!, back[1]!)).toBeLessThan(1e-3)
    }
  })
  test('any size: sheets cover the drawing, each overlapping the next, none idle', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 3000, noNaN: true }),
        fc.double({ min: 0.1, max: 3000, noNaN: true }),
        fc.constantFrom(...(Object.keys(PAPERS) as (keyof typeof PAPERS)[])),
        (w, h, paper) => {
          const { tiles, window, columns, rows } = tiling([w, h], paper)
          const end = (k: 0 | 1) => Math.max(...tiles.map((t) => t.from[k])) + window[k]
          expect(end(0)).toBeGreaterThanOrEqual(w - 1e-3)
          expect(end(1)).toBeGreaterThanOrEqual(h - 1e-3)
          if (columns > 1) expect(end(0) - window[0] + OVERLAP).toBeLessThan(w)
          if (rows > 1) expect(end(1) - window[1] + OVERLAP).toBeLessThan(h)
          expect(tiles).toHaveLength(columns * rows)
        },
      ),
    )
  })
  test('nothing, no scale and far too many sheets are told', async () => {
    expect(await printedPdf({ title: '', lines: [] }, 1, 'A4')).toContain('nothing')
    expect(await printedPdf({ title: '', lines: [square(5)] }, 0, 'A4')).toContain('scale')
    expect(await printedPdf({ title: '', lines: [square(1e5)] }, 1, 'A4')).toContain('sheets')
  })
})

describe('the report', () => {
  const w = {
    ...emptyWorkpiece('w', 'Jar “nine”'),
    brief: {
      purpose: `For peas.\n${'very '.repeat(200)}long`,
      targets: { capacity: { min: 300 } },
      material: 'petg',
    },
    figures: [{ name: 'wide', expr: '40 mm' }],
    log: [{ at: '2026-01-01', text: 'Released jar.step: 3 kB; SHA-256 abc.' }],
    notes: [
      {
        id: 'n1',
        body: 'jar',
        faces: ['turn:side'],
        at: [1, 2, 3] as [number, number, number],
        text: 'polish −',
      },
    ],
  }
  const reading = {
    low: 1,
    high: 1,
    text: '2.50–3.00 mm',
    rows: [{ label: 'least', text: '2.5' }],
    places: [],
  }
  const gauge = {
    id: 'g',
    kind: 'wall',
    label: 'Wall',
    body: 'jar',
    reading,
    why: '',
    limits: { min: 2 },
    fromBrief: false,
    verdict: 'holds' as const,
  }
  const body = { id: 'jar', name: 'Jar', volume: 1e4, size: [1, 2, 3] as const, verdict: 'holds' }
  test('holds brief, readings with verdicts, bodies, figures, notes and files; nothing runs off the paper', async () => {
    const bytes = await reportPdf(
      {
        w,
        gauges: Array.from({ length: 60 }, () => gauge),
        reports: [],
        bodies: [body],
        made: 'today',
      },
      'A4',
    )
    const sheets = await readBack(bytes)
    expect(sheets.length).toBeGreaterThan(1)
    const words = sheets.flatMap((s) => s.words)
    for (const is of [
      'Jar “nine”',
      'Readings',
      '2.50–3.00 mm',
      'holds',
      '2 to ...',
      'wide',
      'polish -',
    ])
      expect(words).toContain(is)
    expect(words.join(' ')).toContain('SHA-256 abc')
    expect(words.join(' ')).toContain('PETG')
    for (const { said, width, height } of sheets)
      for (const [, x, y] of said.matchAll(/1 0 0 1 ([-\d.]+) ([-\d.]+) Tm/g)) {
        expect(Number(x) / MM).toBeGreaterThan(0)
        expect(Number(x) / MM).toBeLessThan(width - MARGIN)
        expect(Number(y) / MM).toBeGreaterThan(MARGIN - 1)
        expect(Number(y) / MM).toBeLessThan(height)
      }
  })
})
