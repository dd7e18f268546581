import type { Drawing, Entity } from '../drawing'
import { constant, type D2, type Dual } from './dual'
import { AXIS, ORIGIN } from './names'
import { runAlong } from './runs'

/** The unknowns of a drawing: coordinates and radii that are plain numbers. */
export interface Variables {
  /** Start values; the solver works on a copy. */
  x: Float64Array
  /** Index of each point's coordinates in `x`, or -1 where a figure drives it. */
  points: Record<string, readonly [number, number]>
  /** Index of each circle's radius, or -1. */
  radii: Record<string, number>
  /** Index of the place along a spline at which a relation holds a point, and the spline's length, mm. */
  runs: Record<string, { run: number; length: number }>
  /** What follows from other unknowns. */
  follows?: Follows
  /** All coordinates and radii as they are at the start. */
  at: Readonly<Record<string, readonly [number, number]>>
  r: Readonly<Record<string, number>>
}

/** Points, and radii of arcs as rise over run, that follow from unknowns which are no coordinates of theirs. */
export interface Follows {
  points: Record<string, (scope: Scope) => (x: ArrayLike<number>) => D2>
  radii: Record<string, (scope: Scope) => (x: ArrayLike<number>) => { rise: Dual; run: Dual }>
}

/** One scalar equation: its value is to become 0. Lengths in mm; directions are scaled to mm. */
export interface Equation {
  /** Id of the relation or dimension it is part of; empty for what an arc is by itself. */
  of: string
  vars: number[]
  value(x: ArrayLike<number>): Dual
}

/** Collects the unknowns. `read` turns a value into mm. */
export function variablesOf({
  drawing,
  points: at,
  radii,
  given,
}: {
  drawing: Drawing
  points: Readonly<Record<string, readonly [number, number]>>
  radii: Readonly<Record<string, number>>
  given?: ReadonlySet<string> | undefined
}): Variables {
  const x: number[] = []
  const points: Variables['points'] = { [ORIGIN]: [-1, -1], [ABOVE]: [-1, -1] }
  for (const [id, p] of Object.entries(drawing.points)) {
    const index = (v: unknown, k: 0 | 1) =>
      typeof v === 'number' && !given?.has(id) ? x.push(at[id]![k]) - 1 : -1
    points[id] = [index(p.x, 0), index(p.y, 1)]
  }
  const r: Record<string, number> = {}
  for (const e of drawing.entities)
    if (e.kind === 'circle')
      r[e.id] = typeof e.radius === 'number' && !e.source ? x.push(radii[e.id]!) - 1 : -1
  const runs: Variables['runs'] = {}
  for (const rel of drawing.relations ?? []) {
    const e = drawing.entities.find((o) => o.id === rel.entities[0])
    const p = at[rel.points[0] ?? '']
    if (rel.kind !== 'on' || e?.kind !== 'poles' || !p) continue
    const { run, length } = runAlong(
      e,
      e.points.map((id) => at[id]!),
      p,
    )
    runs[rel.id] = { run: x.push(run) - 1, length }
  }
  const places = { ...at, [ORIGIN]: [0, 0] as const, [ABOVE]: [0, 1] as const }
  return { x: Float64Array.from(x), points, radii: r, runs, at: places, r: radii }
}

/** Reads points and radii of a relation as duals over the relation's own variables. */
export class Scope {
  readonly #vars: Variables
  readonly vars: number[] = []

  constructor(vars: Variables) {
    this.#vars = vars
  }
  /** Takes the variables of a point in; gives the reader of the point. */
  point(id: string): (x: ArrayLike<number>) => D2 {
    const made = this.#vars.follows?.points[id]
    if (made) return made(this)
    const fixed = this.#vars.at[id]!
    const [i, j] = this.#vars.points[id]!
    const [a, b] = [this.#slot(i), this.#slot(j)]
    return (x) => [this.#dual(x, i, a, fixed[0]), this.#dual(x, j, b, fixed[1])]
  }
  radius(id: string): (x: ArrayLike<number>) => Dual {
    const i = this.#vars.radii[id]!
    const a = this.#slot(i)
    return (x) => this.#dual(x, i, a, this.#vars.r[id]!)
  }
  /** An unknown that is no coordinate, by its index. */
  unknown(i: number): (x: ArrayLike<number>) => Dual {
    const a = this.#slot(i)
    return (x) => this.#dual(x, i, a, 0)
  }
  number(v: number): Dual {
    return constant(v, this.vars.length)
  }
  #slot(i: number): number {
    if (i < 0) return -1
    const known = this.vars.indexOf(i)
    return known >= 0 ? known : this.vars.push(i) - 1
  }
  #dual(x: ArrayLike<number>, i: number, slot: number, fixed: number): Dual {
    const d = constant(i < 0 ? fixed : x[i]!, this.vars.length)
    if (slot >= 0) d.g[slot] = 1
    return d
  }
}

/** A second place on the standing axis of a drawing that has none of its own. */
const ABOVE = 'origin-above'

/** An entity by its id; `axis` is the drawn axis, or the upright through the origin. */
export const entityOf = (drawing: Drawing, id: string): Entity | undefined =>
  drawing.entities.find((e) => e.id === id) ??
  (id === AXIS
    ? (drawing.entities.find((e) => e.kind === 'axis') ?? {
        id: AXIS,
        kind: 'axis',
        a: ORIGIN,
        b: ABOVE,
      })
    : undefined)

/** Where points and radii are for given unknowns. */
export function placed(
  vars: Variables,
  x: ArrayLike<number>,
): { points: Record<string, [number, number]>; radii: Record<string, number> } {
  const points: Record<string, [number, number]> = {}
  for (const [id, [i, j]] of Object.entries(vars.points)) {
    if (id === ORIGIN || id === ABOVE) continue
    if (vars.follows?.points[id]) {
      const [px, py] = new Scope(vars).point(id)(x)
      points[id] = [px.v, py.v]
      continue
    }
    const [px, py] = vars.at[id]!
    points[id] = [i < 0 ? px : x[i]!, j < 0 ? py : x[j]!]
  }
  const radii: Record<string, number> = {}
  for (const [id, i] of Object.entries(vars.radii)) radii[id] = i < 0 ? vars.r[id]! : x[i]!
  return { points, radii }
}

/** The unknowns of `vars` for points and radii so placed; places along splines as `from` has them at `x`. */
export function unknownsOf(
  vars: Variables,
  { points, radii }: ReturnType<typeof placed>,
  from: Variables,
  x: ArrayLike<number>,
): Float64Array {
  const out = Float64Array.from(vars.x)
  for (const [id, at] of Object.entries(points))
    for (const k of [0, 1] as const) if (vars.points[id]![k] >= 0) out[vars.points[id]![k]] = at[k]
  for (const [id, i] of Object.entries(vars.radii)) if (i >= 0) out[i] = radii[id]!
  for (const [id, { run }] of Object.entries(vars.runs)) out[run] = x[from.runs[id]!.run]!
  return out
}
