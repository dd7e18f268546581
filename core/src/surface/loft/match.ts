import {
  bad,
  cross3,
  dot3,
  good,
  moved,
  norm3,
  type Outcome,
  type P3,
  scale3,
  sub3,
  turnTo,
} from '../../math'
import { type Ring, turnedRing } from './loop'

/** Sections that all run the same way, with the shares of their length at which matched sides begin. */
export interface Matched {
  ring: Ring
  /** As many for all, rising from the first within one turn; where the first is 0 for open ones. */
  breaks: number[]
}

/** Where a side of a section begins and ends, in shares of its length: beyond 1 where it goes on over the start. */
export const sideSpan = ({ breaks }: Matched, side: number): [number, number] => [
  breaks[side]!,
  side + 1 < breaks.length ? breaks[side + 1]! : breaks[0]! + 1,
]

/** Places at which turnings of sections without corners are compared. */
const TRIES = 180

/**
 * Runs all sections the way of the first and says which place of each belongs to which of the others: corner to corner; where
 * one has fewer corners, the places seen in the same direction from its middle, or after the same shares of length where a middle does
 * not see the other whole; where none has any, by the least turn.
 * `shift` turns the matching of a section on by so many corners (of smooth ones, by shares of a turn).
 */
export function matched(given: readonly Ring[], shift: readonly number[]): Outcome<Matched[]> {
  const first = given[0]!
  if (given.some((r) => r.closed !== first.closed))
    return bad('mixed', 'Closed and open sections do not go together in one loft.')
  const rings = sameWay(given)
  if (!first.closed) return good(openBreaks(rings))
  const most = rings.reduce((a, b) => (b.corners.length > a.corners.length ? b : a))
  const n = most.corners.length
  if (n === 0) return good(smoothBreaks(rings, shift))
  const out: Matched[] = []
  // From the section with most corners to both ends, each matched with its neighbour.
  const at = rings.indexOf(most)
  const done: Matched[] = Array(rings.length)
  done[at] = { ring: most, breaks: turnedOn(most.corners, shift[at] ?? 0) }
  for (let i = at + 1; i < rings.length; i++)
    done[i] = follow(done[i - 1]!, rings[i]!, shift[i] ?? 0)
  for (let i = at - 1; i >= 0; i--) done[i] = follow(done[i + 1]!, rings[i]!, shift[i] ?? 0)
  out.push(...done)
  return good(out)
}

function sameWay(given: readonly Ring[]): Ring[] {
  const out: Ring[] = []
  for (const r of given) {
    const before = out[out.length - 1]
    if (!before) {
      out.push(r)
      continue
    }
    const against = r.closed
      ? runsAgainst(before, r)
      : endGap(before, r) > endGap(before, turnedRing(r))
    out.push(against ? turnedRing(r) : r)
  }
  return out
}

/** How far a normal has to lean along the way between sections to tell which side it looks to, as the cosine. */
const LOOKS_ALONG = 0.1

/** Whether a section runs round the other way than the one before: as both are seen along the way from one to the other. */
function runsAgainst(before: Ring, r: Ring): boolean {
  const way = sub3(r.centre, before.centre)
  const size = norm3(way)
  const [a, b] = [dot3(before.normal, way), dot3(r.normal, way)]
  return Math.min(Math.abs(a), Math.abs(b)) > LOOKS_ALONG * size
    ? a * b < 0
    : dot3(r.normal, before.normal) < 0
}

const endGap = (a: Ring, b: Ring): number =>
  norm3(sub3(a.way.place(0), b.way.place(0))) + norm3(sub3(a.way.place(1), b.way.place(1)))

/** Open sections: ends to ends; corners to corners in their order, or to the share of length the others have theirs at. */
function openBreaks(rings: readonly Ring[]): Matched[] {
  const most = rings.reduce((a, b) => (b.corners.length > a.corners.length ? b : a)).corners
  return rings.map((ring) => {
    const breaks = [...most]
    if (ring.corners.length === most.length) return { ring, breaks: ring.corners }
    const free = new Set(most.keys())
    // In their order, so that sides do not cross: each corner takes the nearest place with room left for the rest.
    let from = 0
    for (const [k, c] of ring.corners.entries()) {
      const to = most.length - (ring.corners.length - k)
      let best = from
      for (let i = from; i <= to; i++)
        if (free.has(i) && Math.abs(most[i]! - c) < Math.abs(most[best]! - c)) best = i
      breaks[best] = c
      free.delete(best)
      from = best + 1
    }
    return { ring, breaks: spread(breaks, free) }
  })
}

