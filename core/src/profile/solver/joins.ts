import type { Entity } from '../drawing'
import { add, cross2, type Dual, mul, norm2, over, sub, sub2, times } from './dual'
import {
  ARM,
  type Ctx,
  fromLine,
  isRound,
  isStraight,
  lineReader,
  type PointReader,
  roundReader,
  sharedEnd,
  signAt,
  sine,
  Unfit,
  type Values,
} from './readers'

/** Tangency: at a shared end by direction, else by distance, kept on the side it is now. */
export function tangentValues(ctx: Ctx, e: Entity | undefined, f: Entity | undefined): Values {
  const pair = [e, f]
  const rounds = pair.filter(isRound)
  const shared = e && f ? sharedEnd(e, f) : undefined
  if (e && f && shared && !(isStraight(e) && isStraight(f))) {
    const [u, v] = [leaving(ctx, e, shared), leaving(ctx, f, shared)]
    if (u && v) return (x) => [sine(u(x), v(x))]
  }
  const line = pair.find(isStraight)
  if (line && rounds.length === 1) {
    const [l, c] = [lineReader(ctx, line), roundReader(ctx, rounds[0]!)]
    let side = 0
    return (x) => {
      const { c: centre, r } = c(x)
      const d = fromLine(centre, l(x))
      side ||= signAt(d)
      return [sub(times(d, side), r)]
    }
  }
  if (rounds.length === 2) {
    const [l, m] = [roundReader(ctx, rounds[0]!), roundReader(ctx, rounds[1]!)]
    let inside: boolean | undefined
    return (x) => {
      const [a, b] = [l(x), m(x)]
      const apart = norm2(sub2(b.c, a.c))
      inside ??= apart.v < Math.max(a.r.v, b.r.v)
      if (!inside) return [sub(apart, add(a.r, b.r))]
      const gap = a.r.v > b.r.v ? sub(a.r, b.r) : sub(b.r, a.r)
      return [sub(apart, gap)]
    }
  }
  throw new Unfit('Tangency is held between lines, arcs and circles, and at the end of a curve.')
}

/** The way a piece leaves its end, up to its sense for an arc; null where it has no end there. */
function leaving(ctx: Ctx, e: Entity, end: string): PointReader | null {
  const at = ctx.scope.point(end)
  if (e.kind === 'line' || e.kind === 'axis') {
    const other = ctx.scope.point(e.a === end ? e.b : e.a)
    return (x) => sub2(other(x), at(x))
  }
  if (e.kind === 'arc') {
    const round = roundReader(ctx, e)
    return (x) => {
      const [u, v] = sub2(round(x).c, at(x))
      return [times(v, -1), u]
    }
  }
  if (e.kind === 'poles') {
    const next = ctx.scope.point(e.points[0] === end ? e.points[1]! : e.points.at(-2)!)
    return (x) => sub2(next(x), at(x))
  }
  if (e.kind === 'elliptic') {
    // With u and v the radii to this end and the other: v - u cos(sweep), up to its length.
    const cos = Math.cos((e.sweep * Math.PI) / 180)
    const [c, other] = [ctx.scope.point(e.c), ctx.scope.point(e.a === end ? e.b : e.a)]
    return (x) => {
      const [u, v] = [sub2(at(x), c(x)), sub2(other(x), c(x))]
      return [sub(v[0], times(u[0], cos)), sub(v[1], times(u[1], cos))]
    }
  }
  return null
}

/** One direction and one curvature through a shared end, at which a spline of control points ends. */
export function smoothValues(ctx: Ctx, e: Entity | undefined, f: Entity | undefined): Values {
  const shared = e && f ? sharedEnd(e, f) : undefined
  const spline = e?.kind === 'poles' ? e : f
  const other = e?.kind === 'poles' ? f : e
  const bend = shared && spline && bendOf(ctx, spline, shared)
  const way = shared && spline && leaving(ctx, spline, shared)
  const more = shared && other && bendOf(ctx, other, shared, way || undefined)
  const tangent = tangentValues(ctx, e, f)
  if (spline?.kind !== 'poles' || !bend || !more)
    throw new Unfit('Equal curvature is held where a curve meets a line, an arc or another curve.')
  // Each curvature is counted leaving the join, so that equal ones cancel; 1/mm times ARM squared.
  return (x) => [...tangent(x), times(add(bend(x), more(x)), ARM * ARM)]
}

/**
 * Signed curvature of a piece leaving an end; null where it is not known. Of a spline (p - 1) / p times
 * the share of its first two knot steps times the bend of its first legs (The NURBS Book, ch. 3).
 * `opposite` is the way the other piece leaves: an arc is bent to the side it lies on.
 */
function bendOf(
  ctx: Ctx,
  e: Entity,
  end: string,
  opposite?: PointReader,
): ((x: ArrayLike<number>) => Dual) | null {
  if (e.kind === 'line') return () => ctx.scope.number(0)
  const at = ctx.scope.point(end)
  if (e.kind === 'arc' && opposite) {
    const round = roundReader(ctx, e)
    return (x) => {
      const way = opposite(x)
      const side = over(cross2(way, sub2(round(x).c, at(x))), norm2(way))
      return over(ctx.scope.number(-1), side)
    }
  }
  if (e.kind !== 'poles' || e.points.length < 3) return null
  const degree = Math.min(e.degree, e.points.length - 1)
  if (degree < 2) return null
  const first = e.points[0] === end
  const [b, c] = (first ? e.points.slice(1, 3) : e.points.slice(-3, -1).reverse()).map((id) =>
    ctx.scope.point(id),
  ) as [PointReader, PointReader]
  const share = ((degree - 1) / degree) * firstKnots(e, degree, first)
  return (x) => {
    const [u, v] = [sub2(b(x), at(x)), sub2(c(x), b(x))]
    const n = norm2(u)
    return times(over(cross2(u, v), mul(n, mul(n, n))), share)
  }
}

/** The first knot step of a clamped spline over its first two. */
function firstKnots(e: Extract<Entity, { kind: 'poles' }>, degree: number, first: boolean): number {
  const spans = e.points.length - degree
  const even = Array.from({ length: spans + 1 }, (_, i) => i / spans)
  const inner = e.knots ? e.knots.slice(degree, e.points.length + 1) : even
  const run = first ? inner : inner.map((k) => 1 - k).reverse()
  return run[1]! / (run[2] ?? 1)
}
