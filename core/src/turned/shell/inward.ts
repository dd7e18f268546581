import { Bundle, nearest, pointAt, startOf } from '../../curve'
import { bad, good, mm, type Outcome, type P2, POINT } from '../../math'
import {
  AXIS,
  arrange,
  CUT,
  chain,
  combine,
  type Loop,
  type Piece,
  pruneEnds,
  type Region,
  regionArea,
  regionsFrom,
  type Seg,
  segsOf,
  sideOf,
} from '../../profile'
import type { TurnedBody } from '../body'
import type { Turning } from '../necks'
import { volumeOf } from '../properties'
import { inName, type ShellResult, slackOf } from './result'
import { deepest, necksOf } from './turnings'
import { offsets } from './walls'

/**
 * The body hollowed within its faces: the cavity is all that lies at least `t` mm, or a face's own wall, from
 * each that is kept.
 */
export function inward(
  b: TurnedBody,
  loops: Loop[],
  t: number,
  open: ReadonlySet<Seg>,
  op: string,
  own: ReadonlyMap<Seg, number>,
): Outcome<ShellResult> {
  const { walls, raw } = offsets(loops, (s) => own.get(s) ?? t, open, op, 1)
  const slack = slackOf(walls)
  const through = loops.flat().filter((s) => s.name === AXIS || open.has(s))
  const segs: Seg[] = [...raw, ...through]
  const curves = segs.map((s) => s.curve)
  const bundles = [...new Set(walls.map((w) => w.t))].map((thick) => ({
    thick,
    of: new Bundle(walls.filter((w) => w.t === thick).map((w) => w.curve)),
  }))
  const kept: Piece[] = []
  for (const p of arrange(curves).pieces) {
    const m = pointAt(p.curve, 0.5)
    if (bundles.some(({ thick, of }) => of.nearest(m[0], m[1], thick - slack))) continue
    const onThrough = p.sources.some((s) => s.index >= raw.length)
    // Where a detail is exactly two walls thick its offsets meet with nothing between.
    if (!onThrough && new Set(p.sources.map((o) => o.same)).size > 1) continue
    if (!onThrough && !sideOf(loops, m).inside) continue
    kept.push(p)
  }
  const closed = pruneEnds(kept)
  const cavity = regionsFrom(closed, curves, (p) => segs[p.part.index]!.name).filter(
    (r) => regionArea(r) > t * POINT,
  )
  if (cavity.length === 0) {
    return bad(
      'no-cavity',
      `A wall of ${mm(t)} leaves no cavity: the body is nowhere thicker than two walls.`,
      [deepest(b, open) ?? { at: pointAt(walls[0]!.curve, 0.5) }],
    )
  }
  if (chain(closed).flat().length < closed.length) {
    // Within the slack of offsets a neck is neither open nor closed.
    const neck = necksOf(b, open).find((n) => Math.abs(n.distance - t) < 4 * slack)
    if (neck) return pinched(t, neck)
    return bad('shell-unclosed', 'The inside of the wall does not close.', [
      { at: startOf(closed[0]!.curve) },
    ])
  }
  const cut = cutOff(b, cavity, open, t, slack)
  if (cut) return cut
  const regions = combine(b.regions, cavity, CUT)
  if (regions.length === 0 || volumeOf({ ...b, regions }) >= volumeOf(b) * (1 - 1e-9)) {
    return bad('not-hollow', `A wall of ${mm(t)} takes nothing out of the body here.`, [
      deepest(b, open) ?? { at: pointAt(walls[0]!.curve, 0.5) },
    ])
  }
  const names = new Set(segsOf(cavity).map((s) => s.name))
  const lost = walls
    .filter((w) => loops.flat().some((s) => s.curve === w.curve))
    .filter((w) => !names.has(inName(op, w.name)))
    .map((w) => ({ name: w.name, at: pointAt(w.curve, 0.5) }))
  return good({ body: { ...b, regions }, lost })
}

/** With open faces given, a cavity part that reaches none of them: told at the neck that closes it off. */
function cutOff(
  b: TurnedBody,
  cavity: readonly Region[],
  open: ReadonlySet<Seg>,
  t: number,
  slack: number,
) {
  if (open.size === 0) return null
  const opens = [...open].map((s) => s.curve)
  const reaches = (r: Region) =>
    segsOf([r]).some((s) => opens.some((o) => nearest(o, pointAt(s.curve, 0.5)).d < 10 * POINT))
  const away = cavity.filter((r) => !reaches(r))
  if (away.length === 0) return null
  const part = new Bundle(segsOf(away).map((s) => s.curve))
  const rest = new Bundle([...opens, ...segsOf(cavity.filter(reaches)).map((s) => s.curve)])
  const gap = (p: P2) => part.nearest(p[0], p[1])!.d + rest.nearest(p[0], p[1])!.d
  // Of the necks that this wall closes, the one on the way from the part to the opening.
  const neck = necksOf(b, open)
    .filter((n) => n.distance <= t + slack)
    .reduce<Turning | null>((p, q) => (p && gap(p.at) <= gap(q.at) ? p : q), null)
  return neck
    ? pinched(t, neck)
    : bad('pinched', `${closesOff(t)}.`, [{ at: startOf(away[0]!.outer[0]!.curve) }])
}

const closesOff = (t: number): string =>
  `With a wall of ${mm(t)} the cavity closes off here and leaves a void without an opening`

const pinched = (t: number, neck: Turning) =>
  bad('pinched', `${closesOff(t)}: its neck closes at ${mm(neck.distance)}.`, [
    { at: neck.at, label: mm(neck.distance) },
  ])
