import { PDFDocument, type PDFFont, type PDFPage, rgb, StandardFonts } from 'pdf-lib'
import { fixed } from '../../math'
import type { GaugeReport, OpReport } from '../../rebuild'
import {
  bodyCells,
  bodyRows,
  type ListedBody,
  materialOf,
  TARGETS,
  type Workpiece,
} from '../../workpiece'
import { INK, PT, printable } from '../sheet/pdf'
import { MARGIN, PAPERS, type Paper } from './tiles'

/** What a report tells. */
export interface Reported {
  w: Workpiece
  gauges: readonly GaugeReport[]
  reports: readonly OpReport[]
  bodies: readonly ListedBody[]
  /** When it was made, as it is to be told. */
  made: string
  /** A picture as PNG. */
  picture?: Uint8Array
}

const FAINT = rgb(0.45, 0.41, 0.35)
const [SMALL, USUAL, LARGE] = [8, 9.5, 13]
const LEFT = MARGIN + 8

/** Pages that are written from the top down. */
class Writer {
  readonly #doc: PDFDocument
  readonly #font: PDFFont
  readonly #bold: PDFFont
  readonly #size: readonly [number, number]
  #page!: PDFPage
  /** Distance from the top, mm. */
  #y = 0

  constructor(doc: PDFDocument, font: PDFFont, bold: PDFFont, paper: Paper) {
    this.#doc = doc
    this.#font = font
    this.#bold = bold
    this.#size = PAPERS[paper]
    this.#turn()
  }
  get wide(): number {
    return this.#size[0] - 2 * LEFT
  }
  #turn(): void {
    this.#page = this.#doc.addPage([this.#size[0] * PT, this.#size[1] * PT])
    this.#y = LEFT
  }
  space(mm: number): void {
    this.#y += mm
  }
  #room(mm: number): void {
    if (this.#y + mm > this.#size[1] - LEFT) this.#turn()
  }
  #put(x: number, text: string, size: number, font = this.#font, color = INK): void {
    this.#page.drawText(text, {
      x: (LEFT + x) * PT,
      y: (this.#size[1] - this.#y) * PT,
      size,
      font,
      color,
    })
  }
  title(text: string): void {
    this.#room(12)
    this.#y += 8
    this.#put(0, printable(text), LARGE, this.#bold)
    this.#y += 2.5
  }
  /** Words, broken to lines. */
  words(text: string, size = USUAL, color = INK): void {
    for (const line of this.#broken(text, this.wide, size)) {
      this.#room(5)
      this.#y += size * 0.46
      this.#put(0, line, size, this.#font, color)
    }
  }
  #broken(text: string, wide: number, size: number): string[] {
    const fits = (t: string) => this.#font.widthOfTextAtSize(t, size) <= wide * PT
    const out: string[] = []
    for (const para of text.split(/\r?\n/).map(printable)) {
      let line = ''
      for (const word of para.split(/ +/)) {
        const longer = line ? `${line} ${word}` : word
        if (fits(longer)) line = longer
        else {
          if (line) out.push(line)
          line = word
          while (!fits(line) && line.length > 1) {
            let n = line.length - 1
            while (n > 1 && !fits(line.slice(0, n))) n--
            out.push(line.slice(0, n))
            line = line.slice(n)
          }
        }
      }
      out.push(line)
    }
    return out
  }
  /** Rows of cells in columns of so many shares of the width; the first row is the head. */
  table(rows: readonly (readonly string[])[], shares: readonly number[]): void {
    const sum = shares.reduce((a, b) => a + b, 0)
    const widths = shares.map((s) => (s / sum) * this.wide)
    for (const [r, row] of rows.entries()) {
      const cells = row.map((c, k) => this.#broken(c, widths[k]! - 2, SMALL))
      const tall = Math.max(...cells.map((c) => c.length)) * 3.8 + 1.2
      this.#room(tall)
      const top = this.#y
      let x = 0
      for (const [k, lines] of cells.entries()) {
        for (const [i, line] of lines.entries()) {
          this.#y = top + 3.4 + 3.8 * i
          this.#put(x, line, SMALL, r === 0 ? this.#bold : this.#font, r === 0 ? FAINT : INK)
        }
        x += widths[k]!
      }
      this.#y = top + tall
      this.#page.drawLine({
        start: { x: LEFT * PT, y: (this.#size[1] - this.#y) * PT },
        end: { x: (LEFT + this.wide) * PT, y: (this.#size[1] - this.#y) * PT },
        thickness: 0.3,
        color: FAINT,
      })
    }
  }
  async picture(png: Uint8Array, tall: number): Promise<void> {
    const image = await this.#doc.embedPng(png)
    const scale = Math.min((tall * PT) / image.height, (this.wide * PT) / image.width)
    const height = (image.height * scale) / PT
    this.#room(height + 3)
    this.#y += height + 3
    this.#page.drawImage(image, {
      x: LEFT * PT,
      y: (this.#size[1] - this.#y) * PT,
      width: image.width * scale,
      height: image.height * scale,
    })
  }
}

const VERDICT: Readonly<Record<string, string>> = { none: 'no limit' }

/** The report of a piece as PDF: brief, readings with verdicts, bodies, figures, route with notes, files that left with their digests. */
export async function reportPdf(told: Reported, paper: Paper): Promise<Uint8Array> {
  const { w, gauges, reports, bodies, made, picture } = told
  const doc = await PDFDocument.create()
  doc.setTitle(`Report: ${w.name}`)
  const out = new Writer(
    doc,
    await doc.embedFont(StandardFonts.Helvetica),
    await doc.embedFont(StandardFonts.HelveticaBold),
    paper,
  )
  out.title(w.name)
  out.words(`Report of ${made}`, SMALL, FAINT)
  if (picture) await out.picture(picture, 70)
  brief(out, w)
  const name = new Map(bodies.map((b) => [b.id, b.name]))
  out.title('Readings')
  if (gauges.length === 0) out.words('No gauge is on the bench.')
  else
    out.table(
      [
        ['gauge', 'body', 'reading', 'limits', 'verdict'],
        ...gauges.flatMap((g) => [
          [
            g.label,
            name.get(g.body) ?? '',
            g.reading?.text ?? g.why,
            g.limits ? `${g.limits.min ?? '...'} to ${g.limits.max ?? '...'}` : '',
            VERDICT[g.verdict] ?? g.verdict,
          ],
          ...(g.reading?.rows ?? []).map((r) => [`   ${r.label}`, '', r.text, '', '']),
        ]),
      ],
      [4, 3, 4, 3, 2],
    )
  out.title('Bodies')
  out.table(bodyCells(bodyRows(w, bodies)), [3, 3, 2, 2, 2, 2, 2, 2, 2])
  if (w.figures.length > 0) {
    out.title('Figures')
    out.table(
      [['figure', 'is', 'note'], ...w.figures.map((f) => [f.name, f.expr, f.note ?? ''])],
      [2, 4, 4],
    )
  }
  out.title('Route')
  const said = new Map(reports.map((r) => [r.id, r]))
  out.table(
    [
      ['op', 'name', 'what it did', 'note'],
      ...w.route.map((o) => {
        const r = said.get(o.id)
        return [
          String(o.number),
          o.name,
          o.suppressed ? 'left out' : (r?.diagnoses[0]?.message ?? r?.consequence ?? ''),
          o.note ?? '',
        ]
      }),
    ],
    [1, 3, 6, 3],
  )
  if (w.notes.length > 0) {
    out.title('Notes')
    out.table(
      [
        ['', 'on', 'at, mm', 'note'],
        ...w.notes.map((n, k) => [
          String(k + 1),
          `${name.get(n.body) ?? n.body}: ${n.faces.join(' / ')}`,
          n.at.map((x) => fixed(x, 1)).join(', '),
          n.text,
        ]),
      ],
      [0.5, 3, 2, 5],
    )
  }
  const left = w.log.filter((l) => l.text.startsWith('Released '))
  out.title('Files that left')
  if (left.length === 0) out.words('None yet.')
  else out.table([['when', 'file'], ...left.map((l) => [l.at, l.text.slice(9)])], [2, 8])
  out.space(4)
  out.words(CAUTION, SMALL, FAINT)
  return doc.save()
}

const CAUTION =
  'Where a piece touches food, gets hot or holds glass edges, check material, glaze and finish under the rules of the place where it is used, with people licensed to judge it. The readings here are of shape only.'

function brief(out: Writer, w: Workpiece): void {
  const { purpose, process, material, targets, printer, limits } = w.brief
  out.title('Brief')
  if (purpose) out.words(purpose)
  const facts = [
    process && `made by: ${process}`,
    material && `material: ${materialOf(material, w.materials)?.name ?? material}`,
    printer && `printer: ${printer.name}, line ${printer.line} mm, layer ${printer.layer} mm`,
    limits && `limits of: ${limits.name}`,
  ].filter((f) => f !== undefined && f !== '')
  if (facts.length > 0) out.words(facts.join('; '))
  const rows = Object.entries(targets).flatMap(([t, l]) =>
    l
      ? [
          [
            t,
            l.min === undefined ? '' : String(l.min),
            l.max === undefined ? '' : String(l.max),
            TARGETS[t as keyof typeof TARGETS],
          ],
        ]
      : [],
  )
  if (rows.length > 0) out.table([['target', 'at least', 'at most', 'unit'], ...rows], [3, 2, 2, 2])
}
