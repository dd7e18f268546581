import {
  add3,
  angle3,
  bad,
  cross3,
  dot3,
  good,
  mm,
  norm3,
  type Outcome,
  type P3,
  scale3,
  sub3,
  unit3,
} from '../math'
import { type Curve3, end3, way3 } from '../surface'
import { KINK, TOUCH } from './chain'

/** Curves that follow each other, and what each is called. */
export interface Chain {
  pieces: Curve3[]
  names: string[]
}

/** A piece, and the radius of the rounding where it ends, mm (0 for none). */
export interface Corner {
  curve: Curve3
  name: string
  round: number
  /** Whether it is a mistake where nothing can be rounded; else such corners stay as they are. */
  must?: boolean
}

/** Share by which roundings may seem to need more of a line than there is. */
const SPARE = 1e-9

/** Kinks between straight pieces rounded by arcs that touch both; each arc is called `round` and its number from 1. */
export function rounded(raw: readonly Corner[], closed: boolean): Outcome<Chain> {
  /** How much of each piece its roundings take, at its start and its end, mm. */
  const used = raw.map((): [number, number] => [0, 0])
  const arcs = new Map<number, Curve3>()
  for (const [i, { curve: a, round: radius, must }] of raw.entries()) {
    const next = i + 1 < raw.length ? i + 1 : closed ? 0 : -1
    if (next < 0 || radius === 0) continue
    const b = raw[next]!.curve
    const at = end3(a)
    if (!(radius > 0)) return bad('not-positive', 'A rounding must be more than 0.', [{ at }])
    if (a.kind !== 'line' || b.kind !== 'line') {
      if (!must) continue
      return bad('not-straight', 'Only lines are rounded between; here a curve begins or ends.', [
        { at },
      ])
    }
    const turn = turnAt(a, b)
    if (turn < KINK) continue
    if (Math.PI - turn < 1e-6)
      return bad('turns-back', 'The path turns right back; nothing rounds that.', [{ at }])
    const [arc, reach] = arcBetween(at, way3(a, 1), way3(b, 0), turn, radius)
    used[i]![1] = reach
    used[next]![0] = reach
    arcs.set(i, arc)
  }
  const out: Chain = { pieces: [], names: [] }
  const add = (c: Curve3, name: string) => {
    out.pieces.push(c)
    out.names.push(name)
  }
  for (const [i, { curve: c, name }] of raw.entries()) {
    const [head, tail] = used[i]!
    if (c.kind !== 'line' || head + tail === 0) add(c, name)
    else {
      const length = norm3(sub3(c.b, c.a))
      if (head + tail > length * (1 + SPARE))
        return bad(
          'too-large',
          `The roundings do not fit: a line of ${mm(length, 2)} would have to be ${mm(head + tail, 2)} long.`,
          [{ at: add3(c.a, scale3(sub3(c.b, c.a), head / (head + tail))) }],
        )
      const way = way3(c, 0)
      const [a, b] = [add3(c.a, scale3(way, head)), sub3(c.b, scale3(way, tail))]
      if (length - head - tail > TOUCH) add({ kind: 'line', a, b }, name)
    }
    const arc = arcs.get(i)
    if (arc) add(arc, `round${[...arcs.keys()].indexOf(i) + 1}`)
  }
  return good(out)
}

const turnAt = (a: Curve3, b: Curve3): number => angle3(way3(a, 1), way3(b, 0))

/** The arc between two directions about a corner, and how far from the corner it touches, mm. */
function arcBetween(corner: P3, u: P3, v: P3, turn: number, radius: number): [Curve3, number] {
  const side = unit3(sub3(v, scale3(u, dot3(u, v))))
  const reach = radius * Math.tan(turn / 2)
  const centre = add3(sub3(corner, scale3(u, reach)), scale3(side, radius))
  return [{ kind: 'arc', centre, x: scale3(side, -1), y: u, radius, sweep: turn }, reach]
}

/** The largest radius by which all kinks between straight pieces can be rounded, mm; null where there is none. */
export function mostRounding(pieces: readonly Curve3[], closed: boolean): number | null {
  const n = pieces.length
  /** What a radius of 1 takes at the end of each piece. */
  const takes = pieces.map((a, i) => {
    const b = pieces[(i + 1) % n]!
    if ((!closed && i === n - 1) || a.kind !== 'line' || b.kind !== 'line') return 0
    const turn = turnAt(a, b)
    return turn < KINK || Math.PI - turn < 1e-6 || norm3(cross3(way3(a, 1), way3(b, 0))) < 1e-9
      ? 0
      : Math.tan(turn / 2)
  })
  let most = Number.POSITIVE_INFINITY
  for (const [i, c] of pieces.entries()) {
    const takesHere = takes[i]! + (i > 0 || closed ? takes[(i + n - 1) % n]! : 0)
    if (c.kind === 'line' && takesHere > 0) most = Math.min(most, norm3(sub3(c.b, c.a)) / takesHere)
  }
  return Number.isFinite(most) ? most : null
}
