import type { Drawing, Entity } from '../drawing'
import {
  add,
  atan2,
  cross2,
  type D2,
  type Dual,
  dot2,
  hypot,
  mul,
  norm2,
  over,
  plus,
  sub,
  sub2,
  times,
} from './dual'
import { smoothValues, tangentValues } from './joins'
import { AXIS } from './names'
import { onOval, onSpline } from './oncurve'
import {
  ARM,
  along,
  type Ctx,
  cosine,
  fromLine,
  isRound,
  lineReader,
  type PointReader,
  roundReader,
  type Straight,
  sharedEnd,
  signAt,
  sine,
  straight,
  Unfit,
  type Values,
} from './readers'
import type { Dimensioned, Relation } from './schema'
import { type Equation, entityOf, Scope, type Variables } from './system'

/** The equations of a relation. Throws `Unfit` where it does not apply. */
export function relationEquations(
  relation: Relation,
  drawing: Drawing,
  vars: Variables,
  now: ArrayLike<number>,
): Equation[] {
  const ctx = { drawing, vars, scope: new Scope(vars), now }
  const [e, f] = relation.entities.map((id) => entityOf(drawing, id))
  const points = relation.points.map((id) => ctx.scope.point(id))
  return equations(relation.id, ctx, relationValues(relation, ctx, e, f, points))
}

function relationValues(
  relation: Relation,
  ctx: Ctx,
  e: Entity | undefined,
  f: Entity | undefined,
  points: PointReader[],
): Values {
  const [p, q] = points
  switch (relation.kind) {
    case 'coincident':
      return (x) => [...sub2(q!(x), p!(x))]
    case 'fixed': {
      const at = relation.at ?? ctx.vars.at[relation.points[0]!]!
      return (x) => {
        const d = p!(x)
        return [plus(d[0], -at[0]), plus(d[1], -at[1])]
      }
    }
    case 'level':
    case 'upright': {
      const k = relation.kind === 'level' ? 1 : 0
      if (!e) return (x) => [sub(q!(x)[k], p!(x)[k])]
      const line = lineReader(ctx, straight(e, relation))
      return (x) => [sub(line(x).b[k], line(x).a[k])]
    }
    case 'on': {
      if (isRound(e)) {
        const round = roundReader(ctx, e)
        return (x) => {
          const { c, r } = round(x)
          return [sub(norm2(sub2(p!(x), c)), r)]
        }
      }
      if (e?.kind === 'poles') return onSpline(ctx, relation.id, e, p!)
      if (e?.kind === 'ellipse' || e?.kind === 'elliptic') return onOval(ctx, e, p!)
      const line = lineReader(ctx, straight(e, relation))
      return (x) => [fromLine(p!(x), line(x))]
    }
    case 'midpoint': {
      const line = lineReader(ctx, straight(e, relation))
      return (x) => {
        const { a, b } = line(x)
        const d = p!(x)
        return [0, 1].map((k) => sub(d[k]!, times(add(a[k]!, b[k]!), 0.5)))
      }
    }
    case 'symmetric': {
      const line = lineReader(ctx, straight(e, relation))
      return (x) => {
        const { a, b } = line(x)
        const [s, t] = [p!(x), q!(x)]
        const mid: D2 = [times(add(s[0], t[0]), 0.5), times(add(s[1], t[1]), 0.5)]
        const u = sub2(b, a)
        return [fromLine(mid, { a, b }), over(dot2(u, sub2(t, s)), norm2(u))]
      }
    }
    case 'parallel':
    case 'square': {
      const [l, m] = [
        lineReader(ctx, straight(e, relation)),
        lineReader(ctx, straight(f, relation)),
      ]
      const off = relation.kind === 'parallel' ? sine : cosine
      return (x) => [off(along(l(x)), along(m(x)))]
    }
    case 'collinear': {
      const [l, m] = [
        lineReader(ctx, straight(e, relation)),
        lineReader(ctx, straight(f, relation)),
      ]
      return (x) => [fromLine(m(x).a, l(x)), fromLine(m(x).b, l(x))]
    }
    case 'equal': {
      if (isRound(e) && isRound(f)) {
        const [l, m] = [roundReader(ctx, e), roundReader(ctx, f)]
        return (x) => [sub(m(x).r, l(x).r)]
      }
      const [l, m] = [
        lineReader(ctx, straight(e, relation)),
        lineReader(ctx, straight(f, relation)),
      ]
      return (x) => [sub(norm2(along(m(x))), norm2(along(l(x))))]
    }
    case 'concentric': {
      if (!isRound(e) || !isRound(f))
        throw new Unfit('One centre is shared by arcs and circles only.')
      const [l, m] = [roundReader(ctx, e), roundReader(ctx, f)]
      return (x) => [...sub2(m(x).c, l(x).c)]
    }
    case 'tangent':
      return tangentValues(ctx, e, f)
    case 'smooth':
      return smoothValues(ctx, e, f)
  }
}

