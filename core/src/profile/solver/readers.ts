import { type Drawing, type Entity, endsOf } from '../drawing'
import {
  add,
  constant,
  cross2,
  type D2,
  type Dual,
  div,
  dot2,
  mul,
  norm2,
  over,
  sub,
  sub2,
  times,
} from './dual'
import type { Scope, Variables } from './system'

/** A turn of one radian weighs as much as this many millimetres. */
export const ARM = 10

export type Straight = Extract<Entity, { kind: 'line' | 'axis' }>
export type Round = Extract<Entity, { kind: 'arc' | 'circle' }>
export const isStraight = (e: Entity | undefined): e is Straight =>
  e?.kind === 'line' || e?.kind === 'axis'
export const isRound = (e: Entity | undefined): e is Round =>
  e?.kind === 'arc' || e?.kind === 'circle'

/** The two ends of a line as duals. */
type LineReader = (x: ArrayLike<number>) => { a: D2; b: D2 }

export interface Ctx {
  drawing: Drawing
  vars: Variables
  scope: Scope
  /** The unknowns as they are now: they settle on which side things are kept. */
  now: ArrayLike<number>
}

/** A relation or dimension that does not fit what it names, in a sentence. */
export class Unfit extends Error {
  override name = 'Unfit'
}

export const lineReader = ({ scope }: Ctx, e: Straight): LineReader => {
  const [a, b] = [scope.point(e.a), scope.point(e.b)]
  return (x) => ({ a: a(x), b: b(x) })
}

/** Centre and radius of an arc by its three points, or of a circle. */
export function roundReader(
  { scope }: Ctx,
  e: Round,
): (x: ArrayLike<number>) => { c: D2; r: Dual } {
  if (e.kind === 'circle') {
    const [c, r] = [scope.point(e.c), scope.radius(e.id)]
    return (x) => ({ c: c(x), r: r(x) })
  }
  const [a, m, b] = [scope.point(e.a), scope.point(e.via), scope.point(e.b)]
  return (x) => {
    const [pa, pm, pb] = [a(x), m(x), b(x)]
    const [u, v] = [sub2(pa, pm), sub2(pb, pm)]
    // Circumcentre of the triangle, seen from the middle point.
    const d = times(cross2(u, v), 2)
    const safe = Math.abs(d.v) > 1e-12 ? d : constant(1e-12, d.g.length)
    const [uu, vv] = [dot2(u, u), dot2(v, v)]
    const off: D2 = [
      div(sub(mul(v[1], uu), mul(u[1], vv)), safe),
      div(sub(mul(u[0], vv), mul(v[0], uu)), safe),
    ]
    return { c: [add(pm[0], off[0]), add(pm[1], off[1])], r: norm2(off) }
  }
}

/** Signed distance of a point from a line, left positive. */
export const fromLine = (p: D2, { a, b }: { a: D2; b: D2 }): Dual => {
  const u = sub2(b, a)
  return over(cross2(u, sub2(p, a)), norm2(u))
}
export const sine = (u: D2, v: D2): Dual => times(over(cross2(u, v), mul(norm2(u), norm2(v))), ARM)
export const cosine = (u: D2, v: D2): Dual => times(over(dot2(u, v), mul(norm2(u), norm2(v))), ARM)
export const signAt = (d: Dual): 1 | -1 => (d.v < 0 ? -1 : 1)

/** The numbers that are to become 0. */
export type Values = (x: ArrayLike<number>) => Dual[]

/** A point or direction read as duals. */
export type PointReader = (x: ArrayLike<number>) => D2

export function straight(e: Entity | undefined, r: { kind: string }): Straight {
  if (isStraight(e)) return e
  throw new Unfit(`"${r.kind}" needs a straight line${e ? `; ${e.id} is none` : ''}.`)
}
export const along = ({ a, b }: { a: D2; b: D2 }): D2 => sub2(b, a)

/** A point at which both pieces end. */
export function sharedEnd(e: Entity, f: Entity): string | undefined {
  const [a, b] = [endsOf(e), endsOf(f)]
  return a?.find((p) => b?.includes(p))
}
