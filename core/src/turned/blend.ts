import {
  arcAbout,
  type Curve,
  curvatureAt,
  endOf,
  evaluate,
  intersect,
  lengthOf,
  line,
  pointAt,
  startOf,
  subCurve,
  tangentAt,
} from '../curve'
import {
  along,
  bad,
  cross,
  dist,
  good,
  left,
  MODEL,
  mm,
  type Outcome,
  type P2,
  scale,
  sub,
} from '../math'
import { type Loop, loopsOf, type Region, type Seg } from '../profile'
import type { TurnedBody } from './body'
import { type Corner, isSharp } from './corners'

/** Rounds a corner of the section with radius r (mm), tangent to both neighbours. */
export function filletCorner(
  b: TurnedBody,
  corner: Corner,
  r: number,
  name: string,
): Outcome<TurnedBody> {
  if (!isSharp(corner)) return smooth(corner)
  const found = tangentCircle(corner, r)
  if (!found.ok) return found
  const { a, c, centre } = found.value
  const t1 = pointAt(corner.before.curve, a)
  const t2 = pointAt(corner.after.curve, c)
  const piece = { curve: arcAbout(centre, t1, t2, corner.turn > 0), name }
  return replaceCorner(b, corner, a, c, piece)
}

/**
 * Bevels a corner: a straight face between the points `d1` mm from the corner on the piece before
 * and `d2` mm on the piece after (straight distances).
 */
export function chamferCorner(
  b: TurnedBody,
  corner: Corner,
  d1: number,
  d2: number,
  name: string,
): Outcome<TurnedBody> {
  if (!isSharp(corner)) return smooth(corner)
  const a = setback(corner.before, corner.at, d1, 1)
  if (!a.ok) return a
  const c = setback(corner.after, corner.at, d2, 0)
  if (!c.ok) return c
  const piece = {
    curve: line(pointAt(corner.before.curve, a.value), pointAt(corner.after.curve, c.value)),
    name,
  }
  return replaceCorner(b, corner, a.value, c.value, piece)
}

const smooth = (corner: Corner) =>
  bad('smooth-already', 'The two faces already run smoothly into each other here.', [
    { at: corner.at },
  ])

/** A neighbour of which less than this is left, mm, is used up exactly: a full round. */
const USED = 2e-6

export interface Tangency {
  /** Parameter on the piece before, parameter on the piece after, centre of the circle. */
  a: number
  c: number
  centre: P2
}

/**
 * The circle of radius r tangent to both pieces, followed from the corner outwards as the radius
 * grows from 0, so it is the one that belongs to this corner. Newton on the meeting of the two
 * offset curves at each radius; the step is halved where it does not settle.
 */
export function tangentCircle(corner: Corner, r: number): Outcome<Tangency> {
  const side = corner.turn > 0 ? 1 : -1
  const first = corner.before.curve
  const second = corner.after.curve
  let [a, c, reached] = [1, 0, 0]
  let step = r
  while (reached < r) {
    const goal = Math.min(r, reached + step)
    const hit = settle(first, second, side * goal, a, c)
    if (!hit || Math.abs(hit.a - a) > 0.75 || Math.abs(hit.c - c) > 0.75) {
      step = (goal - reached) / 2
      if (step < r * 1e-7) {
        return bad(
          'too-tight',
          `No circle of ${mm(r)} touches both faces here: they bend away from each other at ${mm(reached)}.`,
          [{ at: corner.at, label: mm(reached) }],
        )
      }
      continue
    }
    const [over, past] = [-hit.a * lengthOf(first), (hit.c - 1) * lengthOf(second)]
    if (over > USED || past > USED) {
      step = (goal - reached) / 2
      // Close in on the radius at which the piece is used up, then say which piece it is.
      if (step > 1e-9) continue
      return vanishes(hit.a < 0 ? corner.before : corner.after, reached)
    }
    a = Math.max(0, hit.a)
    c = Math.min(1, hit.c)
    reached = goal
    step *= 2
  }
  const { p } = evaluate(first, a)
  return good({ a, c, centre: along(p, left(tangentAt(first, a)), side * r) })
}

const vanishes = (seg: Seg, limit: number) =>
  bad('vanishes', `The face ${seg.name} is used up at ${mm(limit)}.`, [
    { at: pointAt(seg.curve, 0.5), label: mm(limit) },
  ])

