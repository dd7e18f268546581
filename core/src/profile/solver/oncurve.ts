import { basis, evaluate, findSpan, nearest } from '../../curve'
import type { Entity } from '../drawing'
import {
  add,
  constant,
  cross2,
  type D2,
  type Dual,
  hypot,
  mul,
  norm2,
  over,
  plus,
  sub,
  sub2,
  times,
} from './dual'
import type { Ctx, PointReader, Values } from './readers'
import { type Poles, splineOf } from './runs'

type P2 = readonly [number, number]
type Oval = Extract<Entity, { kind: 'ellipse' | 'elliptic' }>

/**
 * A point on a spline: at a place along it that is an unknown of its own, counted in mm so that it
 * moves as readily as the points do. Past an end the spline is taken to run on straight.
 */
export function onSpline(ctx: Ctx, relation: string, e: Poles, point: PointReader): Values {
  const poles = e.points.map((id) => ctx.scope.point(id))
  const { run, length } = ctx.vars.runs[relation] ?? { run: null, length: 1 }
  const along = run === null ? null : ctx.scope.unknown(run)
  return (x) => {
    const p = point(x)
    const at = poles.map((read) => read(x))
    const s = splineOf(
      e,
      at.map(([u, v]): P2 => [u.v, v.v]),
    )
    const n = p[0].g.length
    const t = along ? times(along(x), 1 / length) : constant(nearest(s, [p[0].v, p[1].v]).t, n)
    const inside = Math.min(1, Math.max(0, t.v))
    const k = findSpan(s, inside)
    const weights = basis(s, k, inside)
    const { d1 } = evaluate(s, inside)
    const beyond = plus(t, -inside)
    return [0, 1].map((axis) => {
      const carried = weights.reduce<Dual>(
        (sum, w, i) => add(sum, times(at[k - s.degree + i]![axis]!, w)),
        times(beyond, d1[axis]!),
      )
      return sub(p[axis]!, carried)
    })
  }
}

/** A point on an ellipse, by its share of two conjugate half-diameters. */
export function onOval(ctx: Ctx, e: Oval, point: PointReader): Values {
  const halves = halfDiameters(ctx, e)
  const centre = ctx.scope.point(e.c)
  return (x) => {
    const [u, v] = halves(x)
    const d = sub2(point(x), centre(x))
    const field = cross2(u, v)
    const share = hypot(over(cross2(d, v), field), over(cross2(u, d), field))
    return [mul(plus(share, -1), norm2(u))]
  }
}

function halfDiameters({ scope }: Ctx, e: Oval): (x: ArrayLike<number>) => [D2, D2] {
  const c = scope.point(e.c)
  if (e.kind === 'ellipse') {
    const end = scope.point(e.end)
    return (x) => {
      const u = sub2(end(x), c(x))
      return [u, [times(u[1], -e.ratio), times(u[0], e.ratio)]]
    }
  }
  const [a, b] = [scope.point(e.a), scope.point(e.b)]
  const turn = (e.sweep * Math.PI) / 180
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)]
  return (x) => {
    const [u, w] = [sub2(a(x), c(x)), sub2(b(x), c(x))]
    const v = (k: 0 | 1) => times(sub(w[k], times(u[k], cos)), 1 / sin)
    return [u, [v(0), v(1)]]
  }
}
