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
  rounded,
  scale3,
  unit3,
} from '../math'
import { type Basis, breaksOf } from './basis'
import { type Field, fittedBeside, interpolated, placeByPlace, within } from './fit'
import { placesOver } from './grid'
import { evaluate, jet, type Patch, pointOn } from './patch'

/** A skin by its parts, none of which has a kink or a step of curvature inside: rows along v, in each the parts along u. */
export type Skin = Patch[][]

/** Normals that differ by more where parts meet make a crease, rad (0.1 deg). */
const CREASE = 1.75e-3
/** How near what is set off is met, mm; nearer where rows are sewn whose spans differ: they have to lie within 1e-5. */
const [NEAR, SEWN] = [3e-5, 3e-6]
/** Share of its size a skin must keep where it is set off. */
const LEFT = 1e-3
/** Places looked at along each way of a part. */
const LOOKS = 24

/** Patches beside each other, over one v, parted where their direction or curvature may step. */
export function skinOfParts(patches: readonly Patch[]): Skin {
  const vs = steps(patches[0]!.v)
  return vs.slice(1).map((v1, j) =>
    patches.flatMap((p) => {
      const us = steps(p.u)
      return us.slice(1).map((u1, i) => within(p, us[i]!, u1, vs[j]!, v1))
    }),
  )
}

/** The number of the patch each part of a row belongs to. */
export const ownersOf = (patches: readonly Patch[]): number[] =>
  patches.flatMap((p, i) => Array<number>(steps(p.u).length - 1).fill(i))

/** The ends of a basis, and knots between at which less than its second derivative runs on. */
function steps({ degree, knots }: Basis): number[] {
  const out = [knots[0]!]
  for (let i = degree + 1; i < knots.length - degree - 1; i++) {
    let times = 1
    while (knots[i + times] === knots[i]) times++
    if (degree - times < 2) out.push(knots[i]!)
    i += times - 1
  }
  out.push(knots[knots.length - 1]!)
  return out
}

const j0 = jet()
const p3 = (a: Float64Array): P3 => [a[0]!, a[1]!, a[2]!]

/** The unit normal along Su x Sv; where the skin is drawn in to one place at an end, what it tends to there. */
export function normalOn(s: Patch, u: number, v: number): P3 {
  evaluate(s, u, v, 1, j0)
  const n = cross3(p3(j0.u), p3(j0.v))
  const size = norm3(n)
  if (size > 1e-9 * (norm3(p3(j0.u)) + norm3(p3(j0.v))) ** 2) return scale3(n, 1 / size)
  evaluate(s, u, v, 2, j0)
  const [du, dv, uv] = [p3(j0.u), p3(j0.v), p3(j0.uv)]
  // Beside such an end the derivative that is 0 on it grows by the mixed one.
  const limit =
    norm3(dv) < norm3(du)
      ? scale3(cross3(du, uv), u < 0.5 ? 1 : -1)
      : scale3(cross3(uv, dv), v < 0.5 ? 1 : -1)
  if (norm3(limit) > 1e-9 * norm3(uv) * (norm3(du) + norm3(dv))) return unit3(limit)
  const inward = (x: number) => x + 1e-5 * (0.5 - x)
  evaluate(s, inward(u), inward(v), 1, j0)
  return unit3(cross3(p3(j0.u), p3(j0.v)))
}

/** Where parts beside each other meet at an angle; null where all run on smoothly. */
function creaseIn(skin: Skin): { at: P3; angle: number } | null {
  let worst: { at: P3; angle: number } | null = null
  const look = (a: P3, b: P3, at: P3) => {
    const angle = angle3(a, b)
    if (angle > CREASE && angle > (worst?.angle ?? 0)) worst = { at, angle }
  }
  for (const [j, row] of skin.entries())
    for (const [i, p] of row.entries())
      for (let k = 1; k < LOOKS; k++) {
        const t = k / LOOKS
        const [right, above] = [row[i + 1], skin[j + 1]?.[i]]
        if (right) look(normalOn(p, 1, t), normalOn(right, 0, t), pointOn(p, 1, t))
        if (above) look(normalOn(p, t, 1), normalOn(above, t, 0), pointOn(p, t, 1))
      }
  return worst
}

/** Places along a basis, some in each span: a tight bend may take one of many. */
function looksOf(b: Basis): number[] {
  const breaks = breaksOf(b)
  const per = Math.max(5, Math.ceil(LOOKS / (breaks.length - 1)))
  return [
    breaks[0]!,
    ...breaks.slice(1).flatMap((to, i) => {
      const from = breaks[i]!
      return Array.from({ length: per }, (_, k) => from + ((k + 1) / per) * (to - from))
    }),
  ]
}

