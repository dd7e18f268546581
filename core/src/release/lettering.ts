import opentype from 'opentype.js'
import { type Curve, line, spline } from '../curve'
import { bad, good, type Outcome, type P2 } from '../math'
import { MAX_PIECES, type Outlines } from './outlines'

/** Longest text set at once. */
const MAX_TEXT = 200

/**
 * Outlines of a text in a font (TTF, OTF or WOFF bytes), `size` mm high by the font's em, its baseline
 * running from the origin to the right. Quadratic and cubic pieces stay what they are.
 */
export function letterOutlines(font: ArrayBuffer, text: string, size: number): Outcome<Outlines> {
  if (text.trim() === '') return bad('text', 'There is no text to set.')
  if (text.length > MAX_TEXT) return bad('text', `Up to ${MAX_TEXT} characters can be set at once.`)
  if (!(size > 0.1 && size <= 1000))
    return bad('size', 'The size must lie between 0.1 and 1000 mm.')
  let path: opentype.Path
  const missing = new Set<string>()
  try {
    const face = opentype.parse(font)
    for (const c of text) if (c.trim() !== '' && face.charToGlyphIndex(c) === 0) missing.add(c)
    path = face.getPath(text, 0, 0, size)
  } catch {
    return bad('font', 'The font cannot be read.')
  }
  const curves: Curve[] = []
  let [at, start]: [P2, P2] = [
    [0, 0],
    [0, 0],
  ]
  const put = (to: P2, ...inner: P2[]) => {
    const k = inner.length + 2
    if (Math.hypot(to[0] - at[0], to[1] - at[1]) > 1e-9)
      curves.push(
        inner.length === 0
          ? line(at, to)
          : spline(k - 1, [...Array(k).fill(0), ...Array(k).fill(1)], [at, ...inner, to]),
      )
    at = to
  }
  for (const c of path.commands) {
    if (c.type === 'M') at = start = [c.x, -c.y]
    else if (c.type === 'L') put([c.x, -c.y])
    else if (c.type === 'Q') put([c.x, -c.y], [c.x1, -c.y1])
    else if (c.type === 'C') put([c.x, -c.y], [c.x1, -c.y1], [c.x2, -c.y2])
    else put(start)
  }
  if (curves.length === 0) return bad('text', 'The font has no outlines for this text.')
  if (curves.length > MAX_PIECES)
    return bad('text', `The text draws ${curves.length} pieces; ${MAX_PIECES} are the most.`)
  const skipped: Record<string, number> = {}
  for (const c of missing) skipped[`"${c}" not in the font`] = 1
  return good({ curves, skipped })
}
