import { mm } from '../math'
import type { Brief } from './schema'

/** A row of ribs or slots as reckoned, mm. */
export interface RowSizes {
  count: number
  size: number
  gap: number
}

/**
 * What the brief has against the ribs, webs and gaps of a row, in sentences. `of` says whether the
 * pieces of the row stand as ribs or are cut as slots, which leaves webs between them.
 */
export function rowTroubles(row: RowSizes, of: 'ribs' | 'slots', brief: Brief): string[] {
  const several = row.count > 1
  const [solid, free] =
    of === 'ribs'
      ? [{ word: 'rib', size: row.size }, several ? { word: 'gap', size: row.gap } : null]
      : [several ? { word: 'web', size: row.gap } : null, { word: 'slot', size: row.size }]
  const { rib, gap } = brief.targets
  return [
    ...against(solid, rib, 'ribs and webs'),
    ...against(free, gap, 'gaps and slots'),
    ...(solid && brief.line !== undefined && solid.size < brief.line
      ? [
          `The ${solid.word} of ${mm(solid.size)} is narrower than one printed line of ${mm(brief.line)}.`,
        ]
      : []),
  ]
}

function against(
  part: { word: string; size: number } | null,
  limits: { min?: number | undefined; max?: number | undefined } | undefined,
  words: string,
): string[] {
  if (!part || !limits) return []
  const { min, max } = limits
  if (min !== undefined && part.size < min)
    return [
      `The ${part.word} of ${mm(part.size)} is under the ${mm(min)} the brief asks of ${words}.`,
    ]
  if (max !== undefined && part.size > max)
    return [
      `The ${part.word} of ${mm(part.size)} is over the ${mm(max)} the brief allows ${words}.`,
    ]
  return []
}
