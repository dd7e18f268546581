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
} from '../../math'
import { type Basis, basisOf, evenBasis } from '../basis'
import { fittedBeside, placeByPlace } from '../fit'
import { normalOn, type Skin, tightestFor } from '../offset'
import { type Patch, pointOn } from '../patch'
import type { TubeEnd } from './tube'

type Spot = readonly [number, number]
/** Where two surfaces beside each other cross once they are set off, on the one and on the other, by t along where they met. */
type Crossing = (t: number) => { a: Spot; b: Spot }
/** A curve in the parameters of one surface. */
type Border = (t: number) => Spot
/** What is left of a surface between four borders. */
interface Frame {
  /** Its parameters by others from 0 to 1 both. */
  at(u: number, v: number): Spot
  /** Where its last border begins and ends, by that border's own parameter. */
  upTo: [number, number]
  /** Corners that were moved: from where, to where. */
  moved: [Spot, Spot][]
}

/** How near the inner surfaces are met, mm. */
const NEAR = 3e-6
/** Surfaces that meet at less run on smoothly enough to be parted along the middle between their normals, rad. */
const RUNS_ON = 1e-4
/** How far a corner is moved to where that of its neighbours is, mm. */
const GIVES = 1e-3
/** Share of its size a surface must keep. */
const LEFT = 1e-3

/**
 * The inner side of a wall behind a tube of surfaces (rows of parts, u round, u x v out of the material; none has a step of
 * curvature inside): each set off by `wall` mm, up to where it crosses its neighbours, and to its flat ends, which stay open or
 * have the wall too. Rows and parts as given.
 */
export function innerSkin(
  grid: Skin,
  wall: number,
  ends: readonly [TubeEnd & { open: boolean }, TubeEnd & { open: boolean }],
): Outcome<Skin> {
  for (const p of grid.flat()) {
    const { left, radius, at } = tightestFor(p, -wall)
    if (left < LEFT)
      return bad(
        'too-tight',
        `The skin bends to a radius of ${mm(radius, 2)} here: there is no room behind it for a wall of ${mm(wall, 2)}.`,
        [{ at }],
      )
  }
  const round = (i: number) => (i + grid[0]!.length) % grid[0]!.length
  const sides = grid.map((row) => row.map((a, i) => between(a, row[round(i + 1)]!, 'u', wall)))
  const steps = grid
    .slice(1)
    .map((row, j) => row.map((b, i) => between(grid[j]![i]!, b, 'v', wall)))
  const last = grid.length - 1
  const noRoom = (p: Patch) =>
    bad('no-room', `Behind this face no room is left for a wall of ${mm(wall, 2)}.`, [
      { at: pointOn(p, 0.5, 0.5) },
    ])
  const frames: Frame[][] = []
  for (const [j, row] of grid.entries()) {
    frames.push([])
    for (const [i, p] of row.entries()) {
      const from = j === 0 ? toEnd(p, 0, wall, ends[0]) : on(steps[j - 1]![i]!, 'b')
      const to = j === last ? toEnd(p, 1, wall, ends[1]) : on(steps[j]![i]!, 'a')
      // Where the row below has its corners, this one has them too.
      const under = frames[j - 1]?.[i]?.upTo
      const frame = framed(
        on(sides[j]![round(i - 1)]!, 'b'),
        on(sides[j]![i]!, 'a'),
        from,
        to,
        under,
      )
      if (!frame) return noRoom(p)
      const apart = frame.moved.find(
        ([a, b]) => norm3(sub3(setIn(p, a, wall), setIn(p, b, wall))) > GIVES,
      )
      if (apart)
        return bad(
          'corner',
          'Four faces meet in a corner here, and the walls behind them come together in no one place.',
          [{ at: pointOn(p, ...apart[0]) }],
        )
      frames[j]!.push(frame)
    }
  }
  const made: Skin = []
  for (const [j, row] of grid.entries()) {
    const { patches, off } = fittedBeside(
      row.map((p) => raised(p.u)),
      evenBasis(5, 10),
      row.map((p, i) => placeByPlace((u, v) => setIn(p, frames[j]![i]!.at(u, v), wall))),
      NEAR,
      6,
    )
    if (off > 3 * NEAR)
      return bad('not-met', 'The inner side of the wall is too uneven to be met.', [
        { at: pointOn(row[0]!, 0.5, 0.5) },
      ])
    const over = patches.findIndex((p, i) => turnsOver(p, row[i]!, frames[j]![i]!.at))
    if (over >= 0) return noRoom(row[over]!)
    made.push(patches)
  }
  return good(made)
}

