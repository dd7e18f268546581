import { type Drawing, type Entity, endsOf } from '../drawing'
import {
  add,
  atan2,
  constant,
  cross2,
  type D2,
  type Dual,
  div,
  dot2,
  hypot,
  mul,
  norm2,
  plus,
  sub,
  sub2,
  times,
} from './dual'
import { AXIS } from './names'
import type { Dimensioned, Relation } from './schema'
import { type Equation, entityOf, Scope, type Variables } from './system'

/** A turn of one radian weighs as much as this many millimetres. */
const ARM = 10

type Straight = Extract<Entity, { kind: 'line' | 'axis' }>
type Round = Extract<Entity, { kind: 'arc' | 'circle' }>
const isStraight = (e: Entity | undefined): e is Straight =>
  e?.kind === 'line' || e?.kind === 'axis'
const isRound = (e: Entity | undefined): e is Round => e?.kind === 'arc' || e?.kind === 'circle'

/** The axis a drawing is turned about: a drawn one, or the upright through the origin. */
type AxisReader = (x: ArrayLike<number>) => { a: D2; b: D2 }

interface Ctx {
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

const lineReader = ({ scope }: Ctx, e: Straight): AxisReader => {
  const [a, b] = [scope.point(e.a), scope.point(e.b)]
  return (x) => ({ a: a(x), b: b(x) })
}

/** Centre and radius of an arc by its three points, or of a circle. */
function roundReader({ scope }: Ctx, e: Round): (x: ArrayLike<number>) => { c: D2; r: Dual } {
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
const fromLine = (p: D2, { a, b }: { a: D2; b: D2 }): Dual => {
  const u = sub2(b, a)
  return div(cross2(u, sub2(p, a)), norm2(u))
}
const sine = (u: D2, v: D2): Dual =>
  times(div(cross2(u, v), plus(mul(norm2(u), norm2(v)), 1e-300)), ARM)
const cosine = (u: D2, v: D2): Dual =>
  times(div(dot2(u, v), plus(mul(norm2(u), norm2(v)), 1e-300)), ARM)
const signAt = (d: Dual): 1 | -1 => (d.v < 0 ? -1 : 1)

type Values = (x: ArrayLike<number>) => Dual[]

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

type PointReader = (x: ArrayLike<number>) => D2

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
        return [fromLine(mid, { a, b }), div(dot2(u, sub2(t, s)), norm2(u))]
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
      throw new Unfit('Equal curvature is held where a curve through points meets another piece.')
  }
}

function straight(e: Entity | undefined, r: { kind: string }): Straight {
  if (isStraight(e)) return e
  throw new Unfit(`"${r.kind}" needs a straight line${e ? `; ${e.id} is none` : ''}.`)
}
const along = ({ a, b }: { a: D2; b: D2 }): D2 => sub2(b, a)

/** Tangency: at a shared end by direction, else by distance, kept on the side it is now. */
function tangentValues(ctx: Ctx, e: Entity | undefined, f: Entity | undefined): Values {
  const pair = [e, f]
  const line = pair.find(isStraight)
  const rounds = pair.filter(isRound)
  const shared = e && f ? sharedEnd(e, f) : undefined
  if (line && rounds.length === 1) {
    const [l, c] = [lineReader(ctx, line), roundReader(ctx, rounds[0]!)]
    if (shared) {
      const at = ctx.scope.point(shared)
      return (x) => [cosine(sub2(c(x).c, at(x)), along(l(x)))]
    }
    let side = 0
    return (x) => {
      const { c: centre, r } = c(x)
      const d = fromLine(centre, l(x))
      side ||= signAt(d)
      return [sub(times(d, side), r)]
    }
  }
  if (rounds.length === 2) {
    const [l, m] = rounds.map((r) => roundReader(ctx, r)) as [
      ReturnType<typeof roundReader>,
      ReturnType<typeof roundReader>,
    ]
    if (shared) {
      const at = ctx.scope.point(shared)
      return (x) => [sine(sub2(l(x).c, at(x)), sub2(m(x).c, at(x)))]
    }
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

/** A point at which both pieces end. */
export function sharedEnd(e: Entity, f: Entity): string | undefined {
  const [a, b] = [endsOf(e), endsOf(f)]
  return a?.find((p) => b?.includes(p))
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
  const measure = dimensionMeasure(d, ctx)
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
      return [div(dot2(sub2(pm, mid), chord), hypot(chord[0], chord[1]))]
    })
  })
}

/** One equation for each value a function gives; all share the relation's variables. */
function equations(of: string, ctx: Ctx, values: Values): Equation[] {
  const count = values(ctx.now).length
  const { vars } = ctx.scope
  return Array.from({ length: count }, (_, k) => ({ of, vars, value: (x) => values(x)[k]! }))
}