/** The place that is least kept where a skin is set off by `d` mm along its normals, with the radius it bends to there. */
export function tightestFor(s: Patch, d: number): { left: number; radius: number; at: P3 } {
  let worst = { left: 1, radius: Number.POSITIVE_INFINITY, at: pointOn(s, 0.5, 0.5) }
  const j = jet()
  const [us, vs] = [looksOf(s.u), looksOf(s.v)]
  for (const a of us)
    for (const b of vs) {
      evaluate(s, a, b, 2, j)
      const [u, v] = [p3(j.u), p3(j.v)]
      const n = cross3(u, v)
      const size = norm3(n)
      if (!(size > 1e-9 * (norm3(u) + norm3(v)) ** 2)) continue
      const [e, f, g] = [dot3(u, u), dot3(u, v), dot3(v, v)]
      const second = (x: Float64Array) => dot3(p3(x), n) / size
      const [l, m, k] = [second(j.uu), second(j.uv), second(j.vv)]
      const mean = (e * k - 2 * f * m + g * l) / (2 * size * size)
      const product = (l * k - m * m) / (size * size)
      const spread = Math.sqrt(Math.max(0, mean * mean - product))
      for (const bend of [mean + spread, mean - spread]) {
        const left = 1 - d * bend
        if (left < worst.left) worst = { left, radius: 1 / Math.abs(bend), at: p3(j.p) }
      }
    }
  return worst
}

/** Two skins a wall apart, over the same bases part by part. */
export interface Wall {
  from: Skin
  to: Skin
  /** Least and greatest wall square to the skin, mm. */
  least: number
  most: number
}

/**
 * The skin set off along its normals by two distances (mm, along Su x Sv positive), each within 3e-5 mm. Refused by its
 * curvature before it is tried: where it bends tighter than it is set off, it would fold.
 */
export function setOff(skin: Skin, by: readonly [number, number], closed = false): Outcome<Wall> {
  const crease = creaseIn(closed ? skin.map((row) => [...row, row[0]!]) : skin)
  if (crease)
    return bad(
      'creased',
      `The skin has a crease of ${rounded((crease.angle * 180) / Math.PI, 1)}° here: a wall square to it would part there.`,
      [{ at: crease.at }],
    )
  for (const d of by)
    for (const p of skin.flat()) {
      const { left, radius, at } = tightestFor(p, d)
      if (left < LEFT)
        return bad(
          'too-tight',
          `The skin bends to a radius of ${mm(radius, 2)} here, too tight to be set off by ${mm(Math.abs(d), 2)}.`,
          [{ at }],
        )
    }
  const near = skin.length > 1 ? SEWN : NEAR
  const pairs = skin.map((row) => {
    const [a, b] = by.map((d) => row.map((_, i) => fieldOff(row, i, d))) as [Field[], Field[]]
    const first = fittedBeside(
      row.map((p) => p.u),
      row[0]!.v,
      a,
      near,
    ).patches
    const second = fittedBeside(
      first.map((p) => p.u),
      first[0]!.v,
      b,
      near,
    ).patches
    return { from: second.map((p, i) => interpolated(p.u, p.v, a[i]!)), to: second }
  })
  const wall = Math.abs(by[1] - by[0])
  return good({
    from: pairs.map((p) => p.from),
    to: pairs.map((p) => p.to),
    least: wall,
    most: wall,
  })
}

/** Places of a part set off along its normals; where parts meet, along the middle of both. */
function fieldOff(row: readonly Patch[], i: number, d: number): Field {
  const own = row[i]!
  if (d === 0) return (us, vs) => placesOver(own, us, vs)
  return placeByPlace((u, v) => {
    const beside = u < 1e-12 ? row[i - 1] : u > 1 - 1e-12 ? row[i + 1] : undefined
    const n = normalOn(own, u, v)
    const way = beside ? unit3(add3(n, normalOn(beside, u < 0.5 ? 1 : 0, v))) : n
    return add3(pointOn(own, u, v), scale3(way, d))
  })
}

/** The skin moved both ways along one direction (of unit length), by two distances, mm; refused where it lies along it. */
export function movedOff(skin: Skin, way: P3, by: readonly [number, number]): Outcome<Wall> {
  let [least, most] = [Number.POSITIVE_INFINITY, 0]
  let side = 0
  for (const p of skin.flat())
    for (let a = 0; a <= LOOKS; a++)
      for (let b = 0; b <= LOOKS; b++) {
        const lean = dot3(normalOn(p, a / LOOKS, b / LOOKS), way)
        side ||= Math.sign(lean)
        if (!(lean * side > 0.02))
          return bad(
            'along-skin',
            'The skin runs along that direction here: there would be no wall.',
            [{ at: pointOn(p, a / LOOKS, b / LOOKS) }],
          )
        least = Math.min(least, Math.abs(lean))
        most = Math.max(most, Math.abs(lean))
      }
  const moved = (d: number) =>
    skin.map((row) => row.map((p) => ({ ...p, poles: p.poles.map((x, k) => x + d * way[k % 3]!) })))
  const wall = Math.abs(by[1] - by[0])
  return good({ from: moved(by[0]), to: moved(by[1]), least: least * wall, most: most * wall })
}
