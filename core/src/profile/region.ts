import {
  Bundle,
  boundsOf,
  type Curve,
  evaluate,
  intersect,
  lengthOf,
  line,
  pointAt,
  reverse,
  selfIntersect,
  smoothBreaks,
  startOf,
  subCurve,
  tangentAt,
} from '../curve'
import {
  bad,
  boxesMeet,
  cross,
  dist,
  dot,
  good,
  integrate,
  left,
  type Outcome,
  type P2,
  POINT,
  polar,
  sub,
  turn,
} from '../math'
import { arrange, flip, type Piece, pruneEnds, type Seg } from './arrangement'

/** A closed chain of pieces, each starting where the one before ends. */
export type Loop = readonly Seg[]
/** A bounded area: its outer loop runs to the left, its holes to the right, so material lies left. */
export interface Region {
  readonly outer: Loop
  readonly holes: readonly Loop[]
}

export const loopsOf = (regions: readonly Region[]): Loop[] =>
  regions.flatMap((r) => [r.outer, ...r.holes])
export const segsOf = (regions: readonly Region[]): Seg[] => loopsOf(regions).flat()

/** Integral of f(p, dp/dt) along the curve; exact for polynomial integrands on lines and splines. */
export function lineIntegral(c: Curve, f: (p: P2, d: P2) => number): number {
  const breaks = smoothBreaks(c)
  let sum = 0
  for (let i = 1; i < breaks.length; i++) {
    const [a, b] = [breaks[i - 1]!, breaks[i]!]
    sum += integrate(
      (t) => {
        const e = evaluate(c, t)
        return f(e.p, e.d1)
      },
      a,
      b,
      pointsFor(c),
    )
  }
  return sum
}

/**
 * Gauss points a span: exact for the moments taken here, which are of degree 4p - 1 at most on a
 * polynomial of degree p; on a quarter turn 16 points reach rounding.
 */
const pointsFor = (c: Curve): number =>
  c.kind === 'arc' ? 16 : c.kind === 'line' ? 2 : 2 * c.degree

/** Area enclosed by a loop, mm2, positive where it runs to the left. */
export const loopArea = (loop: Loop): number =>
  loop.reduce((sum, s) => sum + lineIntegral(s.curve, (p, d) => (p[0] * d[1] - p[1] * d[0]) / 2), 0)

export const regionArea = (r: Region): number =>
  loopsOf([r]).reduce((sum, loop) => sum + loopArea(loop), 0)

/** The boundary point nearest to p and on which side of the boundary p lies. */
export interface Side {
  d: number
  inside: boolean
  at: P2
  loop: number
  seg: number
}

/** The curves of loops as a bundle, with the loop and piece of each. */
interface Boundary {
  bundle: Bundle
  loop: number[]
  seg: number[]
}

const boundaries = new WeakMap<readonly Loop[], Boundary>()

function boundaryOf(loops: readonly Loop[]): Boundary {
  const known = boundaries.get(loops)
  if (known) return known
  const made = {
    bundle: new Bundle(loops.flatMap((l) => l.map((s) => s.curve))),
    loop: loops.flatMap((l, i) => l.map(() => i)),
    seg: loops.flatMap((l) => l.map((_, i) => i)),
  }
  boundaries.set(loops, made)
  return made
}

/** Nearest boundary point over all loops; `inside` when p lies on the left there. */
export function sideOf(loops: readonly Loop[], p: P2): Side {
  const { bundle, loop: loopAt, seg } = boundaryOf(loops)
  const hit = bundle.nearest(p[0], p[1])
  if (!hit) {
    return { d: Number.POSITIVE_INFINITY, inside: false, at: p, loop: -1, seg: -1 }
  }
  const best = { d: hit.d, loop: loopAt[hit.index]!, seg: seg[hit.index]!, t: hit.t, at: hit.p }
  const loop = loops[best.loop]!
  const off = sub(p, best.at)
  const at = (i: number, t: number) => tangentAt(loop[(i + loop.length) % loop.length]!.curve, t)
  let inside: boolean
  if (best.t > 1e-12 && best.t < 1 - 1e-12) {
    inside = cross(at(best.seg, best.t), off) > 0
  } else {
    const before = best.t >= 0.5 ? at(best.seg, 1) : at(best.seg - 1, 1)
    const after = best.t >= 0.5 ? at(best.seg + 1, 0) : at(best.seg, 0)
    const [a, b] = [cross(before, off) > 0, cross(after, off) > 0]
    const bend = cross(before, after)
    if (Math.abs(bend) < CUSP && dot(before, after) < 0) {
      const first = best.t >= 0.5 ? best.seg : best.seg - 1
      const piece = (k: number) => loop[(k + loop.length) % loop.length]!.curve
      // Nothing inside a tip, and all outside a notch, has it for its nearest place.
      inside = !isTip(piece(first), piece(first + 1))
    } else inside = bend >= 0 ? a && b : a || b
  }
  return { d: best.d, inside, at: best.at, loop: best.loop, seg: best.seg }
}

