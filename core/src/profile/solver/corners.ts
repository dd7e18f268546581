import { type Drawing, type Entity, endsOf } from '../drawing'
import { add, add2, type D2, mul, norm2, over, plus, sub2, times } from './dual'
import { isStraight, type PointReader } from './readers'
import type { Follows, Scope, Variables } from './system'

type P2 = readonly [number, number]

/** An arc that touches the line at each of its ends, and so rounds the corner the two make. */
interface Rounding {
  arc: string
  a: string
  via: string
  b: string
  /** The far ends of the lines at a and at b. */
  far: readonly [string, string]
  /** The two relations. */
  held: readonly [string, string]
}

/**
 * The unknowns of a drawing in which every arc that rounds a corner is told by that corner and by how far
 * from it the arc begins: three numbers, in place of six that three equations bind. From far off the six
 * mostly lead nowhere. With them the relations that hold by themselves then; null where no arc is such.
 */
export function corneredOf(
  drawing: Drawing,
  vars: Variables,
): { vars: Variables; held: ReadonlySet<string> } | null {
  const rounds = roundingsOf(drawing, vars)
  if (rounds.length === 0) return null
  const told = new Set(rounds.flatMap((c) => [c.a, c.via, c.b]))
  const x: number[] = []
  const carry = (i: number): number => (i < 0 ? -1 : x.push(vars.x[i]!) - 1)
  const each = <T, U>(of: Record<string, T>, to: (v: T, id: string) => U): Record<string, U> =>
    Object.fromEntries(Object.entries(of).map(([id, v]) => [id, to(v, id)]))
  const points = each(vars.points, ([i, j], id) =>
    told.has(id) ? ([-1, -1] as const) : ([carry(i), carry(j)] as const),
  )
  const radii = each(vars.radii, carry)
  const runs = each(vars.runs, (r) => ({ ...r, run: carry(r.run) }))

  const first = rounds.map((c) => x.push(...asDrawn(c, vars)) - 3)
  const corner = (scope: Scope, k: number): PointReader => {
    const [i, j] = [scope.unknown(first[k]!), scope.unknown(first[k]! + 1)]
    return (x) => [i(x), j(x)]
  }
  /** Reads a corner, its cut and the ways u and v from it along both lines. */
  const cornerReader = (scope: Scope, k: number) => {
    const [at, cut] = [corner(scope, k), scope.unknown(first[k]! + 2)]
    const [p, q] = rounds[k]!.far.map((id) => {
      const next = rounds.findIndex((c) => c.a === id || c.b === id)
      return next < 0 ? scope.point(id) : corner(scope, next)
    })
    return (x: ArrayLike<number>) => {
      const c = at(x)
      return { c, cut: cut(x), u: unit(sub2(p!(x), c)), v: unit(sub2(q!(x), c)) }
    }
  }
  const follows: Follows = { points: {}, radii: {} }
  for (const [k, c] of rounds.entries()) {
    const point = (way: (u: D2, v: D2) => D2) => (scope: Scope) => {
      const read = cornerReader(scope, k)
      return (x: ArrayLike<number>): D2 => {
        const { c, cut, u, v } = read(x)
        const w = way(u, v)
        return [add(c[0], mul(cut, w[0])), add(c[1], mul(cut, w[1]))]
      }
    }
    follows.points[c.a] = point((u) => u)
    follows.points[c.b] = point((_, v) => v)
    // Half-way along the arc.
    follows.points[c.via] = point((u, v) => {
      const by = plus(times(norm2(sub2(u, v)), 0.5), 1)
      return [over(times(add2(u, v)[0], 0.5), by), over(times(add2(u, v)[1], 0.5), by)]
    })
    follows.radii[c.arc] = (scope) => {
      const read = cornerReader(scope, k)
      return (x) => {
        const { cut, u, v } = read(x)
        return { rise: mul(cut, norm2(sub2(u, v))), run: norm2(add2(u, v)) }
      }
    }
  }
  return {
    vars: { ...vars, x: Float64Array.from(x), points, radii, runs, follows },
    held: new Set(rounds.flatMap((c) => c.held)),
  }
}

const unit = (u: D2): D2 => {
  const n = norm2(u)
  return [over(u[0], n), over(u[1], n)]
}

function roundingsOf(drawing: Drawing, vars: Variables): Rounding[] {
  const out: Rounding[] = []
  const taken = new Set<string>()
  const entity = (id: string) => drawing.entities.find((e) => e.id === id)
  for (const e of drawing.entities) {
    if (e.kind !== 'arc') continue
    const own = [e.a, e.via, e.b]
    if (own.some((p) => taken.has(p) || vars.points[p]!.some((i) => i < 0))) continue
    const [s, t] = [e.a, e.b].map((end) => {
      for (const r of drawing.relations ?? []) {
        if (r.kind !== 'tangent' || !r.entities.includes(e.id)) continue
        const line = entity(r.entities.find((id) => id !== e.id) ?? '')
        if (isStraight(line) && endsOf(line)!.includes(end)) return { line, end, id: r.id }
      }
      return null
    })
    if (!s || !t || s.line === t.line) continue
    for (const p of own) taken.add(p)
    out.push({
      arc: e.id,
      a: e.a,
      via: e.via,
      b: e.b,
      far: [other(s), other(t)],
      held: [s.id, t.id],
    })
  }
  return out
}

const other = ({ line, end }: { line: Extract<Entity, { kind: 'line' | 'axis' }>; end: string }) =>
  line.a === end ? line.b : line.a

/** Corner and cut about as drawn: where the lines meet, or, where they hardly do, beyond the arc's middle. */
function asDrawn(c: Rounding, { at }: Variables): [number, number, number] {
  const [a, m, b, p, q] = [c.a, c.via, c.b, ...c.far].map((id) => at[id]!) as [P2, P2, P2, P2, P2]
  const [ux, uy, vx, vy] = [a[0] - p[0], a[1] - p[1], b[0] - q[0], b[1] - q[1]]
  const sine = ux * vy - uy * vx
  const size = Math.hypot(b[0] - a[0], b[1] - a[1])
  const along = ((b[0] - a[0]) * vy - (b[1] - a[1]) * vx) / sine
  const meet: P2 = [a[0] + along * ux, a[1] + along * uy]
  const bulge: P2 = [2 * m[0] - (a[0] + b[0]) / 2, 2 * m[1] - (a[1] + b[1]) / 2]
  const near = Math.hypot(meet[0] - m[0], meet[1] - m[1]) < 2 * size
  const corner = near ? meet : bulge
  return [...corner, (dist(corner, a) + dist(corner, b)) / 2]
}
const dist = (p: P2, q: P2) => Math.hypot(p[0] - q[0], p[1] - q[1])
