import { fixed, norm3, type P3, placeAt, sub3 } from '../../math'
import type { GaugeSpec, LineOfBody, Reading } from '../spec'

/** Lines that bend less than this are straight: radii over 10 m, 1/mm. */
const STRAIGHT = 1e-4
/** Straight lines that differ in direction by less, as the sine, run side by side, as on a cylinder; those of a cone fan out. */
const ALONG = 1e-3
/** Panels that are told. */
const ROWS = 8

/** A curved face a flat label can be laid on, or why none can. */
interface Panel {
  name: string
  at: P3
  /** Round it and along it, mm: what fits everywhere on it; null where it bends both ways. */
  size: { round: number; along: number } | null
  /** Whether its straight lines run side by side; else they fan out, as on a cone. */
  even: boolean
}

/**
 * The curved faces of a body by its lines: bent one way only where all lines of one way are straight. A label that fits is as wide
 * as the shortest line round and as high as the shortest straight one.
 */
function panelsOf(lines: readonly LineOfBody[]): Panel[] {
  const faces = [...new Set(lines.map((l) => l.face))]
  return faces.map((face) => {
    const own = lines.filter((l) => l.face === face)
    const ways = ([0, 1] as const).map((way) => own.filter((l) => l.way === way))
    const straight = ways.findIndex(
      (w) => w.length > 0 && w.every((l) => l.bends.every((b) => Math.abs(b) < STRAIGHT)),
    )
    const middle = own[own.length >> 1]!
    const { name } = middle
    const at = placeAt(middle.places, middle.places.length / 6)
    if (straight < 0) return { name, at, size: null, even: false }
    const [along, round] = [ways[straight]!, ways[1 - straight]!]
    const dirs = along.map((l) => {
      const d = sub3(placeAt(l.places, l.places.length / 3 - 1), placeAt(l.places, 0))
      return d.map((c) => c / norm3(d)) as unknown as P3
    })
    const even = dirs.every((d) => norm3(sub3(d, dirs[0]!)) < ALONG)
    const least = (list: readonly LineOfBody[]) => Math.min(...list.map(lengthOf))
    return { name, at, even, size: { round: least(round), along: least(along) } }
  })
}

/** Length of a line by its places; what a chord is short of its arc is made up by how it bends there. */
function lengthOf({ places, bends }: LineOfBody): number {
  let sum = 0
  for (let k = 1; k < bends.length; k++) {
    const chord = norm3(sub3(placeAt(places, k), placeAt(places, k - 1)))
    const bend = (Math.abs(bends[k]!) + Math.abs(bends[k - 1]!)) / 2
    sum += chord * (1 + (chord * bend) ** 2 / 24)
  }
  return sum
}

export const labelGauge: GaugeSpec = {
  kind: 'label',
  label: 'Wrap label',
  help: 'The largest flat label that lies on one curved face without a crease: as wide as its shortest line round, as high as its shortest straight one. Only faces that bend one way take one; on a cone it is cut as a piece of a ring. Read by nine lines each way.',
  unit: 'mm²',
  params: [],
  ofLines(lines): Reading | string {
    if (lines.length === 0) return 'All its faces are flat: a label lies on any of them.'
    const panels = panelsOf(lines)
      .map((p) => ({ ...p, area: p.size ? p.size.round * p.size.along : 0 }))
      .sort((a, b) => b.area - a.area)
    const best = panels[0]!
    const words = (p: (typeof panels)[number]) =>
      p.size
        ? `${fixed(p.size.round, 1)} x ${fixed(p.size.along, 1)} mm${p.even ? '' : ', a piece of a ring'}`
        : 'bends both ways: none'
    return {
      low: best.area,
      high: best.area,
      text: best.size ? words(best) : 'none',
      rows: panels.slice(0, ROWS).map((p) => ({ label: p.name, text: words(p), at: p.at })),
      places: panels
        .filter((p) => !p.size)
        .slice(0, ROWS)
        .map((p) => ({ at: p.at, label: 'bends both ways' })),
    }
  },
}
