import { add3, dot3, monotone, norm3, type P3, scale3, sub3 } from '../../math'
import type { Way } from '../arclength'
import { placesOver } from '../grid'
import { type Patch, pointOn } from '../patch'
import { cardinals, openCardinals, type Shares } from './cardinal'
import { isTip, type Section, type Side } from './skin'

/** Where a rail comes nearest to a section. */
export interface Crossing {
  /** Share of the rail's length. */
  s: number
  /** Place on the section counted by sides: the side and u on it as one number. */
  at: number
  /** How far they are apart there, mm. */
  gap: number
  /** On the rail and on the section. */
  rail: P3
  section: P3
}

/** Places looked at on a rail and on each side of a section before they are closed in on. */
const [ON_RAIL, ON_SIDE] = [200, 24]

/** The nearest place of a rail and a section, by Gauss-Newton in both parameters from the nearest of many. */
export function crossing(rail: Way, sides: readonly Side[], section: number): Crossing {
  const on = (x: number) => placeOn(sides, section, x)
  const per = ON_SIDE + 1
  const spots = new Float64Array(3 * per * sides.length)
  const shareOf = (i: number) => Math.min((i % per) / ON_SIDE, 1 - 1e-12)
  for (let i = 0; i < per * sides.length; i++)
    spots.set(sides[Math.floor(i / per)]!.place[section]!(shareOf(i)), 3 * i)
  const places = rail.spots(ON_RAIL)
  let best = { s: 0, at: 0, d: Number.POSITIVE_INFINITY }
  for (let k = 0; k < places.length; k += 3)
    for (let i = 0; i < spots.length; i += 3) {
      const d =
        (places[k]! - spots[i]!) ** 2 +
        (places[k + 1]! - spots[i + 1]!) ** 2 +
        (places[k + 2]! - spots[i + 2]!) ** 2
      if (d < best.d) best = { s: k / 3 / ON_RAIL, at: Math.floor(i / 3 / per) + shareOf(i / 3), d }
    }
  best.d = Math.sqrt(best.d)
  let { s, at } = best
  const h = 1e-5
  for (let k = 0; k < 40; k++) {
    const [p, q] = [rail.place(s), on(at)]
    const r = sub3(p, q)
    const [s0, s1] = [Math.max(0, s - h), Math.min(1, s + h)]
    const a = scale3(sub3(rail.place(s1), rail.place(s0)), 1 / (s1 - s0))
    const b = scale3(sub3(on(at + h), on(at - h)), -1 / (2 * h))
    const [aa, bb, ab] = [dot3(a, a), dot3(b, b), dot3(a, b)]
    const [ra, rb] = [-dot3(a, r), -dot3(b, r)]
    const det = aa * bb - ab * ab
    if (!(Math.abs(det) > 1e-12 * aa * bb)) break
    const ds = (ra * bb - rb * ab) / det
    const da = (rb * aa - ra * ab) / det
    const next = Math.min(1, Math.max(0, s + ds))
    const moved = Math.abs(next - s) + Math.abs(da)
    s = next
    at += Math.min(0.2, Math.max(-0.2, da))
    if (moved < 1e-12) break
  }
  const refined = norm3(sub3(rail.place(s), on(at)))
  if (refined > best.d) {
    s = best.s
    at = best.at
  }
  const [p, q] = [rail.place(s), on(at)]
  const n = sides.length
  return { s, at: ((at % n) + n) % n, gap: norm3(sub3(p, q)), rail: p, section: q }
}

/**
 * Where a rail passes through the plane of a section, from where it comes nearest, and the place of the section nearest to that;
 * the nearest as it was where the rail does not reach the plane, or the section has none.
 */
