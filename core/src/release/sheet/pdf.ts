import { degrees, PDFDocument, rgb, StandardFonts } from 'pdf-lib'
import type { Pen, Sheet } from './paper'
import { PENS } from './svg'

/** Points a millimetre: a point is 1/72 inch. */
export const PT = 72 / 25.4
export const INK = rgb(0.169, 0.149, 0.125)

/** The sheet as a PDF page in real size. */
export async function sheetPdf({
  width,
  height,
  title,
  strokes,
  texts,
}: Sheet): Promise<Uint8Array> {
  const doc = await PDFDocument.create()
  doc.setTitle(title)
  const font = await doc.embedFont(StandardFonts.Helvetica)
  const page = doc.addPage([width * PT, height * PT])
  for (const pen of Object.keys(PENS) as Pen[]) {
    const d = strokes
      .filter((s) => s.pen === pen)
      .map((s) =>
        s.points.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x * PT} ${-y * PT}`).join(''),
      )
      .join('')
    if (d === '') continue
    const { width: w, dash } = PENS[pen]
    page.drawSvgPath(d, {
      x: 0,
      y: 0,
      borderColor: INK,
      borderWidth: w * PT,
      ...(dash ? { borderDashArray: dash.map((k) => k * PT) } : {}),
    })
  }
  for (const { at, text, size, anchor, upright } of texts) {
    const shown = printable(text)
    const points = size * 1.4 * PT
    const long = font.widthOfTextAtSize(shown, points)
    const back = anchor === 'middle' ? long / 2 : anchor === 'end' ? long : 0
    page.drawText(shown, {
      x: at[0] * PT - (upright ? 0 : back),
      y: at[1] * PT - (upright ? back : 0),
      size: points,
      font,
      color: INK,
      ...(upright ? { rotate: degrees(90) } : {}),
    })
  }
  return doc.save()
}

/** Signs that the standard font of PDF (WinAnsi) has not, in those it has. */
const INSTEAD: Readonly<Record<string, string>> = {
  '−': '-',
  '≈': '~',
  '→': '->',
  '≤': '<=',
  '≥': '>=',
}
/** What the standard font can write; other letters become a question mark. */
export const printable = (text: string): string =>
  text.replace(/[−≈→≤≥]/g, (c) => INSTEAD[c]!).replace(/[^\x20-\x7e\u00a0-\u00ff–—…•‘’“”€]/g, '?')