/** Places that are not held, put evenly between those that are. */
function spread(breaks: readonly number[], free: ReadonlySet<number>): number[] {
  const out = [...breaks]
  for (let i = 0; i < out.length; i++) {
    if (!free.has(i)) continue
    const before = out[i - 1]!
    let j = i
    while (free.has(j)) j++
    if (!(out[i]! > before) || !(out[j - 1]! < out[j]!))
      for (let k = i; k < j; k++) out[k] = before + ((k - i + 1) / (j - i + 1)) * (out[j]! - before)
    i = j
  }
  return out
}

/** `list` turned on by whole places; what wraps counts on beyond 1. */
function turnedOn(list: readonly number[], by: number): number[] {
  const n = list.length
  const k = ((Math.round(by) % n) + n) % n
  return list.map((_, i) => list[(i + k) % n]! + (i + k >= n ? 1 : 0))
}

/** Directions from the middle of a section as its neighbour sees them, turned over by the least turn. */
function seenFrom(r: Ring, other: Ring): (p: P3) => P3 {
  const over = turnTo([0, 0, 0], r.normal, other.normal)
  return (p) => moved(over, sub3(p, r.centre))
}

function follow(known: Matched, ring: Ring, shift: number): Matched {
  const base = known.ring
  const see = seenFrom(ring, base)
  const angle = angleAbout(base)
  const goals = known.breaks.map((b) => angle(sub3(base.way.place(b % 1), base.centre)))
  const n = goals.length
  if (ring.corners.length === n) {
    // Corner to corner: the turn with the least sum of differences.
    const mine = ring.corners.map((c) => angle(see(ring.way.place(c))))
    let [best, least] = [0, Number.POSITIVE_INFINITY]
    for (let k = 0; k < n; k++) {
      const sum = goals.reduce((s, g, i) => s + between(g, mine[(i + k) % n]!) ** 2, 0)
      if (sum < least) [best, least] = [k, sum]
    }
    return { ring, breaks: turnedOn(ring.corners, best + shift) }
  }
  // Fewer corners: places in the same directions, a corner taking the place of the direction nearest to it.
  const spots = rises(goals)
    ? goals.map((g) => shareAt(ring, g, (p) => angle(see(p))))
    : sharesLike(known.breaks, goals, ring, (p) => angle(see(p)))
  const free = new Set(spots.keys())
  for (const c of ring.corners) {
    let [best, least] = [-1, Number.POSITIVE_INFINITY]
    for (const i of free) {
      const off = Math.abs(wrapped(spots[i]! - c))
      if (off < least) [best, least] = [i, off]
    }
    if (best >= 0) {
      spots[best] = c
      free.delete(best)
    }
  }
  return { ring, breaks: rising(turnedList(spots, shift)) }
}