export function crossingIn(
  rail: Way,
  sides: readonly Side[],
  section: number,
  { centre, normal }: { centre: P3; normal: P3 },
  near: Crossing,
): Crossing {
  const over = (s: number) => dot3(sub3(rail.place(s), centre), normal)
  let s = near.s
  for (let k = 0; k < 60; k++) {
    const [s0, s1] = [Math.max(0, s - 1e-5), Math.min(1, s + 1e-5)]
    const rises = (over(s1) - over(s0)) / (s1 - s0)
    if (Math.abs(rises) < 1e-9) return near
    const step = -over(s) / rises
    s = Math.min(1, Math.max(0, s + Math.max(-0.1, Math.min(0.1, step))))
    if (Math.abs(step) < 1e-14) break
  }
  const p = rail.place(s)
  if (Math.abs(over(s)) > 1e-9) return near
  const apart = (at: number) => norm3(sub3(placeOn(sides, section, at), p))
  let [at, reach] = [near.at, 0.5]
  for (; reach > 1e-9; reach /= 2)
    for (const next of [at - reach, at + reach]) if (apart(next) < apart(at)) at = next
  const n = sides.length
  return {
    s,
    at: ((at % n) + n) % n,
    gap: apart(at),
    rail: p,
    section: placeOn(sides, section, at),
  }
}

/** The place of a section counted by sides. */
function placeOn(sides: readonly Side[], section: number, x: number): P3 {
  const n = sides.length
  const w = ((x % n) + n) % n
  const k = Math.min(n - 1, Math.floor(w))
  return sides[k]!.place[section]!(w - k)
}

/** A rail as it is followed: its place and the place of the skin it takes along, by v. */
export interface Guide {
  /** The rail's place. */
  place: (v: number) => P3
  /** Where it meets the skin, counted by sides. */
  at: (v: number) => number
  /** Where it has kinks, by v. */
  kinks: number[]
}

/**
 * A rail that crosses the sections at these places in their order; gaps are taken out of it, evenly in between. `kinks` are shares
 * of its length.
 */
export function guideOf(
  rail: Way,
  crossings: readonly Crossing[],
  params: readonly number[],
  sides: number,
  closed: boolean,
  kinks: readonly number[] = [],
): Guide {
  const s = monotone(
    params,
    crossings.map((c) => c.s),
  )
  const ats: number[] = []
  for (const c of crossings) {
    let a = c.at
    const before = ats[ats.length - 1]
    if (closed && before !== undefined) a += sides * Math.round((before - a) / sides)
    ats.push(a)
  }
  const at = monotone(params, ats)
  const gaps = crossings.map((c) => sub3(c.section, c.rail))
  const gap = [0, 1, 2].map((k) =>
    monotone(
      params,
      gaps.map((g) => g[k]!),
    ),
  )
  return {
    at,
    place: (v) => add3(rail.place(s(v)), [gap[0]!(v), gap[1]!(v), gap[2]!(v)]),
    kinks: kinks.filter((k) => k > s(0) + 1e-9 && k < s(1) - 1e-9).map((k) => where(s, k)),
  }
}

/** Where a rising function from 0 to 1 has a value, by halving. */
function where(rises: (v: number) => number, value: number): number {
  let [lo, hi] = [0, 1]
  for (let i = 0; i < 60; i++) {
    const mid = (lo + hi) / 2
    if (rises(mid) > value) hi = mid
    else lo = mid
  }
  return (lo + hi) / 2
}

/** How the skin is moved at one v: about its middle by a similarity, and by what is left at each rail. */
interface Slice {
  /** Middle of the skin's places at the rails, and where it goes. */
  from: P3
  to: P3
  scale: number
  left: P3[]
  shares: Shares
}

/**
 * Moves a skin so that it runs along its rails: each slice as a whole by the similarity that carries its places at the rails
 * nearest to them, and what is left shared out between the rails by blends that move with them.
 */
export class Railed {
  readonly #patches: readonly Patch[]
  readonly #guides: readonly Guide[]
  readonly #closed: boolean
  readonly #slices = new Map<number, Slice>()
  /** How much of each rail's part a place takes; filled in place. */
  readonly #of: Float64Array

