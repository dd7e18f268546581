import type { Drawing } from '../drawing'
import { arcEquations, dimensionEquations, measured, relationEquations } from './equations'
import { Unfit } from './readers'
import type { Dimensioned, Relation } from './schema'
import type { Equation, Variables } from './system'

type P2 = readonly [number, number]

/** A drawing with every expression worked out: what the solver starts from. */
export interface Loose {
  drawing: Drawing
  /** mm. */
  points: Readonly<Record<string, P2>>
  radii: Readonly<Record<string, number>>
  /** Targets of the dimensions, mm or rad. */
  targets: Readonly<Record<string, number>>
  /** Points that are where something outside the drawing puts them. */
  given?: ReadonlySet<string>
}

/** Relations that do not fit what they name. */
export type Unfits = { id: string; message: string }[]

/** All equations of the drawing, relation by relation; those that do not fit are left out and told. */
export function equationsOf(
  { drawing }: Loose,
  vars: Variables,
  targets: Loose['targets'],
  unfit: Unfits,
): Equation[] {
  const out = arcEquations(drawing, vars)
  const take = (of: Relation | Dimensioned, make: () => Equation[]) => {
    try {
      out.push(...make())
    } catch (e) {
      if (!(e instanceof Unfit)) throw e
      unfit.push({ id: of.id, message: e.message })
    }
  }
  for (const r of drawing.relations ?? []) {
    if (followsCurve(drawing, r)) continue
    take(r, () => relationEquations(r, drawing, vars, vars.x))
  }
  for (const d of drawing.dimensions ?? []) {
    const target = targets[d.id]
    if (d.read || target === undefined) continue
    take(d, () => dimensionEquations(d, target, drawing, vars, vars.x))
  }
  return out
}

/** Tangency at the end of a curve through points is kept by the curve's handle, not by moving points. */
export const followsCurve = (drawing: Drawing, r: Relation): boolean =>
  (r.kind === 'tangent' || r.kind === 'smooth') &&
  r.entities.some((id) => drawing.entities.find((e) => e.id === id)?.kind === 'fit')

/** Whether relations themselves do not hold in the drawn state: then the sides it shows mean little. */
export function isFar(loose: Loose, eqs: readonly Equation[], vars: Variables): boolean {
  const relations = new Set((loose.drawing.relations ?? []).map((r) => r.id))
  return eqs.some((e) => relations.has(e.of) && Math.abs(e.value(vars.x).v) > FAR)
}
/** Off by more than this a relation counts as not holding, mm. */
const FAR = 1e-3

/** Longest single step, mm: a share of the drawing's size. */
export function reachOf(vars: Variables): number {
  const all = Object.values(vars.at)
  const span = (k: 0 | 1) => {
    const v = all.map((p) => p[k])
    return Math.max(...v) - Math.min(...v)
  }
  return Math.max(1, 0.25 * Math.hypot(span(0), span(1)))
}

export function measuresOf({ drawing }: Loose, vars: Variables, x: ArrayLike<number>) {
  const out: Record<string, number> = {}
  for (const d of drawing.dimensions ?? []) {
    try {
      out[d.id] = measured(d, drawing, vars, x)
    } catch (e) {
      if (!(e instanceof Unfit)) throw e
    }
  }
  return out
}
