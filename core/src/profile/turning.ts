import { boundsOf, line, type Placing, placeCurve } from '../curve'
import { bad, type Outcome, type P2, POINT } from '../math'
import { arrange, pruneEnds, type Seg } from './arrangement'
import { axisPlacing } from './health'
import { liveSegs } from './live'
import { type Region, regionsOf } from './region'
import type { Shape } from './shape'
import { AXIS } from './solver'

/**
 * The half-section regions of a profile in [r, z] about its axis, each piece named by `nameOf`
 * its entity. Outlines that end on the axis are closed along it; a profile drawn on the left of the
 * axis is mirrored over. Fails where nothing is enclosed or the profile lies on both sides.
 */
export function turningRegions(
  shape: Shape,
  nameOf: (entity: string) => string,
): Outcome<Region[]> {
  const placing = axisPlacing(shape.axis)
  let segs: Seg[] = liveSegs(shape, '').map((s) => ({
    curve: placeCurve(s.curve, placing),
    name: nameOf(s.name),
  }))
  if (segs.length === 0) return bad('empty-profile', 'The profile has nothing drawn in it yet.')
  const boxes = segs.map((s) => boundsOf(s.curve))
  const most = Math.max(...boxes.map((b) => b.max[0]))
  const least = Math.min(...boxes.map((b) => b.min[0]))
  if (least < -10 * POINT && most > 10 * POINT) {
    const i = boxes.findIndex((b) => (most >= -least ? b.min[0] === least : b.max[0] === most))
    const b = boxes[i]!
    return bad(
      'over-axis',
      'The profile lies on both sides of the axis, so turning it would run the body through itself.',
      [{ at: [most >= -least ? least : most, (b.min[1] + b.max[1]) / 2] }],
    )
  }
  if (liesLeft(shape)) {
    const mirror: Placing = { origin: [0, 0], x: [-1, 0], y: [0, 1] }
    segs = segs.map((s) => ({ ...s, curve: placeCurve(s.curve, mirror) }))
  }
  segs = segs.map((s) => {
    const b = boundsOf(s.curve)
    return b.max[0] <= 10 * POINT ? { ...s, name: AXIS } : s
  })
  const closed = [...segs, ...axisPieces(segs)]
  const regions = regionsOf(closed)
  if (!regions.ok) return regions
  if (regions.value.length === 0) {
    const ends = looseEnds(segs)
    return bad(
      'open-profile',
      ends.length > 0
        ? 'The profile encloses nothing: it is open at the marked places.'
        : 'The profile encloses nothing.',
      ends.map((at) => ({ at })),
    )
  }
  return regions
}

/** Whether all that is drawn lies on the left of the axis. */
export function liesLeft({ axis, drawn }: Shape): boolean {
  const placing = axisPlacing(axis)
  return drawn
    .filter((d) => !d.construction)
    .every((d) => boundsOf(placeCurve(d.curve, placing)).max[0] <= 10 * POINT)
}

function looseEnds(segs: readonly Seg[]): P2[] {
  const { nodes, pieces } = arrange(segs.map((s) => s.curve))
  const kept = new Set(pruneEnds(pieces))
  const degree = new Map<number, number>()
  for (const p of pieces) {
    if (kept.has(p)) continue
    for (const n of [p.from, p.to]) degree.set(n, (degree.get(n) ?? 0) + 1)
  }
  return [...degree].filter(([, d]) => d === 1).map(([n]) => nodes[n]!)
}

/** Lines along the axis between the loose ends that lie on it, taken in pairs from below. */
function axisPieces(segs: readonly Seg[]): Seg[] {
  const zs = looseEnds(segs)
    .filter((p) => Math.abs(p[0]) <= 10 * POINT)
    .map((p) => p[1])
    .sort((a, b) => a - b)
  const out: Seg[] = []
  for (let i = 0; i + 1 < zs.length; i += 2) {
    out.push({ curve: line([0, zs[i]!], [0, zs[i + 1]!]), name: AXIS })
  }
  return out
}