/** What is set off needs a degree that can bend. */
const raised = (b: Basis): Basis => (b.degree >= 5 ? b : basisOf(5))

/** The place of a surface set into the material. */
const setIn = (p: Patch, [u, v]: Spot, wall: number): P3 =>
  add3(pointOn(p, u, v), scale3(normalOn(p, u, v), -wall))

const on =
  (c: Crossing, side: 'a' | 'b'): Border =>
  (t) =>
    c(t)[side]

const kept = <T>(make: (t: number) => T): ((t: number) => T) => {
  const known = new Map<number, T>()
  return (t) => {
    const had = known.get(t)
    if (had !== undefined) return had
    const made = make(t)
    known.set(t, made)
    return made
  }
}

/** The crossing of two surfaces set in, the end of `way` of the first where the second begins; by the first's other parameter. */
function between(a: Patch, b: Patch, way: 'u' | 'v', wall: number): Crossing {
  const spot = (across: number, along: number): Spot =>
    way === 'u' ? [across, along] : [along, across]
  return kept((t) => {
    const [n, m] = [normalOn(a, ...spot(1, t)), normalOn(b, ...spot(0, t))]
    const angle = angle3(n, m)
    if (angle < 1e-7) return { a: spot(1, t), b: spot(0, t) }
    // Where both are planes: the corner of the mitre, seen from each.
    const corner = scale3(add3(n, m), -wall / (1 + dot3(n, m)))
    const shift = (p: Patch, across: number, normal: P3) => {
      const h = across > 0.5 ? -1e-6 : 1e-6
      const d = scale3(
        sub3(pointOn(p, ...spot(across + h, t)), pointOn(p, ...spot(across, t))),
        1 / h,
      )
      return dot3(add3(corner, scale3(normal, wall)), d) / dot3(d, d)
    }
    let [x, y, w] = [1 + shift(a, 1, n), shift(b, 0, m), t]
    if (angle < RUNS_ON) return { a: spot(x, t), b: spot(y, t) }
    const h = 1e-6
    for (let round = 0; round < 30; round++) {
      const [p, q] = [setIn(a, spot(x, t), wall), setIn(b, spot(y, w), wall)]
      const r = sub3(p, q)
      if (norm3(r) < 1e-11) break
      const dx = scale3(sub3(setIn(a, spot(x + h, t), wall), p), 1 / h)
      const dy = scale3(sub3(setIn(b, spot(y + h, w), wall), q), -1 / h)
      const dw = scale3(sub3(setIn(b, spot(y, w + h), wall), q), -1 / h)
      const det = dot3(dx, cross3(dy, dw))
      if (Math.abs(det) < 1e-9 * norm3(dx) * norm3(dy) * norm3(dw)) break
      // Cramer's rule, no step longer than a fifth of a surface.
      const step = (d: number) => Math.max(-0.2, Math.min(0.2, -d / det))
      x += step(dot3(r, cross3(dy, dw)))
      y += step(dot3(dx, cross3(r, dw)))
      w += step(dot3(dx, cross3(dy, r)))
    }
    return { a: spot(x, t), b: spot(y, w) }
  })
}

