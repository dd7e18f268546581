import { fixed } from '../math'
import type { LengthUnit } from './expression'

/** Exact by the international yard and pound agreement of 1959. */
const MM_PER_INCH = 25.4

const LENGTHS = /(\d+(?:\.\d+)?)(?:(–)(\d+(?:\.\d+)?))? mm(?![\w²³/])/g

/** A sentence with its lengths in the unit that is shown: "2.80–3.10 mm" becomes "0.1102–0.1220 in". */
export function sayLengths(text: string, unit: LengthUnit): string {
  if (unit === 'mm') return text
  return text.replace(LENGTHS, (_, a: string, dash: string | undefined, b: string | undefined) =>
    [inInches(a), ...(dash && b ? [dash, inInches(b)] : []), ' in'].join(''),
  )
}

/** As fine as the millimetres were said: two more decimals. */
function inInches(mm: string): string {
  const digits = Math.min(6, (mm.split('.')[1]?.length ?? 0) + 2)
  return fixed(Number(mm) / MM_PER_INCH, digits)
}
