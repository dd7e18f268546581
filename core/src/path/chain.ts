import { angle3, type Motion, moved, norm3, type P3, sub3 } from '../math'
import { bend3, type Curve3, end3, length3, place3, reversed3, start3, way3 } from '../surface'

/** Nearer than this, ends touch, mm. */
export const TOUCH = 1e-4
/** Directions that differ by more make a kink, rad (0.1 deg). */
export const KINK = 1.75e-3

/** Something about a chain that whoever follows it has to know. */
export interface ChainFinding {
  code: 'gap' | 'kink' | 'short'
  /** Index of the piece it is at the end of, or of the piece itself. */
  piece: number
  at: P3
  /** mm for gaps and short pieces, rad for kinks. */
  size: number
}

/** Places where neighbouring pieces do not meet, or meet at an angle; the seam of a closed chain counts. */
export function chainFindings(pieces: readonly Curve3[], closed: boolean): ChainFinding[] {
  const out: ChainFinding[] = []
  for (const [i, c] of pieces.entries()) {
    const length = length3(c)
    if (length < TOUCH) out.push({ code: 'short', piece: i, at: start3(c), size: length })
  }
  const n = pieces.length
  for (let i = 0; i < (closed ? n : n - 1); i++) {
    const [a, b] = [pieces[i]!, pieces[(i + 1) % n]!]
    const gap = norm3(sub3(start3(b), end3(a)))
    if (gap > TOUCH) out.push({ code: 'gap', piece: i, at: end3(a), size: gap })
    const turn = angle3(way3(a, 1), way3(b, 0))
    if (turn > KINK) out.push({ code: 'kink', piece: i, at: end3(a), size: turn })
  }
  return out
}

/** Loose pieces put in order, end to end, each turned round where it has to be. */
export interface Ordered {
  pieces: Curve3[]
  /** Which of the given pieces each was. */
  from: number[]
  closed: boolean
  /** Pieces that nothing joins to the chain. */
  apart: number[]
  /** Places where more than two pieces meet. */
  forks: P3[]
}

/**
 * Puts pieces in order by their ends: those nearer than `reach` mm follow each other, the nearest first. It begins at an
 * end that nothing meets, else with the first piece.
 */
export function ordered(given: readonly Curve3[], reach = TOUCH): Ordered {
  const ends = given.map((c) => [start3(c), end3(c)] as const)
  const meets = (p: P3, q: P3) => norm3(sub3(p, q)) <= reach
  const touching = (p: P3, but: number) =>
    given.flatMap((_, i) => (i !== but && ends[i]!.some((e) => meets(e, p)) ? [i] : []))
  const forks: P3[] = []
  for (const [i, pair] of ends.entries())
    for (const p of pair)
      if (touching(p, i).length > 1 && !forks.some((f) => meets(f, p))) forks.push(p)
  const alone = given.findIndex((_, i) => ends[i]!.some((p) => touching(p, i).length === 0))
  const first = Math.max(0, alone)
  const left = new Set(given.keys())
  if (given.length === 0) return { pieces: [], from: [], closed: false, apart: [], forks }
  left.delete(first)
  // The free end comes first.
  const back = alone >= 0 && touching(ends[first]![0], first).length > 0
  const pieces = [back ? reversed3(given[first]!) : given[first]!]
  const from = [first]
  for (;;) {
    const tip = end3(pieces[pieces.length - 1]!)
    let [best, d, turn] = [-1, Number.POSITIVE_INFINITY, false]
    for (const i of left)
      for (const [k, e] of ends[i]!.entries()) {
        const off = norm3(sub3(e, tip))
        if (off <= reach && off < d) [best, d, turn] = [i, off, k === 1]
      }
    if (best < 0) break
    left.delete(best)
    from.push(best)
    pieces.push(turn ? reversed3(given[best]!) : given[best]!)
  }
  const closed = pieces.length > 0 && meets(start3(pieces[0]!), end3(pieces[pieces.length - 1]!))
  return { pieces, from, closed, apart: [...left], forks }
}

/** Where a chain bends most: the least radius, mm (infinite where it is straight), its place and piece. */
export function tightest(pieces: readonly Curve3[]): { radius: number; at: P3; piece: number } {
  let best = {
    radius: Number.POSITIVE_INFINITY,
    at: pieces[0] ? start3(pieces[0]) : ([0, 0, 0] as P3),
    piece: 0,
  }
  for (const [i, c] of pieces.entries()) {
    if (c.kind === 'line') continue
    if (c.kind === 'arc') {
      if (c.radius < best.radius) best = { radius: c.radius, at: place3(c, 0.5), piece: i }
      continue
    }
    const bend = (t: number) => norm3(bend3(c, t))
    const n = 16 * c.poles.length
    let [k, t] = [0, 0]
    for (let j = 0; j <= n; j++) {
      const now = bend(j / n)
      if (now > k) [k, t] = [now, j / n]
    }
    // Closing in on the greatest by thirds.
    let [lo, hi] = [Math.max(0, t - 1 / n), Math.min(1, t + 1 / n)]
    for (let j = 0; j < 40; j++) {
      const [a, b] = [lo + (hi - lo) / 3, hi - (hi - lo) / 3]
      if (bend(a) < bend(b)) lo = a
      else hi = b
    }
    const at = (lo + hi) / 2
    k = Math.max(k, bend(at))
    if (k > 0 && 1 / k < best.radius) best = { radius: 1 / k, at: place3(c, at), piece: i }
  }
  return best
}

/** A curve under a motion that keeps lengths and angles. */
export function moved3(c: Curve3, motion: Motion): Curve3 {
  const place = (p: P3) => moved(motion, p)
  const turn = (v: P3) => moved({ m: motion.m, t: [0, 0, 0] }, v)
  if (c.kind === 'line') return { kind: 'line', a: place(c.a), b: place(c.b) }
  if (c.kind === 'arc') return { ...c, centre: place(c.centre), x: turn(c.x), y: turn(c.y) }
  return { ...c, poles: c.poles.map(place) }
}
