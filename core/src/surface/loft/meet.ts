import {
  add3,
  bad,
  cross3,
  curvatureOff,
  dot3,
  good,
  norm3,
  type Outcome,
  type P3,
  placeAt,
  scale3,
  sub3,
  unit3,
} from '../../math'
import { evaluate, jet, type Patch } from '../patch'
import type { Beside } from './beside'
import { type Matched, sideSpan } from './match'
import type { EndHold } from './skin'

/**
 * Surfaces beside a section that meet at a place of it by less run on in each other, as the sine of the angle; by less than the
 * other where the line they meet in says little of where it goes.
 */
const RUNS_ON = { always: 1e-3, unclear: 0.02 }
/** Least share of a direction that has to lead away from the surface. */
const AWAY = 0.1

/** How the skin leaves a place of a section: a direction in the surface beside it, and what bends it on. */
interface Leaving {
  dir: P3
  /** Whether two surfaces meet there in an edge, and no surface runs on. */
  edge: boolean
  /** Second derivative for a unit of the first. */
  bend: P3
}

/**
 * Has a skin run on in the surfaces beside a section: in their planes, and `bent` also with their curvature. `reach` is how
 * fast it leaves, mm a unit of v, all along. At a corner of the section, where two surfaces meet at an edge, it leaves along
 * that edge, and bends so that it stays in both; between corners that is given up evenly.
 */
export function runningOn(
  m: Matched,
  reach: number,
  last: boolean,
  bent: boolean,
): Outcome<EndHold> {
  const n = m.breaks.length
  const at = (side: number, u: number): Beside | null => besideAt(m, side, u)
  const corners: Leaving[] = []
  for (let j = 0; j < n; j++) {
    const [a, b] = [at((j + n - 1) % n, 1), at(j, 0)]
    const place = m.ring.way.place(m.breaks[j]! % 1)
    if (!a || !b)
      return bad(
        'no-neighbour',
        'The section has nothing beside it here to run on from: choose a face of a body instead of a drawing.',
        [{ at: place }],
      )
    const made = cornerOf(a, b)
    if (!made)
      return bad(
        'turned-away',
        'The surfaces beside the section lean away from each other at this corner: no skin runs on in both.',
        [{ at: place }],
      )
    corners.push(made)
  }
  const sign = last ? -1 : 1
  const leans = corners.map((from, side) => leansOn(m, side, from, corners[(side + 1) % n]!))
  const leaving = (u: number, side: number): Leaving => {
    const s = at(side, u)!
    const [from, to] = [corners[side]!, corners[(side + 1) % n]!]
    if (u === 0 || u === 1) return u === 0 ? from : to
    const [a, b] = [at(side, 0)!, at(side, 1)!]
    const lean = leans[side]!(u)
    const dir = unit3(add3(s.away, scale3(s.along, lean)))
    const k = curvatureAlong(s, dir)
    // What the corners add within the surface, given up evenly.
    const extra = add3(scale3(within(a, from.bend), 1 - u), scale3(within(b, to.bend), u))
    return { dir, edge: false, bend: add3(scale3(s.out, k), within(s, extra)) }
  }
  return good({
    slope: (u, side) => scale3(leaving(u, side).dir, sign * reach),
    ...(bent ? { bend: (u, side) => scale3(leaving(u, side).bend, reach * reach) } : {}),
  })
}

/** How bent across a surface is at least that is ruled and not flat, 1/mm, and how far off a ruling may bend, as a share of that. */
const [BENT, RULED] = [1e-6, 1e-4]
/** Places in u this near are one. */
const SAME = 1e-6

/**
 * How the skin leans along the section where it leaves a side of it, by u: along the rulings of what is ruled beside it, so that it stays
 * straight there as on the flat faces next to them; evenly from one to the next between.
 */
function leansOn(m: Matched, side: number, from: Leaving, to: Leaving): (u: number) => number {
  const [begin, end] = sideSpan(m, side)
  const { beside, way } = m.ring
  const pieces = (beside ?? []).flatMap((of, k) =>
    [0, 1].map((turn) => {
      const at = (share: number) => (share + turn - begin) / (end - begin)
      return { of, u0: at(way.starts[k]!), u1: at(way.starts[k + 1]!) }
    }),
  )
  const ruled = pieces.filter(
    ({ of, u0, u1 }) =>
      of &&
      u1 > SAME &&
      u0 < 1 - SAME &&
      // Beside an edge it leaves along that.
      !(u0 < SAME && from.edge) &&
      !(u1 > 1 - SAME && to.edge) &&
      [0.2, 0.5, 0.8].every((t) => rulingOf(of(t)) !== null),
  )
  const stations = ruled
    .flatMap(({ of, u0, u1 }) => [
      { u: u0, lean: rulingOf(of!(0)) ?? 0 },
      { u: u1, lean: rulingOf(of!(1)) ?? 0 },
    ])
    .filter(({ u }) => u > SAME && u < 1 - SAME)
    .sort((p, q) => p.u - q.u)
  stations.unshift({ u: 0, lean: leanOf(besideAt(m, side, 0)!, from.dir) })
  stations.push({ u: 1, lean: leanOf(besideAt(m, side, 1)!, to.dir) })
  return (u) => {
    const on = ruled.find(({ u0, u1 }) => u > u0 && u < u1)
    if (on) return rulingOf(besideAt(m, side, u)!) ?? 0
    const k = Math.max(
      1,
      stations.findIndex((s) => s.u >= u),
    )
    const [p, q] = [stations[k - 1]!, stations[k]!]
    return q.u > p.u ? p.lean + ((q.lean - p.lean) * (u - p.u)) / (q.u - p.u) : q.lean
  }
}