/** The angle of a direction about a section's normal, rad. */
function angleAbout(base: Ring): (v: P3) => number {
  const z = base.normal
  const x0: P3 = Math.abs(z[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]
  const x = sub3(x0, scale3(z, dot3(x0, z)))
  const y = cross3(z, x)
  return (v) => Math.atan2(dot3(v, y), dot3(v, x))
}

const between = (a: number, b: number): number => {
  const d = Math.abs(a - b) % (2 * Math.PI)
  return Math.min(d, 2 * Math.PI - d)
}
const wrapped = (s: number): number => s - Math.round(s)

/** Whether directions turn on all round, so that each is seen once from the middle. */
function rises(goals: readonly number[]): boolean {
  const steps = goals.map((g, i) => wrapped((goals[(i + 1) % goals.length]! - g) / (2 * Math.PI)))
  return steps.every((s) => s > LEAST_TURN) || steps.every((s) => s < -LEAST_TURN)
}
/** The least share of a turn between two corners that follow each other, as they are seen from the middle. */
const LEAST_TURN = 1e-3

/** The same shares of length as the other section's, begun where they look the most alike. */
function sharesLike(
  breaks: readonly number[],
  goals: readonly number[],
  ring: Ring,
  angle: (p: P3) => number,
): number[] {
  const at = (start: number, i: number) => (((start + breaks[i]! - breaks[0]!) % 1) + 1) % 1
  let [best, least] = [0, Number.POSITIVE_INFINITY]
  for (let k = 0; k < TRIES; k++) {
    let sum = 0
    for (const [i, g] of goals.entries())
      sum += between(g, angle(ring.way.place(at(k / TRIES, i)))) ** 2
    if (sum < least) [best, least] = [k / TRIES, sum]
  }
  return goals.map((_, i) => at(best, i))
}

/** The share of a section's length at which it is seen in a direction; the nearest where it never quite is. */
function shareAt(r: Ring, goal: number, angle: (p: P3) => number): number {
  const off = (s: number) => {
    const d = angle(r.way.place(s % 1)) - goal
    return Math.atan2(Math.sin(d), Math.cos(d))
  }
  let [best, least] = [0, Number.POSITIVE_INFINITY]
  for (let i = 0; i < TRIES; i++) {
    const d = Math.abs(off(i / TRIES))
    if (d < least) [best, least] = [i / TRIES, d]
  }
  let [lo, hi] = [best - 1 / TRIES, best + 1 / TRIES]
  const upward = off((hi + 1) % 1) > off((lo + 1) % 1)
  for (let k = 0; k < 60; k++) {
    const mid = (lo + hi) / 2
    if (off((mid + 1) % 1) > 0 === upward) hi = mid
    else lo = mid
  }
  return ((((lo + hi) / 2) % 1) + 1) % 1
}

const turnedList = (list: readonly number[], by: number): number[] => {
  const n = list.length
  const k = ((Math.round(by) % n) + n) % n
  return list.map((_, i) => list[(i + k) % n]!)
}

/** Shares that come one after the other round, each beyond the one before. */
function rising(list: readonly number[]): number[] {
  const out: number[] = []
  for (const s of list) {
    let x = s
    while (out.length > 0 && x <= out[out.length - 1]! + 1e-9) x += 1
    out.push(x)
  }
  return out
}

/** Without corners: each is begun where the places of it and the one before are least apart as seen from their middles. */
function smoothBreaks(rings: readonly Ring[], shift: readonly number[]): Matched[] {
  const out: Matched[] = []
  const N = 24
  for (const [i, ring] of rings.entries()) {
    const before = out[i - 1]
    if (!before) {
      out.push({ ring, breaks: [shift[0] ?? 0] })
      continue
    }
    const see = seenFrom(ring, before.ring)
    const theirs = Array.from({ length: N }, (_, k) =>
      sub3(
        before.ring.way.place((before.breaks[0]! - (shift[i - 1] ?? 0) + k / N + 2) % 1),
        before.ring.centre,
      ),
    )
    const mine = Array.from({ length: TRIES }, (_, k) => see(ring.way.place(k / TRIES)))
    const sum = (s: number) =>
      theirs.reduce((acc, p, k) => {
        const q = see(ring.way.place((s + k / N) % 1))
        return acc + dot3(sub3(p, q), sub3(p, q))
      }, 0)
    let [best, least] = [0, Number.POSITIVE_INFINITY]
    for (let k = 0; k < TRIES; k++) {
      let acc = 0
      for (let j = 0; j < N; j += 2) {
        const q = mine[(k + Math.round((j / N) * TRIES)) % TRIES]!
        const d = sub3(theirs[j]!, q)
        acc += dot3(d, d)
      }
      if (acc < least) [best, least] = [k / TRIES, acc]
    }
    let [lo, hi] = [best - 1 / TRIES, best + 1 / TRIES]
    for (let k = 0; k < 22; k++) {
      const [a, b] = [lo + (hi - lo) / 3, hi - (hi - lo) / 3]
      if (sum((a + 1) % 1) < sum((b + 1) % 1)) hi = b
      else lo = a
    }
    out.push({ ring, breaks: [((lo + hi) / 2 + (shift[i] ?? 0) + 2) % 1] })
  }
  return out
}
