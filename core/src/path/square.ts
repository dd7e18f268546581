import { add3, bad, dot3, good, norm3, type Outcome, type P3, scale3, sub3 } from '../math'
import { at3, type Curve3, place3, Way, way3 } from '../surface'
import { TOUCH } from './chain'

/** Looks along the other path for where it begins to be met, and steps along each piece. */
const LOOKS = 400
const STEPS = 256
/** How far off a plane counts as in it, mm. */
const IN = 1e-9
/** How far beyond its ends the other path is taken as long enough, mm. */
const SPARE = 1e-4

/**
 * From each place of a chain to where its plane square to the chain meets another chain, mm: the meeting nearest at the start,
 * followed from there on. Refused with the place where the other does not
 * reach, or meets the chain.
 */
export function squareTo(
  pieces: readonly Curve3[],
  others: readonly Curve3[],
): Outcome<(piece: number, t: number) => P3> {
  const way = new Way(others)
  const { length } = way
  /** The other chain at a length along it, run on straight a little beyond its ends. */
  const spot = (s: number): { p: P3; d: P3 } => {
    const { curve, t } = way.at(Math.min(1, Math.max(0, s / length)))
    const c = others[curve]!
    const d = way3(c, t)
    const beyond = s < 0 ? s : s > length ? s - length : 0
    return { p: add3(place3(c, t), scale3(d, beyond)), d }
  }
  const settle = (at: P3, dir: P3, near: number): number | null => {
    let s = near
    for (let k = 0; k < 30; k++) {
      const { p, d } = spot(s)
      const f = dot3(sub3(p, at), dir)
      if (Math.abs(f) < IN) return s
      const slope = dot3(d, dir)
      if (Math.abs(slope) < 1e-6) return null
      const step = -f / slope
      s += Math.max(-length / 20, Math.min(length / 20, step))
      if (s < -length / 10 || s > length * 1.1) return null
    }
    return null
  }
  const first = { at: place3(pieces[0]!, 0), dir: way3(pieces[0]!, 0) }
  const begun = begin(first.at, first.dir, spot, length, settle)
  if (begun === null) return missed(first.at)
  const tables: Float64Array[] = []
  let now = begun
  let before: P3 | null = null
  for (const c of pieces) {
    const table = new Float64Array(STEPS + 1)
    for (let k = 0; k <= STEPS; k++) {
      const at = place3(c, k / STEPS)
      const s = settle(at, way3(c, k / STEPS), now)
      if (s === null || s < -SPARE || s > length + SPARE) return missed(at)
      const across = sub3(spot(s).p, at)
      if (norm3(across) < TOUCH || (before && dot3(across, before) < 0))
        return bad('on-guide', 'The guide rail meets the path here: it shows no side.', [{ at }])
      before = across
      now = s
      table[k] = s
    }
    tables.push(table)
  }
  return good((piece, t) => {
    const { p, d1 } = at3(pieces[piece]!, t)
    const table = tables[piece]!
    const k = Math.min(STEPS - 1, Math.floor(t * STEPS))
    const near = table[k]! + (t * STEPS - k) * (table[k + 1]! - table[k]!)
    const s = settle(p, scale3(d1, 1 / norm3(d1)), near) ?? near
    return sub3(spot(s).p, p)
  })
}

/** The length along the other chain at which it meets a plane, nearest to a place of that; null where it does not. */
function begin(
  at: P3,
  dir: P3,
  spot: (s: number) => { p: P3 },
  length: number,
  settle: (at: P3, dir: P3, near: number) => number | null,
): number | null {
  const height = (s: number) => dot3(sub3(spot(s).p, at), dir)
  let best: { s: number; off: number } | null = null
  const take = (s: number | null) => {
    if (s === null || s < -SPARE || s > length + SPARE) return
    const off = norm3(sub3(spot(s).p, at))
    if (!best || off < best.off) best = { s, off }
  }
  for (const s of [0, length]) if (Math.abs(height(s)) < SPARE) take(s)
  let before = height(0)
  for (let k = 1; k <= LOOKS; k++) {
    const s = (k / LOOKS) * length
    const h = height(s)
    if (before * h < 0) take(settle(at, dir, s - (length / LOOKS) * (h / (h - before))))
    before = h
  }
  return (best as { s: number } | null)?.s ?? null
}

const missed = (at: P3): Outcome<never> =>
  bad(
    'guide-short',
    'The guide rail does not pass beside this place of the path: it has to go along with all of it.',
    [{ at }],
  )
