import { type FillCurve, heightFor } from '../gauges'
import { rounded } from '../math'
import { n, xmlText } from './xml'

/** Marks on a scale at most. */
const MOST = 400

/**
 * A strip with a mark every so many ml at the height where the vessel holds it, as SVG in real millimetres:
 * printed at full size and set on the inside floor it reads the volume. Null where no mark fits.
 */
export function levelScale(curve: FillCurve, every: number, title: string): string | null {
  if (!(every > 0)) return null
  const brim = curve.volumes[curve.volumes.length - 1]!
  const count = Math.floor(brim / every + 1e-9)
  if (count < 1 || count > MOST) return null
  const high = curve.heights[curve.heights.length - 1]!
  const [width, height, foot] = [34, high + 14, high + 4]
  const marks = Array.from({ length: count }, (_, k) => {
    const ml = every * (k + 1)
    return { ml, y: foot - heightFor(curve, ml)!, long: (k + 1) % 5 === 0 || count <= 10 }
  })
  const lines = marks.map(({ y, long }) => `<path d="M4 ${n(y)}h${long ? 12 : 7}"/>`)
  const words = marks.flatMap(({ ml, y, long }) =>
    long ? [`<text x="18" y="${n(y + 1.2)}" font-size="3.4">${rounded(ml, 3)}</text>`] : [],
  )
  return `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="${n(width)}mm" height="${n(height)}mm" viewBox="0 0 ${n(width)} ${n(height)}" font-family="sans-serif" fill="#2b2620">
<title>${xmlText(title)}: ml over the inside floor, full size</title>
<g stroke="#2b2620" stroke-width="0.25"><path d="M4 ${n(foot)}V${n(foot - high)}M4 ${n(foot)}h24"/>${lines.join('')}</g>
${words.join('\n')}
<text x="4" y="${n(foot + 6)}" font-size="3">inside floor · ml</text>
</svg>
`
}