function settle(
  first: Curve,
  second: Curve,
  d: number,
  a0: number,
  c0: number,
): { a: number; c: number } | null {
  let [a, c] = [a0, c0]
  for (let i = 0; i < 30; i++) {
    const A = evaluate(first, a)
    const C = evaluate(second, c)
    const pa = along(A.p, left(tangentAt(first, a)), d)
    const pc = along(C.p, left(tangentAt(second, c)), d)
    const e = sub(pa, pc)
    const ua = scale(A.d1, 1 - d * curvatureAt(first, a))
    const uc = scale(C.d1, 1 - d * curvatureAt(second, c))
    const det = cross(ua, uc)
    if (Math.abs(det) < 1e-14 * (Math.hypot(...ua) * Math.hypot(...uc) + 1e-30)) return null
    const da = -cross(e, uc) / det
    const dc = -cross(e, ua) / det
    a += Math.max(-0.5, Math.min(0.5, da))
    c += Math.max(-0.5, Math.min(0.5, dc))
    if (a < -1.5 || a > 1.0000001 || c > 2.5 || c < -1e-7) return null
    if (Math.abs(da) + Math.abs(dc) < 1e-14) break
  }
  const gap = dist(
    along(pointOf(first, a), left(tangentAt(first, a)), d),
    along(pointOf(second, c), left(tangentAt(second, c)), d),
  )
  return gap < 1e-9 * Math.max(1, Math.abs(d)) ? { a, c } : null
}
const pointOf = (c: Curve, t: number): P2 => evaluate(c, t).p

/** Parameter on the piece at straight distance d from its end (`end` 1) or start (`end` 0). */
export function setback(seg: Seg, at: P2, d: number, end: 0 | 1): Outcome<number> {
  const steps = 64
  const away = (u: number) => dist(pointAt(seg.curve, end === 1 ? 1 - u : u), at)
  let most = 0
  for (let i = 1; i <= steps; i++) {
    const reach = away(i / steps)
    most = Math.max(most, reach)
    if (reach < d) continue
    let [lo, hi] = [(i - 1) / steps, i / steps]
    for (let k = 0; k < 60; k++) {
      const m = (lo + hi) / 2
      if (away(m) < d) lo = m
      else hi = m
    }
    return good(end === 1 ? 1 - hi : hi)
  }
  return vanishes(seg, most)
}

/**
 * Trims both neighbours, puts the piece between and checks that it meets nothing else. A neighbour that
 * is used up to its very end leaves the outline.
 */
function replaceCorner(
  b: TurnedBody,
  corner: Corner,
  a: number,
  c: number,
  piece: Seg,
): Outcome<TurnedBody> {
  const loops = loopsOf(b.regions)
  const loop = loops[corner.loop]!
  const n = loop.length
  const i = (corner.seg + n - 1) % n
  const j = corner.seg
  const part = (k: number, from: number, to: number): Seg | null => {
    const whole = loop[k]!
    const used = (to - from) * lengthOf(whole.curve) <= USED
    return used ? null : { ...whole, curve: subCurve(whole.curve, from, to) }
  }
  const between = i === j ? part(i, c, a) : null
  const before = i === j ? between : part(i, 0, a)
  const after = i === j ? between : part(j, c, 1)
  // Where a neighbour is gone, the one beyond it is met at the end of the piece instead.
  const joined = new Set([before ? i : (i + n - 1) % n, after ? j : (j + 1) % n])
  const ends = [startOf(piece.curve), endOf(piece.curve)]
  for (const [li, other] of loops.entries()) {
    for (const [si, s] of other.entries()) {
      const own = li === corner.loop
      const left = own && si === i ? before : own && si === j ? after : s
      if (!left) continue
      for (const m of intersect(piece.curve, left.curve)) {
        const p = pointAt(piece.curve, m.t)
        if (own && joined.has(si) && ends.some((e) => dist(e, p) < MODEL)) continue
        return bad('runs-into', `It would run into the face ${s.name}.`, [{ at: p }])
      }
    }
  }
  const kept = (s: Seg | null): Seg[] => (s ? [s] : [])
  const rebuilt: Loop = loop.flatMap((s, k): Seg[] => {
    if (k === i) return [...kept(before), piece]
    if (k === j) return kept(after)
    return [s]
  })
  return good({ ...b, regions: swapLoop(b.regions, corner.loop, rebuilt) })
}

/** The regions with loop number `index` (outer, holes, next region ...) replaced. */
function swapLoop(regions: readonly Region[], index: number, loop: Loop): Region[] {
  let n = 0
  const pick = (old: Loop): Loop => (n++ === index ? loop : old)
  return regions.map((r) => ({ outer: pick(r.outer), holes: r.holes.map(pick) }))
}
