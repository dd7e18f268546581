import opentype from 'opentype.js'
import { type Curve, line, spline } from '../curve'
import type { P2 } from '../math'
import { bold } from './fonts/bold'
import { mono } from './fonts/mono'
import { sans } from './fonts/sans'

/** The fonts text is set in, each with its file (WOFF) as base64. */
const FILES = { sans, bold, mono }
export type FontName = keyof typeof FILES
export const FONT_NAMES = Object.keys(FILES) as [FontName, ...FontName[]]

/** A font in units of its em, with the height of its capitals. */
interface Font {
  face: opentype.Font
  /** Height of a capital H, em. */
  capitals: number
}
const read = new Map<FontName, Font>()

function fontOf(name: FontName): Font {
  const known = read.get(name)
  if (known) return known
  const bytes = Uint8Array.from(atob(FILES[name]), (c) => c.charCodeAt(0))
  const face = opentype.parse(bytes.buffer)
  const capitals = face.charToGlyph('H').getBoundingBox().y2 / face.unitsPerEm
  const font = { face, capitals }
  read.set(name, font)
  return font
}

/** One letter as it is set: where it starts and how far it goes on, mm, and its closed outlines. */
export interface Letter {
  char: string
  x: number
  advance: number
  /** About its own start on the baseline. */
  curves: Curve[]
}

/**
 * The letters of one line of text, its capitals `height` mm high, with `spacing` mm more between letters
 * than the font has; and the characters the font lacks. Quadratic and cubic pieces stay what they are.
 */
export function setLine(
  name: FontName,
  words: string,
  height: number,
  spacing = 0,
): { letters: Letter[]; width: number; missing: string[] } {
  const { face, capitals } = fontOf(name)
  const em = height / capitals
  const unit = em / face.unitsPerEm
  const chars = [...words]
  const glyphs = chars.map((c) => face.charToGlyph(c))
  const letters: Letter[] = []
  let x = 0
  for (const [i, glyph] of glyphs.entries()) {
    if (i > 0) x += face.getKerningValue(glyphs[i - 1]!, glyph) * unit + spacing
    const advance = (glyph.advanceWidth ?? 0) * unit
    // Glyph by glyph: some fonts break the reader when a whole text is asked for.
    letters.push({ char: chars[i]!, x, advance, curves: curvesOf(glyph.getPath(0, 0, em)) })
    x += advance
  }
  const missing = chars.filter((c) => c.trim() !== '' && face.charToGlyphIndex(c) === 0)
  return { letters, width: x, missing: [...new Set(missing)] }
}

/** The pieces of a path; its y runs down. */
function curvesOf(path: opentype.Path): Curve[] {
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
  return curves
}
