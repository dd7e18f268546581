import { fixed, type P3 } from '../../math'
import type { GaugeSpec, Reading, SeamOfBody } from '../spec'

/** What counts as smooth: gap (mm), angle (deg), mismatch of curvature as a share. */
const SMOOTH = { gap: 1e-3, angle: 0.1, bend: 0.05 }
/** Rows of the ledger that are shown. */
const ROWS = 12

/** The order of continuity of a seam: 0 where it has a kink, 1 where the direction runs on, 2 where the curvature does too. */
export function orderOf({ gap, angle, bend }: SeamOfBody): -1 | 0 | 1 | 2 {
  if (gap > SMOOTH.gap) return -1
  if ((angle * 180) / Math.PI > SMOOTH.angle) return 0
  return bend > SMOOTH.bend ? 1 : 2
}

const WORD = { '-1': 'open', '0': 'G0', '1': 'G1', '2': 'G2' } as const

/** Seams by how bad they are: the lowest order first, within it the worst figure. */
export const worstFirst = (seams: readonly SeamOfBody[]): SeamOfBody[] =>
  [...seams].sort((a, b) => {
    const [m, n] = [orderOf(a), orderOf(b)]
    if (m !== n) return m - n
    return m < 0 ? b.gap - a.gap : m === 0 ? b.angle - a.angle : b.bend - a.bend
  })

const degrees = (rad: number) => `${fixed((rad * 180) / Math.PI, 3)}°`

/** "G0, kinked by 0.210° to 4.003° from 12 % to 88 % of it"; or order, angle and mismatch of curvature. */
function words(s: SeamOfBody): string {
  const order = WORD[String(orderOf(s)) as keyof typeof WORD]
  const gap = s.gap > SMOOTH.gap ? `, gap ${fixed(s.gap, 3)} mm` : ''
  if (!s.kinked) return `${order}, ${degrees(s.angle)}, ${fixed(100 * s.bend, 1)} %${gap}`
  const [from, to] = s.kinked.map((x) => fixed(100 * x, 0))
  const by =
    s.angle - s.leastAngle < 1e-5
      ? degrees(s.angle)
      : `${degrees(s.leastAngle)} to ${degrees(s.angle)}`
  const where = from === '0' && to === '100' ? 'all along' : `from ${from} % to ${to} % of it`
  return `${order}, kinked by ${by} ${where}${gap}`
}

export const seamsGauge: GaugeSpec = {
  kind: 'seams',
  label: 'Continuity',
  help: 'How faces run on in each other, and those that close on themselves: the least order of all seams (0 kink, 1 direction, 2 curvature), each at the worst of 33 places on its true surfaces. G1 up to 0.1°, G2 up to 5 % of the larger curvature across the seam. What meets at more than 20° all along is sharp as meant.',
  unit: '',
  params: [],
  ofSeams(seams): Reading | string {
    if (seams.length === 0) return 'No faces of it run on in each other.'
    const sorted = worstFirst(seams)
    const least = Math.max(0, orderOf(sorted[0]!))
    const count = (n: number) => sorted.filter((s) => orderOf(s) === n).length
    return {
      low: least,
      high: least,
      text: `G${least}`,
      rows: [
        {
          label: `${seams.length} seams`,
          text: `${count(2)} G2, ${count(1)} G1, ${count(0) + count(-1)} less`,
        },
        ...sorted.slice(0, ROWS).map((s) => ({ label: s.name, text: words(s), at: s.at })),
      ],
      places: sorted
        .filter((s) => orderOf(s) < 2)
        .slice(0, ROWS)
        .map((s): { at: P3; label: string } => ({ at: s.at, label: words(s).split(',')[0]! })),
    }
  },
}
