import { fixed, norm3, type P3, placeAt, sub3 } from '../../math'
import type { GaugeSpec, LineOfBody, Reading } from '../spec'

/** A change of curvature that counts: a share of the greatest along the line, and at least so much, 1/mm. */
const COUNTS = { share: 0.1, least: 2e-4 }
/** Rows and places that are shown. */
const SHOWN = 8
/** Lines nearer to each other than this share of their mean distance are pinched. */
const PINCHED = 0.25

/** The places at which the curvature along a line turns from rising to falling or back, by index; small wavering does not count. */
export function extremaOf(bends: readonly number[]): number[] {
  const most = Math.max(...bends.map(Math.abs))
  const step = Math.max(COUNTS.least, COUNTS.share * most)
  const out: number[] = []
  /** Where it was lowest and highest since the last turn. */
  let [low, high] = [0, 0]
  let way: 'up' | 'down' | null = null
  for (let i = 1; i < bends.length; i++) {
    if (bends[i]! > bends[high]!) high = i
    if (bends[i]! < bends[low]!) low = i
    if (way !== 'down' && bends[high]! - bends[i]! > step) {
      if (way) out.push(high)
      way = 'down'
      low = i
    } else if (way !== 'up' && bends[i]! - bends[low]! > step) {
      if (way) out.push(low)
      way = 'up'
      high = i
    }
  }
  return out
}

/** Where neighbouring lines of one way come nearest, as a share of their mean distance; null where there are no two to compare. */
function pinchOf(lines: readonly LineOfBody[]): { share: number; at: P3 } | null {
  let worst: { share: number; at: P3 } | null = null
  for (const [i, b] of lines.entries()) {
    const a = lines[i - 1]
    if (!a || a.face !== b.face || a.way !== b.way || a.places.length !== b.places.length) continue
    const n = a.places.length / 3
    const apart = Array.from({ length: n }, (_, k) =>
      norm3(sub3(placeAt(a.places, k), placeAt(b.places, k))),
    )
    const mean = apart.reduce((s, d) => s + d, 0) / n
    // At its ends a face may run to a point.
    for (let k = Math.ceil(n / 8); k < n - n / 8; k++) {
      const share = apart[k]! / mean
      if (!worst || share < worst.share) worst = { share, at: placeAt(b.places, k) }
    }
  }
  return worst
}

export const rippleGauge: GaugeSpec = {
  kind: 'ripple',
  label: 'Ripple',
  help: 'How often the curvature along a line of a surface turns from rising to falling or back: the most of nine lines of each way on each curved face. A plain bulge has one, a plain S two (common practice, no source: more than the sections and rails ask for is a ripple). Wavering under a tenth of the greatest curvature does not count. Where neighbouring lines crowd to under a quarter of their mean distance the surface is pinched.',
  unit: '',
  params: [],
  ofLines(lines): Reading | string {
    if (lines.length === 0) return 'All its faces are flat.'
    const read = lines
      .map((line) => ({ line, turns: extremaOf(line.bends) }))
      .sort((a, b) => b.turns.length - a.turns.length)
    const most = read[0]!.turns.length
    const pinch = pinchOf(lines)
    const worst = read.filter((r) => r.turns.length === most && most > 0)
    return {
      low: most,
      high: most,
      text: `${most}`,
      rows: [
        ...(pinch
          ? [
              {
                label: pinch.share < PINCHED ? 'pinched: lines come to' : 'lines come to',
                text: `${fixed(100 * pinch.share, 0)} % of their mean distance`,
                at: pinch.at,
              },
            ]
          : []),
        ...read.slice(0, SHOWN).map(({ line, turns }) => ({
          label: line.name,
          text: `${turns.length}${turns.length > 0 ? `, up to ${fixed(Math.max(...turns.map((k) => Math.abs(line.bends[k]!))), 4)} /mm` : ''}`,
          ...(turns.length > 0 ? { at: placeAt(line.places, turns[0]!) } : {}),
        })),
      ],
      places: worst
        .slice(0, 3)
        .flatMap(({ line, turns }) => turns.map((k) => ({ at: placeAt(line.places, k) })))
        .slice(0, 2 * SHOWN),
    }
  },
}
