import { FONT_NAMES, type FontName, placeLetters, setLine } from '../letters'
import { bad, good, type Outcome } from '../math'
import { MAX_PIECES, type Outlines } from './outlines'

/** Longest text set at once. */
const MAX_TEXT = 200

/**
 * Outlines of a text in a shipped font, its capitals `size` mm high, its baseline running from the origin to
 * the right.
 */
export function letterOutlines(font: FontName, text: string, size: number): Outcome<Outlines> {
  if (!FONT_NAMES.includes(font)) return bad('font', `There is no font "${font}".`)
  if (text.trim() === '') return bad('text', 'There is no text to set.')
  if (text.length > MAX_TEXT) return bad('text', `Up to ${MAX_TEXT} characters can be set at once.`)
  if (!(size > 0.1 && size <= 1000))
    return bad('size', 'The size must lie between 0.1 and 1000 mm.')
  const { letters, width, missing } = setLine(font, text, size)
  const way = { at: [0, 0] as const, align: 'start', along: 'line', turn: 0 } as const
  const curves = placeLetters(letters, width, way, false).flatMap((l) => l.curves)
  if (curves.length === 0) return bad('text', 'The font has no outlines for this text.')
  if (curves.length > MAX_PIECES)
    return bad('text', `The text draws ${curves.length} pieces; ${MAX_PIECES} are the most.`)
  const skipped = Object.fromEntries(missing.map((c) => [`"${c}" not in the font`, 1]))
  return good({ curves, skipped })
}