/** Whether a cusp between two pieces is a tip of the material on their left, not a notch in it. */
function isTip(first: Curve, second: Curve): boolean {
  const [l, m] = [lengthOf(first), lengthOf(second)]
  const step = 1e-2 * Math.min(l, m)
  const at = pointAt(second, 0)
  const u = sub(at, pointAt(first, 1 - step / l))
  const v = sub(pointAt(second, step / m), at)
  return cross(u, v) >= 0
}
/** Sine of the angle below which two pieces run back along each other. */
const CUSP = 1e-7

/** Directed pieces joined to loops; at a node with a choice the sharpest left turn is taken. */
export function chain(pieces: readonly Piece[]): Piece[][] {
  const out = new Map<number, Piece[]>()
  for (const p of pieces) out.set(p.from, [...(out.get(p.from) ?? []), p])
  const loops: Piece[][] = []
  const used = new Set<Piece>()
  for (const first of pieces) {
    if (used.has(first)) continue
    const loop: Piece[] = []
    const stack = new Map<number, number>([[first.from, 0]])
    let p: Piece | undefined = first
    while (p) {
      used.add(p)
      loop.push(p)
      const back = stack.get(p.to)
      if (back !== undefined) {
        loops.push(loop.splice(back))
        for (const [n, at] of stack) if (at > back) stack.delete(n)
        if (loop.length === 0) break
      } else stack.set(p.to, loop.length)
      const from: Piece = loop[loop.length - 1]!
      const heading = tangentAt(from.curve, 1)
      p = (out.get(from.to) ?? [])
        .filter((q) => !used.has(q))
        .map((q) => ({ q, angle: turn(heading, tangentAt(q.curve, 0)) }))
        .sort((a, b) => b.angle - a.angle)[0]?.q
    }
  }
  return loops
}

/** Directed pieces (material on the left) as regions, pieces of one curve joined again. */
export function regionsFrom(
  pieces: readonly Piece[],
  curves: readonly Curve[],
  nameOf: (p: Piece) => string,
): Region[] {
  const loops = chain(pieces).map((loop) => mergeParts(loop, curves, nameOf))
  return group(loops, (hole) => {
    throw new Tangled(pointAt(hole[0]!.curve, 0.5))
  })
}

/** Places where the boundary of a body touches itself, so that it is no simple solid there. */
export function touchesItself(regions: readonly Region[]): P2[] {
  const all = loopsOf(regions).flatMap((loop) =>
    loop.map((s, i) => ({ s, next: loop[(i + 1) % loop.length]! })),
  )
  const out: P2[] = []
  const add = (p: P2) => {
    if (!out.some((q) => dist(p, q) <= 10 * POINT)) out.push(p)
  }
  for (const [i, a] of all.entries()) {
    for (const m of selfIntersect(a.s.curve)) add(pointAt(a.s.curve, m.t))
    for (const b of all.slice(i + 1)) {
      if (!boxesMeet(boundsOf(a.s.curve), boundsOf(b.s.curve), POINT)) continue
      for (const m of intersect(a.s.curve, b.s.curve)) {
        const p = pointAt(a.s.curve, m.t)
        const joint = (of: Curve) => dist(startOf(of), p) <= 10 * POINT
        if ((a.next === b.s && joint(b.s.curve)) || (b.next === a.s && joint(a.s.curve))) continue
        add(p)
      }
    }
  }
  return out
}

/** Sorts loops into outer loops with their holes; a hole that lies in none is passed over, or told. */
export function group(loops: readonly Loop[], homeless?: (hole: Loop) => void): Region[] {
  const sized = loops.map((loop) => ({ loop, area: loopArea(loop) }))
  const outers = sized.filter((l) => l.area > AREA_NONE).sort((a, b) => a.area - b.area)
  const holes = new Map(outers.map((o) => [o.loop, [] as Loop[]]))
  const alone = new Map(outers.map((o) => [o.loop, [o.loop]]))
  for (const hole of sized.filter((l) => l.area < -AREA_NONE)) {
    const home = outers.find(
      (o) => o.area > -hole.area && clearOf(alone.get(o.loop)!, hole.loop).inside,
    )
    if (home) holes.get(home.loop)!.push(hole.loop)
    else homeless?.(hole.loop)
  }
  return outers.map((o) => ({ outer: o.loop, holes: holes.get(o.loop)! }))
}

