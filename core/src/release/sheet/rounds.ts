import { dot3, type Frame, fixed, type P2, type P3, sub3 } from '../../math'
import type { Stroke, Text } from './paper'

/** A circle all round on a body: its middle, the direction of its axis, mm. */
export interface Round {
  origin: P3
  dir: P3
  radius: number
}

/** Diameters told in one view at most: the largest. */
const MOST = 7
/** Between their figures, and how far these stand left of the view, mm on paper. */
const ROW = 5.5
const ASIDE = 9

/** A diameter as it is told: how often it is there, and one of the circles on paper. */
interface Told {
  text: string
  middle: P2
  radius: number
}

/**
 * Circles seen square on in a view: crosses in their middles, and their diameters in a column left of it, those
 * alike told once with their number. `at` brings the view onto paper; `box` is the view's there, lower left
 * corner and height, mm, and whether its middle has to stay clear.
 */
export function callOut(
  rounds: readonly Round[],
  view: Frame,
  at: (p: P2) => P2,
  scale: number,
  box: { corner: P2; height: number; clear: boolean },
  strokes: Stroke[],
  texts: Text[],
): void {
  const seen = rounds.flatMap((r) => {
    if (Math.abs(dot3(r.dir, view.z)) < 1 - 1e-9) return []
    const off = sub3(r.origin, view.origin)
    return [{ middle: [dot3(off, view.x), dot3(off, view.y)] as P2, radius: r.radius }]
  })
  // The ends of one hole lie over each other.
  const once = seen.filter(
    (a, i) => seen.findIndex((b) => same(a.middle, b.middle) && alike(a, b)) === i,
  )
  for (const { middle } of once.filter((a) =>
    once.every((b) => !same(a.middle, b.middle) || b.radius <= a.radius),
  )) {
    const largest = Math.max(...once.filter((b) => same(b.middle, middle)).map((b) => b.radius))
    const [x, y] = at(middle)
    const arm = scale * largest + 2
    strokes.push(
      {
        pen: 'plane',
        points: [
          [x - arm, y],
          [x + arm, y],
        ],
      },
      {
        pen: 'plane',
        points: [
          [x, y - arm],
          [x, y + arm],
        ],
      },
    )
  }
  const told = [...new Set(once.map((r) => r.radius.toFixed(3)))]
    .map((key): Told => {
      const own = once.filter((r) => r.radius.toFixed(3) === key)
      // The one farthest to the left has the shortest way to its figure.
      const first = own.reduce((a, b) => (b.middle[0] < a.middle[0] ? b : a))
      const count = own.length > 1 ? `${own.length} × ` : ''
      return {
        text: `${count}Ø${fixed(2 * first.radius, 2)}`,
        middle: at(first.middle),
        radius: scale * first.radius,
      }
    })
    .sort((a, b) => b.radius - a.radius)
    .slice(0, MOST)
  // Figures from above in the order of the circles, so that no two leaders cross.
  told.sort((a, b) => b.middle[1] - a.middle[1] || b.radius - a.radius)
  const x = box.corner[0] - ASIDE
  const middle = box.corner[1] + box.height / 2
  const top = middle + (box.clear ? 7 + (told.length - 1) * ROW : ((told.length - 1) * ROW) / 2)
  for (const [i, { text, middle, radius }] of told.entries()) {
    const y = top - i * ROW
    const angle = Math.atan2(y - middle[1], x - middle[0])
    const on: P2 = [middle[0] + radius * Math.cos(angle), middle[1] + radius * Math.sin(angle)]
    strokes.push({ pen: 'dimension', points: [[x, y], on] })
    texts.push({ at: [x - 1, y - 1.2], text, size: 3, anchor: 'end' })
  }
}

const same = (a: P2, b: P2): boolean => Math.hypot(a[0] - b[0], a[1] - b[1]) < 1e-4
const alike = (a: { radius: number }, b: { radius: number }): boolean =>
  Math.abs(a.radius - b.radius) < 1e-4
