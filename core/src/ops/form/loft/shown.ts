import { norm3, type P3, scale3, sub3 } from '../../../math'
import { isTip, type Patch, pointOn, type Section, type Side } from '../../../surface'
import type { NextRail, Shown } from '../../state'

/** Places by which a section is told round. */
const ROUND = 72

/** What is matched with what across a row of sections. */
export function threadsOf(row: readonly Section[], sides: readonly Side[]): Shown {
  const real = row.find((s) => !isTip(s))!
  const closed = 'ring' in real && real.ring.closed
  const starts = sides.map((side) => side.place.map((p) => p(0)))
  const last = sides[sides.length - 1]!
  return {
    threads: closed ? starts : [...starts, last.place.map((p) => p(1))],
    outlines: row.map((s) =>
      isTip(s)
        ? [s.tip]
        : Array.from({ length: ROUND }, (_, k) =>
            s.ring.way.place(((closed ? s.breaks[0]! % 1 : 0) + k / ROUND) % 1),
          ),
    ),
    corners: 'ring' in real && real.ring.corners.length > 0,
  }
}

/** Looks on each side across and along. */
const [ACROSS, ALONG] = [12, 60]
/** Bends this much wider than the skin is long between its ends are none. */
const STRAIGHT = 4

/** Where a skin bends most between its sections, and where a rail through there meets each of them; null where it hardly bends. */
export function nextRail(
  patches: readonly Patch[],
  sides: readonly Side[],
  params: readonly number[],
): NextRail | null {
  let best: (NextRail & { side: number; u: number }) | null = null
  for (const [side, p] of patches.entries())
    for (let i = 0; i < ACROSS; i++) {
      const u = i / ACROSS
      const line = Array.from({ length: ALONG + 1 }, (_, k) => pointOn(p, u, k / ALONG))
      for (let k = 1; k < ALONG; k++) {
        const radius = radiusOf(line[k - 1]!, line[k]!, line[k + 1]!)
        if (radius < (best?.radius ?? Number.POSITIVE_INFINITY))
          best = { side, u, radius, at: line[k]!, places: [] }
      }
    }
  if (!best) return null
  const { side, u, ...found } = best
  const places = params.map((_, i) => sides[side]!.place[i]!(u))
  const reach = norm3(sub3(places[places.length - 1]!, places[0]!))
  return found.radius < STRAIGHT * reach ? { ...found, places } : null
}

/** The radius of the circle through three places, mm. */
function radiusOf(a: P3, b: P3, c: P3): number {
  const [u, v] = [sub3(b, a), sub3(c, b)]
  const [l, m] = [norm3(u), norm3(v)]
  const bend = norm3(sub3(scale3(v, 1 / (m || 1)), scale3(u, 1 / (l || 1)))) / ((l + m) / 2 || 1)
  return bend > 0 ? 1 / bend : Number.POSITIVE_INFINITY
}