/** On which side of a boundary a loop lies that may touch it: by its place that is farthest off. */
function clearOf(boundary: readonly Loop[], loop: Loop): Side {
  const sides = loop.flatMap(({ curve }) => LOOKS.map((t) => sideOf(boundary, pointAt(curve, t))))
  return sides.reduce((far, s) => (s.d > far.d ? s : far))
}
/** Where along each piece of a loop it is looked at. */
const LOOKS = [0.13, 0.37, 0.5, 0.71, 0.93]

/** An area below this (mm2) is rounding left over between two coincident curves. */
const AREA_NONE = 1e-7

/** The pieces of a loop with those that are parts of one curve joined again. */
export function mergeParts(
  loop: readonly Piece[],
  curves: readonly Curve[],
  nameOf: (p: Piece) => string,
): Loop {
  interface Run extends Seg {
    index: number
    t0: number
    t1: number
    same: boolean
  }
  const runs: Run[] = []
  const join = (a: Run, b: Run): Run | null => {
    if (a.index !== b.index || a.same !== b.same || a.name !== b.name) return null
    const [t0, t1] = a.same ? [a.t0, b.t1] : [b.t0, a.t1]
    const meets = a.same ? a.t1 === b.t0 : b.t1 === a.t0
    if (!meets) return null
    const whole = subCurve(curves[a.index]!, t0, t1)
    return { ...a, t0, t1, curve: a.same ? whole : reverse(whole) }
  }
  for (const p of loop) {
    const { index, t0, t1 } = p.part
    const same = p.sources.find((s) => s.index === index)!.same
    const run: Run = { curve: p.curve, name: nameOf(p), index, t0, t1, same }
    const last = runs[runs.length - 1]
    const joined = last && join(last, run)
    if (joined) runs[runs.length - 1] = joined
    else runs.push(run)
  }
  if (runs.length > 1) {
    const joined = join(runs[runs.length - 1]!, runs[0]!)
    if (joined) {
      runs.pop()
      runs[0] = joined
    }
  }
  return runs.map(({ curve, name }) => ({ curve, name }))
}

/** Pieces lie on one another in a way that leaves inside and outside undecided. */
class Tangled extends Error {
  override name = 'Tangled'
  readonly at: P2
  constructor(at: P2) {
    super('pieces lie on one another')
    this.at = at
  }
}

/** As `enclosed`, for curves that anybody may have drawn: undecided ones are a diagnosis. */
export function regionsOf(segs: readonly Seg[]): Outcome<Region[]> {
  try {
    return good(enclosed(segs))
  } catch (e) {
    if (!(e instanceof Tangled)) throw e
    return bad(
      'tangled',
      'Pieces lie on one another at the marked place, so that inside and outside cannot be told.',
      [{ at: e.at }],
    )
  }
}

/**
 * The areas enclosed by drawn curves, by even and odd: what lies inside one outline is material,
 * an outline inside it bounds a hole, and so on. Open ends are ignored. Throws `Tangled` where no ray
 * from a piece tells its sides apart.
 */
export function enclosed(segs: readonly Seg[]): Region[] {
  const curves = segs.map((s) => s.curve)
  const { pieces } = arrange(curves)
  const closed = pruneEnds(pieces)
  const inward: Piece[] = []
  for (const p of closed) {
    const l = oddOnLeft(p, closed)
    if (l) inward.push(p)
    else inward.push(flip(p))
  }
  return regionsFrom(inward, curves, (p) => segs[p.part.index]!.name)
}

/** Casts a ray to the left of the piece and counts what it crosses; turns it where a hit is unclear. */
function oddOnLeft(piece: Piece, all: readonly Piece[]): boolean {
  const m = pointAt(piece.curve, 0.5)
  const n = left(tangentAt(piece.curve, 0.5))
  const far = reach(all, m)
  for (let attempt = 0; attempt < 40; attempt++) {
    const angle = Math.atan2(n[1], n[0]) + (attempt % 2 ? -1 : 1) * attempt * 0.031 + 0.0137
    const ray = line(m, polar(m, far, angle))
    let hits = 0
    let clear = true
    for (const q of all) {
      for (const hit of intersect(ray, q.curve)) {
        const p = pointAt(q.curve, hit.s)
        if (dist(p, m) <= 4 * POINT) {
          if (q !== piece) clear = false
          continue
        }
        const skew = Math.abs(cross(tangentAt(q.curve, hit.s), tangentAt(ray, 0)))
        if (hit.s < 1e-7 || hit.s > 1 - 1e-7 || skew < 1e-4) clear = false
        hits++
      }
    }
    if (clear) return hits % 2 === 1
  }
  throw new Tangled(m)
}

function reach(all: readonly Piece[], m: P2): number {
  let far = 1
  for (const p of all) {
    const b = boundsOf(p.curve)
    for (const x of [b.min[0], b.max[0]])
      for (const y of [b.min[1], b.max[1]]) far = Math.max(far, dist(m, [x, y]))
  }
  return far * 2
}