  constructor(patches: readonly Patch[], guides: readonly Guide[], closed: boolean) {
    this.#patches = patches
    this.#guides = guides
    this.#closed = closed
    this.#of = new Float64Array(guides.length)
  }

  /** The place of the skin counted by sides, before it is moved. */
  #skin(at: number, v: number): P3 {
    const n = this.#patches.length
    const w = this.#closed ? ((at % n) + n) % n : Math.min(n - 1e-12, Math.max(0, at))
    const k = Math.min(n - 1, Math.floor(w))
    return pointOn(this.#patches[k]!, w - k, v)
  }

  #slice(v: number): Slice {
    const known = this.#slices.get(v)
    if (known) return known
    const nodes = this.#guides.map((g) => g.at(v))
    const skin = nodes.map((a) => this.#skin(a, v))
    const goal = this.#guides.map((g) => g.place(v))
    const mean = (list: readonly P3[]): P3 =>
      list.reduce((m, p) => add3(m, scale3(p, 1 / list.length)), [0, 0, 0] as P3)
    let [from, to, scale] = [mean(skin), mean(goal), 1]
    if (skin.length === 1) {
      // About the middle of the slice, which stays.
      const n = 24 * this.#patches.length
      const middle = mean(Array.from({ length: n }, (_, i) => this.#skin((i + 0.5) / 24, v)))
      from = middle
      to = middle
      const arm = sub3(skin[0]!, middle)
      const size = dot3(arm, arm)
      scale = size > 1e-12 ? dot3(arm, sub3(goal[0]!, middle)) / size : 1
    } else {
      let [above, below] = [0, 0]
      for (const [i, p] of skin.entries()) {
        above += dot3(sub3(p, from), sub3(goal[i]!, to))
        below += dot3(sub3(p, from), sub3(p, from))
      }
      scale = below > 1e-12 ? above / below : 1
    }
    const moved = (p: P3) => add3(to, scale3(sub3(p, from), scale))
    const left = goal.map((g, i) => sub3(g, moved(skin[i]!)))
    const shares = this.#closed ? cardinals(nodes, this.#patches.length) : openCardinals(nodes)
    const made = { from, to, scale, left, shares }
    this.#slices.set(v, made)
    return made
  }

  /** Places of a side over a grid, mm, those of us[i] and vs[j] at 3 (i nv + j). */
  over(side: number, us: ArrayLike<number>, vs: ArrayLike<number>): Float64Array {
    const out = placesOver(this.#patches[side]!, us, vs)
    for (let j = 0; j < vs.length; j++) {
      const slice = this.#slice(vs[j]!)
      for (let i = 0; i < us.length; i++)
        this.#move(slice, side + us[i]!, out, 3 * (i * vs.length + j))
    }
    return out
  }

  /** Moves a place of the skin, counted by sides, as its slice is moved. */
  #move({ from, to, scale, left, shares }: Slice, at: number, p: Float64Array, k: number): void {
    shares(at, this.#of)
    for (let c = 0; c < 3; c++) {
      let x = to[c]! + scale * (p[k + c]! - from[c]!)
      for (let i = 0; i < left.length; i++) x += this.#of[i]! * left[i]![c]!
      p[k + c] = x
    }
  }
}

/** The places of the ends of a section that is a tip: a rail that ends there meets it by its end. */
export const tipCrossing = (rail: Way, s: Section, neighbour: Crossing): Crossing | null => {
  if (!isTip(s)) return null
  const ends = [0, 1].map((share) => ({ share, d: norm3(sub3(rail.place(share), s.tip)) }))
  const best = ends[0]!.d < ends[1]!.d ? ends[0]! : ends[1]!
  return {
    s: best.share,
    at: neighbour.at,
    gap: best.d,
    rail: rail.place(best.share),
    section: s.tip,
  }
}