/** The equation that keeps a dimension at `target` (mm or rad). */
export function dimensionEquations(
  d: Dimensioned,
  target: number,
  drawing: Drawing,
  vars: Variables,
  now: ArrayLike<number>,
): Equation[] {
  const ctx = { drawing, vars, scope: new Scope(vars), now }
  const rounded = vars.follows?.radii[d.entities[0] ?? '']
  if (rounded && (d.kind === 'radius' || d.kind === 'diameter')) {
    const read = rounded(ctx.scope)
    const radius = d.kind === 'radius' ? target : target / 2
    return equations(d.id, ctx, (x) => {
      const { rise, run } = read(x)
      return [times(sub(rise, times(run, radius)), 0.5)]
    })
  }
  const measure = dimensionMeasure(d, ctx)
  if ((d.kind === 'radius' || d.kind === 'diameter') && target > 0)
    // (r - R) R / r: to first order r - R, but as even as the bend of the arc is; the radius itself runs
    // away where three points come near a line.
    return equations(d.id, ctx, (x) => {
      const r = measure(x)
      return [over(times(plus(r, -target), target), r)]
    })
  const k = d.kind === 'angle' ? ARM : 1
  return equations(d.id, ctx, (x) => [times(plus(measure(x), -target), k)])
}

/** What a dimension measures now, mm or rad, never negative. */
export function measured(
  d: Dimensioned,
  drawing: Drawing,
  vars: Variables,
  x: ArrayLike<number>,
): number {
  const ctx = { drawing, vars, scope: new Scope(vars), now: x }
  return dimensionMeasure(d, ctx)(x).v
}

/** The dimension as a function; directed ones are counted in the direction they have now. */
function dimensionMeasure(d: Dimensioned, ctx: Ctx): (x: ArrayLike<number>) => Dual {
  const [e, f] = d.entities.map((id) => entityOf(ctx.drawing, id))
  const [p, q] = d.points.map((id) => ctx.scope.point(id))
  const pair = (): ((x: ArrayLike<number>) => D2) => {
    if (p && q) return (x) => sub2(q(x), p(x))
    const line = lineReader(ctx, straight(e, d))
    return (x) => along(line(x))
  }
  switch (d.kind) {
    case 'distance': {
      const v = pair()
      return (x) => norm2(v(x))
    }
    case 'level':
    case 'upright': {
      const v = pair()
      const k = d.kind === 'level' ? 0 : 1
      return directed(ctx, (x) => v(x)[k])
    }
    case 'offset': {
      const line = lineReader(ctx, straight(e, d))
      return directed(ctx, (x) => fromLine(p!(x), line(x)))
    }
    case 'across': {
      const axis = entityOf(ctx.drawing, AXIS)
      const line = lineReader(ctx, axis as Straight)
      return directed(ctx, (x) => times(fromLine(p!(x), line(x)), 2))
    }
    case 'radius':
    case 'diameter': {
      if (!isRound(e)) throw new Unfit(`A ${d.kind} needs an arc or a circle.`)
      const round = roundReader(ctx, e)
      return (x) => times(round(x).r, d.kind === 'radius' ? 1 : 2)
    }
    case 'angle': {
      const [l, m] = [straight(e, d), straight(f, d)]
      const [u, v] = [outward(ctx, l, m), outward(ctx, m, l)]
      return directed(ctx, (x) => atan2(cross2(u(x), v(x)), dot2(u(x), v(x))))
    }
    case 'arclength': {
      if (e?.kind !== 'arc') throw new Unfit('A length along needs an arc.')
      const round = roundReader(ctx, e)
      const [a, b, m] = [ctx.scope.point(e.a), ctx.scope.point(e.b), ctx.scope.point(e.via)]
      // Twice the angle from end to middle, since the middle point lies half-way: safe past a half turn.
      return (x) => {
        const { c, r } = round(x)
        const [u, v, w] = [sub2(a(x), c), sub2(m(x), c), sub2(b(x), c)]
        const first = atan2(cross2(u, v), dot2(u, v))
        const second = atan2(cross2(v, w), dot2(v, w))
        const sweep = add(first, second)
        return mul(r, times(sweep, signAt(sweep)))
      }
    }
  }
}

/** Away from the corner two lines share; from a to b where they share none. */
function outward(ctx: Ctx, l: Straight, other: Straight): (x: ArrayLike<number>) => D2 {
  const flip = sharedEnd(l, other) === l.b
  const line = lineReader(ctx, l)
  return (x) => {
    const { a, b } = line(x)
    return flip ? sub2(a, b) : sub2(b, a)
  }
}

function directed(ctx: Ctx, f: (x: ArrayLike<number>) => Dual): (x: ArrayLike<number>) => Dual {
  // The sign is that of the drawing as it stands, not of a step on the way.
  let sign = 0
  return (x) => {
    sign ||= signAt(f(ctx.now))
    return times(f(x), sign)
  }
}

/** What an arc is by itself: its middle point lies half-way between its ends. */
export function arcEquations(drawing: Drawing, vars: Variables): Equation[] {
  return drawing.entities.flatMap((e) => {
    if (e.kind !== 'arc' || vars.points[e.via]!.some((i) => i < 0)) return []
    const ctx = { drawing, vars, scope: new Scope(vars), now: vars.x }
    const [a, m, b] = [ctx.scope.point(e.a), ctx.scope.point(e.via), ctx.scope.point(e.b)]
    return equations('', ctx, (x) => {
      const [pa, pm, pb] = [a(x), m(x), b(x)]
      const chord = sub2(pb, pa)
      const mid: D2 = [times(add(pa[0], pb[0]), 0.5), times(add(pa[1], pb[1]), 0.5)]
      return [over(dot2(sub2(pm, mid), chord), hypot(chord[0], chord[1]))]
    })
  })
}

/** One equation for each value a function gives; all share the relation's variables. */
function equations(of: string, ctx: Ctx, values: Values): Equation[] {
  const count = values(ctx.now).length
  const { vars } = ctx.scope
  return Array.from({ length: count }, (_, k) => ({ of, vars, value: (x) => values(x)[k]! }))
}
