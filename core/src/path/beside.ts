import {
  ANGLE,
  add3,
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
import { at3, type Curve3, end3, evenBasis, fitted3, place3, start3, way3 } from '../surface'
import { TOUCH } from './chain'

/** How near the moved curve is met, mm. */
const NEAR = 1e-5
/** How near to folding over it may come: the share of its speed that must be left. */
const LEFT = 1e-3
/** Cosine of the angle within which pieces run on smoothly. */
const SMOOTH = Math.cos(ANGLE)

/**
 * A chain moved aside by a distance, mm, as it is seen along `z`: to the left of the way for who has z up, heights kept where pieces
 * begin and end. Between them they are kept too, but that a piece which runs on smoothly climbs at its end as it did: inside a bend the
 * way is shorter, and it would have a kink there. Corners between straight pieces are mitred.
 */
export function beside(
  pieces: readonly Curve3[],
  closed: boolean,
  z: P3,
  distance: number,
): Outcome<Curve3[]> {
  const out: Curve3[] = []
  const runsOn = (a: Curve3 | undefined, b: Curve3 | undefined) =>
    a !== undefined && b !== undefined && dot3(unit3(way3(a, 1)), unit3(way3(b, 0))) > SMOOTH
  const round = (i: number) => pieces[closed ? (i + pieces.length) % pieces.length : i]
  for (const [i, c] of pieces.entries()) {
    const ends = [runsOn(round(i - 1), c), runsOn(c, round(i + 1))] as const
    const made = movedAside(c, z, distance, ends)
    if (!made.ok) return made
    out.push(made.value)
  }
  for (let i = 0; i < out.length - (closed ? 0 : 1); i++) {
    const next = (i + 1) % out.length
    const [a, b] = [out[i]!, out[next]!]
    if (norm3(sub3(start3(b), end3(a))) <= TOUCH) continue
    const at = mitre(a, b, z)
    if (!at)
      return bad(
        'kinked',
        'The path has a kink here that moved aside does not meet again: round it first.',
        [{ at: end3(pieces[i]!) }],
      )
    out[i] = { kind: 'line', a: start3(a), b: at }
    out[next] = { kind: 'line', a: at, b: end3(b) }
  }
  for (const [i, c] of out.entries()) {
    const before = pieces[i]!
    if (c.kind !== 'line' || norm3(sub3(c.b, c.a)) < TOUCH) continue
    if (dot3(sub3(c.b, c.a), way3(before, 0)) < 0)
      return bad(
        'eaten',
        `Moved aside by ${mm(Math.abs(distance), 2)} nothing is left of this piece.`,
        [{ at: place3(before, 0.5) }],
      )
  }
  return good(out)
}

/** Where two straight pieces, run on, meet: only where they lie in one plane. */
function mitre(a: Curve3, b: Curve3, z: P3): P3 | null {
  if (a.kind !== 'line' || b.kind !== 'line') return null
  const [d, e] = [sub3(a.b, a.a), sub3(b.b, b.a)]
  const n = cross3(d, e)
  const size = dot3(n, z)
  if (Math.abs(size) < 1e-9 * norm3(d) * norm3(e)) return null
  const t = dot3(cross3(sub3(b.a, a.a), e), z) / size
  const s = dot3(cross3(sub3(b.a, a.a), d), z) / size
  const [p, q] = [add3(a.a, scale3(d, t)), add3(b.a, scale3(e, s))]
  return norm3(sub3(p, q)) <= TOUCH ? p : null
}

/** How a curve runs at a place as it is seen along z: its way there, level, and how that bends, 1/mm, left turns positive. */
function seenAt(c: Curve3, t: number, z: P3) {
  const { p, d1, d2 } = at3(c, t)
  const climb = dot3(d1, z)
  const flat = sub3(d1, scale3(z, climb))
  return { p, d1, flat, climb, bend: dot3(cross3(flat, d2), z) / norm3(flat) ** 3 }
}

function movedAside(
  c: Curve3,
  z: P3,
  distance: number,
  [before, after]: readonly [boolean, boolean],
): Outcome<Curve3> {
  const LOOKS = c.kind === 'line' ? 1 : 200
  for (let k = 0; k <= LOOKS; k++) {
    const { p, d1, flat, bend } = seenAt(c, k / LOOKS, z)
    if (norm3(flat) < 1e-6 * norm3(d1))
      return bad(
        'upright',
        'The path runs straight towards who looks at the plane here: it has no side there.',
        [{ at: p }],
      )
    if (1 - distance * bend < LEFT)
      return bad(
        'folds',
        `Inside this bend, of radius ${mm(1 / Math.abs(bend), 2)}, moved aside by ${mm(Math.abs(distance), 2)} it would fold over.`,
        [{ at: p }],
      )
  }
  // What it has to climb less by its parameter at an end, so that it climbs there by its length as it did.
  const less = (t: 0 | 1) => {
    const { climb, bend } = seenAt(c, t, z)
    return -climb * distance * bend
  }
  const [first, last] = [before ? less(0) : 0, after ? less(1) : 0]
  const place = (t: number): P3 => {
    const { p, d1 } = at3(c, t)
    const more = t * (1 - t) * (first * (1 - t) - last * t)
    return add3(add3(p, scale3(unit3(cross3(z, d1)), distance)), scale3(z, more))
  }
  if (c.kind === 'line') return good({ kind: 'line', a: place(0), b: place(1) })
  if (c.kind === 'arc' && norm3(cross3(cross3(c.x, c.y), z)) < 1e-9) {
    const left = dot3(cross3(c.x, c.y), z) > 0 ? -distance : distance
    return good({ ...c, radius: c.radius + left })
  }
  const { curve, off } = fitted3(evenBasis(5, 8), place, NEAR)
  return off <= 10 * NEAR
    ? good(curve)
    : bad('jumps', `Moved aside it runs smoothly only within ${mm(off, 4)}.`, [{ at: place(0.5) }])
}
