import {
  clip,
  endPath,
  PDFDocument,
  type PDFFont,
  type PDFPage,
  popGraphicsState,
  pushGraphicsState,
  rectangle,
  rgb,
  StandardFonts,
} from 'pdf-lib'
import { fixed, type P2 } from '../../math'
import { INK, PT, printable } from '../sheet/pdf'
import { FOOT, MARGIN, type Paper, type Tile, type Tiling, tiling } from './tiles'

/** Lines to be printed, mm at true size, y up. */
export interface Lines {
  title: string
  lines: readonly (readonly P2[])[]
}
/** The bar that tells whether the printer kept the size, mm. */
export const BAR = 100
/** Sheets a print has at most. */
const MOST = 200
const FAINT = rgb(0.55, 0.5, 0.42)

/**
 * Lines in real size (times `scale`) over as many sheets as they need, as PDF. Each sheet has a bar of 100 mm on paper, its place among the
 * others, and marks where the sheet beside it begins. A sentence where there is nothing, or too many sheets would be needed.
 */
export async function printedPdf(
  { title, lines }: Lines,
  scale: number,
  paper: Paper,
): Promise<{ bytes: Uint8Array; note: string } | string> {
  if (!(scale > 0 && Number.isFinite(scale))) return 'A print is to a scale above 0.'
  const all = lines.flat()
  if (all.length === 0) return 'There is nothing to print.'
  const low: P2 = [Math.min(...all.map((p) => p[0])), Math.min(...all.map((p) => p[1]))]
  const size: P2 = [
    (Math.max(...all.map((p) => p[0])) - low[0]) * scale,
    (Math.max(...all.map((p) => p[1])) - low[1]) * scale,
  ]
  const plan = tiling(size, paper)
  if (plan.tiles.length > MOST)
    return `At this scale ${plan.tiles.length} sheets would be needed; up to ${MOST} are printed.`
  const doc = await PDFDocument.create()
  doc.setTitle(title)
  const font = await doc.embedFont(StandardFonts.Helvetica)
  const moved = lines.map((l) =>
    l.map(([x, y]): P2 => [(x - low[0]) * scale, (y - low[1]) * scale]),
  )
  const words = `${title}, ${scale === 1 ? '1:1' : scale > 1 ? `${fixed(scale, 2)}:1` : `1:${fixed(1 / scale, 2)}`}`
  for (const tile of plan.tiles) {
    const page = doc.addPage([plan.sheet[0] * PT, plan.sheet[1] * PT])
    drawn(page, moved, tile, plan)
    footed(page, font, words, tile, plan)
  }
  const many = plan.tiles.length
  return {
    bytes: await doc.save(),
    note: `${fixed(size[0], 1)} x ${fixed(size[1], 1)} mm on ${many} ${many === 1 ? 'sheet' : 'sheets'} of ${paper}; measure the bar: it is ${BAR} mm`,
  }
}

function drawn(page: PDFPage, lines: P2[][], { from }: Tile, { window }: Tiling): void {
  const foot = MARGIN + FOOT
  const within = ([x0, y0]: P2, [x1, y1]: P2) =>
    Math.max(x0, x1) >= from[0] &&
    Math.min(x0, x1) <= from[0] + window[0] &&
    Math.max(y0, y1) >= from[1] &&
    Math.min(y0, y1) <= from[1] + window[1]
  const at = ([x, y]: P2) =>
    `${((x - from[0] + MARGIN) * PT).toFixed(4)} ${(-(y - from[1] + foot) * PT).toFixed(4)}`
  const d = lines
    .flatMap((l) =>
      l.slice(1).flatMap((q, i) => (within(l[i]!, q) ? [`M${at(l[i]!)}L${at(q)}`] : [])),
    )
    .join('')
  page.pushOperators(
    pushGraphicsState(),
    rectangle(MARGIN * PT, foot * PT, window[0] * PT, window[1] * PT),
    clip(),
    endPath(),
  )
  if (d !== '') page.drawSvgPath(d, { x: 0, y: 0, borderColor: INK, borderWidth: 0.25 * PT })
  page.pushOperators(popGraphicsState())
}

/** The bar, the place of the sheet, and where its window ends. */
function footed(page: PDFPage, font: PDFFont, words: string, tile: Tile, plan: Tiling): void {
  const line = (a: P2, b: P2, thickness = 0.25, color = INK) =>
    page.drawLine({
      start: { x: a[0] * PT, y: a[1] * PT },
      end: { x: b[0] * PT, y: b[1] * PT },
      thickness: thickness * PT,
      color,
    })
  const y = MARGIN + 3
  line([MARGIN, y], [MARGIN + BAR, y], 0.5)
  for (let k = 0; k <= 10; k++) {
    const x = MARGIN + (k * BAR) / 10
    line([x, y - (k % 5 === 0 ? 1.5 : 0.8)], [x, y + (k % 5 === 0 ? 1.5 : 0.8)], 0.35)
  }
  const text = (x: number, up: number, said: string) =>
    page.drawText(printable(said), { x: x * PT, y: up * PT, size: 8, font, color: INK })
  text(MARGIN + BAR + 3, y - 1, `${BAR} mm`)
  const sheets = plan.tiles.length
  const place =
    sheets === 1
      ? ''
      : `, sheet ${tile.column + 1} across, ${tile.row + 1} up of ${plan.columns} x ${plan.rows}`
  text(MARGIN, MARGIN + 8, `${words}${place}`)
  // Corners of the window: sheets are laid so that those of neighbours overlap as the lines do.
  const [x0, y0] = [MARGIN, MARGIN + FOOT]
  const [x1, y1] = [x0 + plan.window[0], y0 + plan.window[1]]
  for (const [cx, cy] of [
    [x0, y0],
    [x1, y0],
    [x0, y1],
    [x1, y1],
  ] as P2[]) {
    line([cx - 3, cy], [cx + 3, cy], 0.15, FAINT)
    line([cx, cy - 3], [cx, cy + 3], 0.15, FAINT)
  }
}
