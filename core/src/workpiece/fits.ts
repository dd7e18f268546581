import { bad, good, type Outcome } from '../math'

/** Upper ends of the nominal size steps, mm, from over 3; ISO 286-1 table 1. */
const STEPS = [6, 10, 18, 30, 50, 80, 120]
/** Standard tolerances, µm; ISO 286-1 table 1 (from memory, checked against its formula to 1 µm). */
const IT: Record<6 | 7 | 8, number[]> = {
  6: [8, 9, 11, 13, 16, 19, 22],
  7: [12, 15, 18, 21, 25, 30, 35],
  8: [18, 22, 27, 33, 39, 46, 54],
}
/**
 * Deviations of shafts nearest the nominal, µm, by ISO 286-1: upper ones of f, g, h and lower ones of
 * k, n, p (from memory; f, g, k, n agree with the standard's formulas).
 */
const SHAFT: Record<string, { upper?: number[]; lower?: number[] }> = {
  f: { upper: [-10, -13, -16, -20, -25, -30, -36] },
  g: { upper: [-4, -5, -6, -7, -9, -10, -12] },
  h: { upper: [0, 0, 0, 0, 0, 0, 0] },
  k: { lower: [1, 1, 1, 2, 2, 2, 3] },
  n: { lower: [8, 10, 12, 15, 17, 20, 23] },
  p: { lower: [12, 15, 18, 22, 26, 32, 37] },
}

/** Kinds of fit by what they are for, as a hole and a shaft of ISO 286. */
export const FITS = {
  loose: { label: 'runs loose', hole: 'H8', shaft: 'f7' },
  slide: { label: 'slides', hole: 'H7', shaft: 'g6' },
  locate: { label: 'locates by hand', hole: 'H7', shaft: 'h6' },
  push: { label: 'pushed home', hole: 'H7', shaft: 'k6' },
  tight: { label: 'tapped home', hole: 'H7', shaft: 'n6' },
  press: { label: 'pressed', hole: 'H7', shaft: 'p6' },
} as const
export type Fit = keyof typeof FITS

/** Limits of a size class such as `H7` or `g6` on a nominal diameter (over 3 to 120 mm), in mm. */
export function limitsOf(nominal: number, grade: string): Outcome<{ low: number; high: number }> {
  const parsed = /^([A-Za-z])([678])$/.exec(grade)
  if (!parsed) return bad('fit', `The class ${grade} is not in the table.`)
  if (!(nominal > 3 && nominal <= 120))
    return bad('fit', 'The table of fits goes from over 3 to 120 mm.')
  const step = STEPS.findIndex((s) => nominal <= s)
  const it = IT[Number(parsed[2]) as 6 | 7 | 8][step]!
  const letter = parsed[1]!
  const mm = (low: number, high: number) => good({ low: low / 1000, high: high / 1000 })
  if (letter === 'H') return mm(0, it)
  const { upper, lower } = SHAFT[letter] ?? {}
  if (upper) return mm(upper[step]! - it, upper[step]!)
  if (lower) return mm(lower[step]!, lower[step]! + it)
  return bad('fit', `The class ${grade} is not in the table.`)
}

export interface FitReckoning {
  hole: { class: string; low: number; high: number }
  shaft: { class: string; low: number; high: number }
  /** Play between them, mm; negative is interference. */
  least: number
  most: number
  /** Diameters to draw: the middle of each tolerance. */
  drawHole: number
  drawShaft: number
}

/** A hole and shaft of one nominal diameter (mm) that fit as asked. ISO 286-1 and -2. */
export function reckonFit(nominal: number, fit: Fit): Outcome<FitReckoning> {
  const { hole: h, shaft: s } = FITS[fit]
  const hole = limitsOf(nominal, h)
  const shaft = limitsOf(nominal, s)
  if (!hole.ok) return hole
  if (!shaft.ok) return shaft
  const middle = (l: { low: number; high: number }) => nominal + (l.low + l.high) / 2
  return good({
    hole: { class: h, ...hole.value },
    shaft: { class: s, ...shaft.value },
    least: hole.value.low - shaft.value.high,
    most: hole.value.high - shaft.value.low,
    drawHole: middle(hole.value),
    drawShaft: middle(shaft.value),
  })
}

/** Diameter that clears another by so much a side (`outside`: around it, else inside it), mm. */
export const clearing = (diameter: number, aSide: number, outside: boolean): number =>
  diameter + (outside ? 2 : -2) * aSide

/** Wall of so many printed lines, mm (common practice, no source). */
export const printedWall = (lines: number, width: number): number => lines * width
