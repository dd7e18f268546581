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
import { normalOn, type Skin, tightestFor } from '../offset'
import { type Field, fittedBeside, type Patch, pointOn } from '../patch'
import type { TubeEnd } from './tube'

type Spot = readonly [number, number]
/** Where two surfaces beside each other cross once they are set off, on the one and on the other, by t along where they met. */
type Crossing = (t: number) => { a: Spot; b: Spot }
/** A curve in the parameters of one surface. */
type Border = (t: number) => Spot
/** The parameters of a surface between four borders, from 0 to 1 both. */
type Framed = (u: number, v: number) => Spot

/** How near the inner surfaces are met, mm. */
const NEAR = 3e-6
/** Surfaces that meet at less run on smoothly enough to be parted along the middle between their normals, rad. */
const RUNS_ON = 1e-4
/** How near corners of inner surfaces have to lie to be sewn to one, mm. */
const JOINS = 8e-6
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
  const frames: Framed[][] = []
  for (const [j, row] of grid.entries()) {
    frames.push([])
    for (const [i, p] of row.entries()) {
      const from = j === 0 ? toEnd(p, 0, wall, ends[0]) : on(steps[j - 1]![i]!, 'b')
      const to = j === last ? toEnd(p, 1, wall, ends[1]) : on(steps[j]![i]!, 'a')
      const frame = framed(on(sides[j]![round(i - 1)]!, 'b'), on(sides[j]![i]!, 'a'), from, to)
      if (!frame) return noRoom(p)
      frames[j]!.push(frame)
    }
  }
  const apart = cornerApart(grid, frames, wall)
  if (apart) return apart
  const made: Skin = []
  for (const [j, row] of grid.entries()) {
    const { patches, off } = fittedBeside(
      row.map((p) => raised(p.u)),
      evenBasis(5, 10),
      row.map(
        (p, i): Field =>
          (u, v) =>
            setIn(p, frames[j]![i]!(u, v), wall),
      ),
      NEAR,
      6,
    )
    if (off > 3 * NEAR)
      return bad('not-met', 'The inner side of the wall is too uneven to be met.', [
        { at: pointOn(row[0]!, 0.5, 0.5) },
      ])
    const over = patches.findIndex((p, i) => turnsOver(p, row[i]!, frames[j]![i]!))
    if (over >= 0) return noRoom(row[over]!)
    made.push(patches)
  }
  return good(made)
}

/** Where the walls behind four faces that meet in a corner come together in no one place. */
function cornerApart(grid: Skin, frames: readonly Framed[][], wall: number): Outcome<never> | null {
  for (const [j, row] of grid.entries())
    for (const [i, p] of row.entries()) {
      const above = grid[j + 1]?.[i]
      if (!above) continue
      for (const u of [0, 1]) {
        const gap = sub3(
          setIn(p, frames[j]![i]!(u, 1), wall),
          setIn(above, frames[j + 1]![i]!(u, 0), wall),
        )
        if (norm3(gap) > JOINS)
          return bad(
            'corner',
            'Four faces meet in a corner here, and the walls behind them come together in no one place.',
            [{ at: pointOn(p, u, 1) }],
          )
      }
    }
  return null
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
 * A surface's parameters between four borders in them (left and right by v, from and to by u), from 0 to 1 both; null where
 * these leave nothing between them.
 */
function framed(left: Border, right: Border, from: Border, to: Border): Framed | null {
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
  const part = (border: Border, x: number, y: number) => (t: number) => border(x + t * (y - x))
  const [l, r] = [part(left, a.t, c.t), part(right, b.t, d.t)]
  const [f, g] = [part(from, a.s, b.s), part(to, c.s, d.s)]
  const [p00, p10, p01, p11] = [f(0), f(1), g(0), g(1)]
  return (u, v) => {
    const [L, R, F, G] = [l(v), r(v), f(u), g(u)]
    const at = (k: 0 | 1) =>
      (1 - v) * F[k] +
      v * G[k] +
      (1 - u) * L[k] +
      u * R[k] -
      ((1 - u) * (1 - v) * p00[k] + u * (1 - v) * p10[k] + (1 - u) * v * p01[k] + u * v * p11[k])
    return [at(0), at(1)]
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
