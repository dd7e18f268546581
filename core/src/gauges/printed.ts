import { fixed } from '../math'
import type { Reading, Verdict } from './spec'

/** A wall that is thinner than a line by more than this share of it is laid by none. */
const SLACK = 0.01
/** Walls may be off a whole number of lines by this share of one. */
const WHOLE = 0.1

/**
 * What a printer that lays lines of `line` mm makes of a wall: one thinner than a line is not laid at all, whatever its limits say;
 * one that is no whole number of lines is told.
 */
export function asPrinted(
  reading: Reading,
  verdict: Verdict,
  line: number,
): { reading: Reading; verdict: Verdict } {
  const told = (label: string, text: string): Reading => ({
    ...reading,
    rows: [...reading.rows, { label, text }],
  })
  if (reading.low < line * (1 - SLACK))
    return {
      reading: told('printed line', `${fixed(line, 2)} mm: a thinner wall is not laid`),
      verdict: 'out',
    }
  const lines = reading.low / line
  if (Math.abs(lines - Math.round(lines)) <= WHOLE) return { reading, verdict }
  const text = `${fixed(lines, 1)} of ${fixed(line, 2)} mm: not a whole number`
  return { reading: told('printed lines', text), verdict }
}