/** How a surface's ruling leans along the section, where it has one and is not flat; else null. */
function rulingOf({ bends: [a, mixed, b] }: Beside): number | null {
  if (Math.abs(a) < BENT) return null
  const lean = -mixed / a
  const straight = a * lean * lean + 2 * mixed * lean + b
  return Math.abs(straight) < RULED * Math.abs(a) ? lean : null
}

/** Places of each side at which a skin is compared with what lies beside it: uneven, so that none is a place it was made by. */
const LOOKS = 23
/** How a skin meets what lies beside its first or last section, the worst of its places each for itself. */
export interface MeetingOff {
  /** Between the surfaces, rad. */
  angle: number
  /** Difference of the curvatures across the section over the larger. */
  bend: number
  at: P3
}
export function meetingOff(patches: readonly Patch[], m: Matched, last: boolean): MeetingOff {
  const j = jet()
  const out: MeetingOff = { angle: 0, bend: 0, at: m.ring.centre }
  for (const [side, patch] of patches.entries())
    for (let i = 0; i < LOOKS; i++) {
      const u = (i + 0.37) / LOOKS
      const s = besideAt(m, side, u)
      if (!s) continue
      evaluate(patch, u, last ? 1 : 0, 2, j)
      const [du, dv] = [placeAt(j.u, 0), placeAt(j.v, 0)]
      const n = unit3(cross3(du, dv))
      const turned = dot3(n, s.out)
      const angle = Math.atan2(norm3(cross3(n, s.out)), Math.abs(turned))
      if (angle > out.angle) {
        out.angle = angle
        out.at = placeAt(j.p, 0)
      }
      // The direction across the section in the skin's parameters, by its first fundamental form.
      const [E, F, G] = [dot3(du, du), dot3(du, dv), dot3(dv, dv)]
      const [p, q] = [dot3(s.away, du), dot3(s.away, dv)]
      const det = E * G - F * F
      const [a, b] = [(p * G - q * F) / det, (q * E - p * F) / det]
      const size = E * a * a + 2 * F * a * b + G * b * b
      const second = [placeAt(j.uu, 0), placeAt(j.uv, 0), placeAt(j.vv, 0)].map((x) => dot3(x, n))
      const k = (a * a * second[0]! + 2 * a * b * second[1]! + b * b * second[2]!) / size
      const own = k * Math.sign(turned)
      const other = s.bends[2]
      out.bend = Math.max(out.bend, curvatureOff(Math.abs(own - other), own, other))
    }
  return out
}

/** The surface beside the section at a place of one of its sides. */
export function besideAt(m: Matched, side: number, u: number): Beside | null {
  const { ring } = m
  const [from, to] = sideSpan(m, side)
  const share = from + u * (to - from)
  const { curve, t } = ring.way.at(share > 1 + 1e-12 ? share - 1 : share)
  // A share within rounding of a joint is read on the piece it belongs to.
  const count = ring.curves.length
  const [k, x] =
    u === 0 && t > 1 - 1e-7
      ? [(curve + 1) % count, 0]
      : u === 1 && t < 1e-7
        ? [(curve + count - 1) % count, 1]
        : [curve, t]
  return ring.beside?.[k]?.(x) ?? null
}

const leanOf = (s: Beside, dir: P3): number => dot3(dir, s.along) / dot3(dir, s.away)
const within = ({ out }: Beside, v: P3): P3 => sub3(v, scale3(out, dot3(v, out)))

/** The curvature of a surface along a direction in it, 1/mm. */
function curvatureAlong({ along, away, bends: [a, m, b] }: Beside, dir: P3): number {
  const [x, y] = [dot3(dir, along), dot3(dir, away)]
  return a * x * x + 2 * m * x * y + b * y * y
}

/** How a skin leaves the corner between two surfaces; null where no direction leads away from both. */
function cornerOf(a: Beside, b: Beside): Leaving | null {
  const over = add3(a.away, b.away)
  const edge = cross3(a.out, b.out)
  const size = norm3(edge)
  const clear = Math.abs(dot3(edge, over)) > 0.7 * size * norm3(over)
  const runs = size < RUNS_ON.always || (size < RUNS_ON.unclear && !clear)
  const lean = rulingOf(a) ?? rulingOf(b) ?? 0
  const dir = runs
    ? unit3(within(a, add3(over, scale3(add3(a.along, b.along), lean))))
    : scale3(unit3(edge), dot3(edge, over) < 0 ? -1 : 1)
  if (![a, b].every((x) => dot3(dir, x.away) >= AWAY)) return null
  const [k, l] = [curvatureAlong(a, dir), curvatureAlong(b, dir)]
  if (runs) return { dir, edge: false, bend: scale3(a.out, (k + l) / 2) }
  // In both surfaces: its part along each normal is that surface's curvature.
  const c = dot3(a.out, b.out)
  const det = 1 - c * c
  const bend = add3(scale3(a.out, (k - c * l) / det), scale3(b.out, (l - c * k) / det))
  return { dir, edge: true, bend }
}
