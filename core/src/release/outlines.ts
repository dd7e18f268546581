import { type Curve, pointAt } from '../curve'
import { dist, type P2 } from '../math'
import { Builder, type Drawing, emptyDrawing } from '../profile'

/** Curves read from a file, in file units, and what was left out. */
export interface Outlines {
  curves: Curve[]
  /** What was skipped, by kind, and how many of each. */
  skipped: Record<string, number>
  /** Millimetres in a unit of the file, when the file says so. */
  unit?: number | undefined
}
export interface BroughtIn {
  drawing: Drawing
  /** In a sentence: pieces, joins, what was skipped. */
  says: string
}

/** Largest outline file read, bytes, and most pieces taken from it. */
export const MAX_OUTLINE_BYTES = 20 * 1024 * 1024
export const MAX_PIECES = 2000

/** Conjugate half-diameters this nearly equal and square are a circle's. */
const ROUND = 1e-9
export const isRound = (u: P2, v: P2): boolean => {
  const [a, b] = [Math.hypot(...u), Math.hypot(...v)]
  return (
    Math.abs(a - b) < ROUND * a + 1e-12 &&
    Math.abs(u[0] * v[0] + u[1] * v[1]) < ROUND * a * a + 1e-12
  )
}

/** Places that are numbers, and not absurdly far off. */
export const isSane = (c: Curve): boolean =>
  [0, 0.5, 1].every((t) => pointAt(c, t).every((x) => Number.isFinite(x) && Math.abs(x) < 1e7))

/** A drawing of the curves at `scale` mm a unit; ends nearer than `join` mm become one point. */
export function drawingOf(outlines: Outlines, scale: number, join: number): BroughtIn {
  const to = new Builder(emptyDrawing(), join)
  const put = (p: P2): P2 => [p[0] * scale, p[1] * scale]
  let specks = 0
  for (const c of outlines.curves) {
    const scaled: Curve =
      c.kind === 'line'
        ? { ...c, a: put(c.a), b: put(c.b) }
        : c.kind === 'arc'
          ? { ...c, c: put(c.c), radius: c.radius * scale }
          : { ...c, poles: c.poles.map(put) }
    if (scaled.kind === 'line' && dist(scaled.a, scaled.b) <= join) specks++
    else to.curve(scaled)
  }
  const skipped = Object.entries(outlines.skipped).map(([k, n]) => `${n} ${k}`)
  if (specks > 0) skipped.push(`${specks} shorter than the joining distance`)
  return {
    drawing: to.drawing,
    says: `${to.added.length} pieces, ends within ${join} mm joined${
      skipped.length > 0 ? `; skipped: ${skipped.join(', ')}` : ''
    }.`,
  }
}