/** Where a surface set in comes to a flat end: to its plane where that is open, else to the wall behind it; by u. */
function toEnd(p: Patch, v0: 0 | 1, wall: number, end: TubeEnd & { open: boolean }): Border {
  const depth = end.open ? 0 : wall
  const off = (u: number, v: number) =>
    dot3(sub3(setIn(p, [u, v], wall), end.at), end.normal) + depth
  return kept((u) => {
    let v: number = v0
    const h = 1e-6
    for (let round = 0; round < 30; round++) {
      const f = off(u, v)
      if (Math.abs(f) < 1e-11) break
      const slope = (off(u, v + h) - f) / h
      if (slope === 0) break
      v -= Math.max(-0.2, Math.min(0.2, f / slope))
    }
    return [u, v]
  })
}

/**
 * A surface's parameters between four borders in them (left and right by v, from and to by u); null where these leave nothing
 * between them. Its first border is the part of it that `under` says, if it does.
 */
function framed(
  left: Border,
  right: Border,
  from: Border,
  to: Border,
  under?: [number, number],
): Frame | null {
  const corner = (side: Border, end: Border, t0: number, s0: number) => {
    let [t, s] = [t0, s0]
    for (let round = 0; round < 60; round++) {
      const [p, q] = [side(t), end(s)]
      const [du, dv] = [p[0] - q[0], p[1] - q[1]]
      if (Math.abs(du) + Math.abs(dv) < 1e-12) break
      t -= dv
      s += du
    }
    return { t, s }
  }
  const [a, b] = [corner(left, from, 0, 0), corner(right, from, 0, 1)]
  const [c, d] = [corner(left, to, 1, 0), corner(right, to, 1, 1)]
  const spans = [b.s - a.s, d.s - c.s, c.t - a.t, d.t - b.t]
  if (!spans.every((x) => x > 1e-6)) return null
  const found: Spot[] = [left(a.t), right(b.t), left(c.t), right(d.t)]
  const [first, last] = under ?? [a.s, b.s]
  const meant: Spot[] = under ? [from(first), from(last), ...found.slice(2)] : found
  /** The part of a border between two of its parameters, moved to end in two corners. */
  const part = (border: Border, x: number, y: number, i: number, j: number) => {
    const [p, q, m, n] = [border(x), border(y), meant[i]!, meant[j]!]
    return (t: number): Spot => {
      const [u, v] = border(x + t * (y - x))
      const off = (k: 0 | 1) => (1 - t) * (m[k] - p[k]) + t * (n[k] - q[k])
      return [u + off(0), v + off(1)]
    }
  }
  const [l, r] = [part(left, a.t, c.t, 0, 2), part(right, b.t, d.t, 1, 3)]
  const [f, g] = [part(from, first, last, 0, 1), part(to, c.s, d.s, 2, 3)]
  const [p00, p10, p01, p11] = meant as [Spot, Spot, Spot, Spot]
  return {
    at(u, v) {
      const [L, R, F, G] = [l(v), r(v), f(u), g(u)]
      const at = (k: 0 | 1) =>
        (1 - v) * F[k] +
        v * G[k] +
        (1 - u) * L[k] +
        u * R[k] -
        ((1 - u) * (1 - v) * p00[k] + u * (1 - v) * p10[k] + (1 - u) * v * p01[k] + u * v * p11[k])
      return [at(0), at(1)]
    },
    upTo: [c.s, d.s],
    moved: under ? [0, 1].map((k) => [found[k]!, meant[k]!]) : [],
  }
}

/** Whether an inner surface looks against the one it lies behind somewhere. */
function turnsOver(inner: Patch, outer: Patch, frame: (u: number, v: number) => Spot): boolean {
  for (let a = 0; a <= 8; a++)
    for (let b = 0; b <= 8; b++)
      if (dot3(normalOn(inner, a / 8, b / 8), normalOn(outer, ...frame(a / 8, b / 8))) <= 0)
        return true
  return false
}
