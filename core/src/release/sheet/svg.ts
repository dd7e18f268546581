import { n, xmlText } from '../xml'
import type { Pen, Sheet } from './paper'

/** Widths and dashes of the pens, mm (ISO 128, from memory). */
export const PENS: Readonly<Record<Pen, { width: number; dash?: number[] }>> = {
  edge: { width: 0.35 },
  cut: { width: 0.5 },
  hidden: { width: 0.18, dash: [2, 1] },
  hatch: { width: 0.13 },
  dimension: { width: 0.18 },
  plane: { width: 0.25, dash: [6, 1.5, 1, 1.5] },
}

/** The sheet as SVG in real millimetres. */
export function sheetSvg({ width, height, title, strokes, texts }: Sheet): string {
  const groups = (Object.keys(PENS) as Pen[]).map((pen) => {
    const d = strokes
      .filter((s) => s.pen === pen)
      .map((s) =>
        s.points.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${n(x)} ${n(height - y)}`).join(''),
      )
      .join('')
    const { width: w, dash } = PENS[pen]
    return `<path class="${pen}" d="${d}" stroke-width="${w}"${dash ? ` stroke-dasharray="${dash.join(' ')}"` : ''}/>`
  })
  const words = texts.map(({ at: [x, y], text, size, anchor, upright }) => {
    const [px, py] = [n(x), n(height - y)]
    const turn = upright ? ` transform="rotate(-90 ${px} ${py})"` : ''
    return `<text x="${px}" y="${py}" font-size="${n(size * 1.4)}" text-anchor="${anchor}"${turn}>${xmlText(text)}</text>`
  })
  return `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="${width}mm" height="${height}mm" viewBox="0 0 ${width} ${height}" font-family="sans-serif">
<title>${xmlText(title)}: three views and a section, mm</title>
<g fill="none" stroke="#2b2620" stroke-linejoin="round">
${groups.join('\n')}
</g>
<g fill="#2b2620">
${words.join('\n')}
</g>
</svg>
`
}
