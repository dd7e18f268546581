/** Relative size of what binary fractions add to a decimal half: 3.175 is stored a little below it. */
const BINARY = 2 ** -44

/** x to so many decimal places, halves away from 0 as a person would write them, never -0. */
export function rounded(x: number, digits: number): number {
  const scale = 10 ** digits
  const up = Math.floor(Math.abs(x) * scale * (1 + BINARY) + 0.5) / scale
  return Number.isFinite(up) ? (x < 0 && up !== 0 ? -up : up) : x
}

/** The same as text with all its decimal places: the one rounding of every figure that is shown. */
export const fixed = (x: number, digits: number): string => rounded(x, digits).toFixed(digits)
