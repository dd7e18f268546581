import { fixed } from '../math'

/** How a person likes numbers to be shown. */
export interface Liking {
  /** Decimals at most of lengths in mm, volumes, masses and angles; as they were worked out where absent. */
  length?: number | undefined
  volume?: number | undefined
  mass?: number | undefined
  angle?: number | undefined
  /** The other unit of length beside it: none, decimal inches, or the nearest 64th. */
  beside: 'none' | 'inches' | 'fractions'
  /** What parts whole from broken numbers. */
  comma: boolean
}
export const AS_WORKED_OUT: Liking = { beside: 'none', comma: false }

const KINDS: Readonly<Record<string, 'length' | 'volume' | 'mass' | 'angle'>> = {
  mm: 'length',
  ml: 'volume',
  'cm³': 'volume',
  'mm³': 'volume',
  cm3: 'volume',
  g: 'mass',
  kg: 'mass',
  deg: 'angle',
  '°': 'angle',
}
const MM_PER_INCH = 25.4
const SIXTY_FOURTHS = 64

/** One number, or two from one to another, with a unit of these. */
const MEASURE =
  /(?<![\w.])(\d+(?:\.\d+)?)(?:(–| to )(\d+(?:\.\d+)?))?( ?)(mm³|cm³|cm3|mm|ml|kg|g|deg|°)(?![\w²³/])/g

/** Millimetres as the nearest 64th of an inch: "1 3/16"; told as about where it is not just so. */
export function inFractions(mm: number): string {
  const parts = Math.round((Math.abs(mm) / MM_PER_INCH) * SIXTY_FOURTHS)
  const near = Math.abs((parts / SIXTY_FOURTHS) * MM_PER_INCH - Math.abs(mm)) < 5e-4
  const [whole, rest] = [Math.floor(parts / SIXTY_FOURTHS), parts % SIXTY_FOURTHS]
  let [up, down] = [rest, SIXTY_FOURTHS]
  while (up > 0 && up % 2 === 0) [up, down] = [up / 2, down / 2]
  const broken = up > 0 ? `${up}/${down}` : ''
  const text = [...(whole > 0 || !broken ? [String(whole)] : []), ...(broken ? [broken] : [])].join(
    ' ',
  )
  return `${near ? '' : '≈ '}${mm < 0 && parts > 0 ? '−' : ''}${text}`
}

/** A sentence with its numbers as they are liked. Names and plain numbers stay. */
export function asLiked(text: string, liking: Liking): string {
  const told = text.replace(
    MEASURE,
    (_, a: string, dash: string | undefined, b: string | undefined, gap: string, unit: string) => {
      const kind = KINDS[unit]!
      const most = liking[kind]
      const one = (x: string) => {
        const has = x.split('.')[1]?.length ?? 0
        return most === undefined || has <= most ? x : fixed(Number(x), most)
      }
      const out = `${one(a)}${dash && b ? `${dash}${one(b)}` : ''}${gap}${unit}`
      if (unit !== 'mm' || liking.beside === 'none') return out
      const inch = (x: string) =>
        liking.beside === 'fractions'
          ? inFractions(Number(x))
          : fixed(Number(x) / MM_PER_INCH, Math.min(6, (one(x).split('.')[1]?.length ?? 0) + 2))
      return `${out} (${inch(a)}${dash && b ? `${dash}${inch(b)}` : ''} in)`
    },
  )
  return liking.comma ? told.replace(/(\d)\.(\d)/g, '$1,$2') : told
}
