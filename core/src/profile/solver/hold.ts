import { arcThrough, pointAt } from '../../curve'
import type { Drawing } from '../drawing'
import { conflictOf } from './conflict'
import { arcEquations, dimensionEquations, measured, relationEquations } from './equations'
import { flipped } from './flips'
import { linearise, RESIDUAL, solveLeast } from './least'
import { ORIGIN } from './names'
import { analyseRank, travelOf } from './rank'
import { Unfit } from './readers'
import type { Dimensioned, Relation } from './schema'
import { type Equation, placed, type Variables, variablesOf } from './system'

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

export interface Travel {
  point: string
  /** 1: only along `direction`; 2: any way. */
  ways: 1 | 2
  direction: [number, number] | null
}
export interface HoldState {
  /** Numbers that can still be chosen freely. */
  freedoms: number
  travels: Travel[]
  /** Circles whose radius is free. */
  looseRadii: string[]
  /** Relations and dimensions that say nothing new, with those they follow from. */
  redundant: { id: string; from: string[] }[]
  /** The smallest set that cannot hold together; empty when all hold. */
  conflict: string[]
  /** Relations that do not fit what they name. */
  unfit: { id: string; message: string }[]
  /** What each dimension measures, mm or rad. */
  measures: Record<string, number>
}
export interface Held {
  points: Record<string, [number, number]>
  radii: Record<string, number>
  state: HoldState
}

const EMPTY: HoldState = {
  freedoms: 0,
  travels: [],
  looseRadii: [],
  redundant: [],
  conflict: [],
  unfit: [],
  measures: {},
}

/** Residuals up to this count as met, mm: the solver stops well below. */
const MET = 100 * RESIDUAL

/**
 * Moves the drawing as little as it takes for all its relations and driving dimensions to hold, on the
 * branch it is on. Where they cannot hold together the drawing stays and the culprits are named.
 */
export function hold(loose: Loose): Held {
  const vars = variablesOf(loose)
  centreArcs(loose.drawing, vars)
  const unfit: HoldState['unfit'] = []
  const eqs = equationsOf(loose, vars, loose.targets, unfit)
  const x = settle(loose, vars, eqs)
  if (!x) {
    const conflict = conflictOf(eqs, vars.x, reachOf(vars))
    const state = { ...EMPTY, conflict, unfit, measures: measuresOf(loose, vars, vars.x) }
    return { ...placed(vars, vars.x), state }
  }
  return { ...placed(vars, x), state: stateOf(loose, vars, eqs, x, unfit) }
}

/**
 * The drawing with some points taken to other places as far as the relations let them; null when the
 * relations cannot be met from there.
 */
export function dragTo(
  loose: Loose,
  moves: Readonly<Record<string, P2>>,
): Pick<Held, 'points' | 'radii'> | null {
  const vars = variablesOf(loose)
  const eqs = equationsOf(loose, vars, loose.targets, [])
  const start = Float64Array.from(vars.x)
  const mobility = new Float64Array(start.length).fill(1)
  for (const [id, to] of Object.entries(moves)) {
    for (const k of [0, 1] as const) {
      const i = vars.points[id]?.[k] ?? -1
      if (i < 0) continue
      start[i] = to[k]
      // What is held by the pointer gives way last.
      mobility[i] = 1e-7
    }
  }
  const reach = reachOf(vars)
  const first = solveLeast(eqs, start, { mobility, reach })
  const solved = first.residual <= MET ? first : solveLeast(eqs, start, { reach })
  if (solved.residual > MET) return null
  return flipped(loose.drawing, vars, vars.x, solved.x) ? null : placed(vars, solved.x)
}

/** Whether a dimension can be given a value: yes, or the culprits and the nearest value that can. */
export function tryValue(
  loose: Loose,
  dimension: string,
  value: number,
): { ok: true } | { ok: false; conflict: string[]; nearest: number | null } {
  const at = (v: number): Loose => ({ ...loose, targets: { ...loose.targets, [dimension]: v } })
  const whole = hold(at(value))
  if (whole.state.conflict.length === 0) return { ok: true }
  const now = whole.state.measures[dimension] ?? value
  const holds = (v: number) => canHold(at(v))
  const conflict = whole.state.conflict
  if (!holds(now)) return { ok: false, conflict, nearest: null }
  let [good, bad] = [now, value]
  for (let i = 0; i < 24; i++) {
    const mid = (good + bad) / 2
    if (holds(mid)) good = mid
    else bad = mid
  }
  return { ok: false, conflict, nearest: good }
}

/** Whether everything holds together, without a word on what does not. */
function canHold(loose: Loose): boolean {
  const vars = variablesOf(loose)
  centreArcs(loose.drawing, vars)
  return settle(loose, vars, equationsOf(loose, vars, loose.targets, [])) !== null
}

/** All equations of the drawing, relation by relation; those that do not fit are left out and told. */
function equationsOf(
  { drawing }: Loose,
  vars: Variables,
  targets: Loose['targets'],
  unfit: HoldState['unfit'],
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

/** Steps in which dimensions are brought to their targets when going there at once leaves the branch. */
const STEPS = [1, 4, 16]

function settle(loose: Loose, vars: Variables, eqs: Equation[]): Float64Array | null {
  const reach = reachOf(vars)
  for (const steps of STEPS) {
    const solved = inSteps(loose, vars, eqs, steps, reach)
    if (solved && !flipped(loose.drawing, vars, vars.x, solved)) return solved
  }
  return null
}

/** Solves for targets that go from what is measured to what is asked in so many steps. */
function inSteps(
  loose: Loose,
  vars: Variables,
  eqs: Equation[],
  steps: number,
  reach: number,
): Float64Array | null {
  const from = steps > 1 ? measuresOf(loose, vars, vars.x) : {}
  let x = vars.x
  for (let k = 1; k <= steps; k++) {
    const share = k / steps
    const onTheWay = () =>
      Object.fromEntries(
        Object.entries(loose.targets).map(([id, t]) => [
          id,
          (from[id] ?? t) * (1 - share) + t * share,
        ]),
      )
    const solved = solveLeast(k === steps ? eqs : equationsOf(loose, vars, onTheWay(), []), x, {
      reach,
    })
    if (solved.residual > MET) return null
    x = solved.x
  }
  return x
}

/** Longest single step, mm: a share of the drawing's size. */
function reachOf(vars: Variables): number {
  const all = Object.values(vars.at)
  const span = (k: 0 | 1) => {
    const v = all.map((p) => p[k])
    return Math.max(...v) - Math.min(...v)
  }
  return Math.max(1, 0.25 * Math.hypot(span(0), span(1)))
}

function measuresOf({ drawing }: Loose, vars: Variables, x: ArrayLike<number>) {
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

function stateOf(
  loose: Loose,
  vars: Variables,
  eqs: Equation[],
  x: Float64Array,
  unfit: HoldState['unfit'],
): HoldState {
  const { rank, dependent, free } = analyseRank(linearise(eqs, x), x.length)
  const redundant = new Map<string, Set<string>>()
  for (const { row, from } of dependent) {
    const id = eqs[row]!.of
    if (!id) continue
    const others = redundant.get(id) ?? new Set<string>()
    for (const k of from) if (eqs[k]!.of && eqs[k]!.of !== id) others.add(eqs[k]!.of)
    redundant.set(id, others)
  }
  const travels = Object.entries(vars.points).flatMap(([point, at]): Travel[] => {
    if (point.startsWith(ORIGIN)) return []
    const { ways, direction } = travelOf(free, at)
    return ways === 0 ? [] : [{ point, ways, direction }]
  })
  return {
    freedoms: x.length - rank,
    travels,
    looseRadii: Object.keys(vars.radii).filter(
      (id) => vars.radii[id]! >= 0 && travelOf(free, [vars.radii[id]!, -1]).ways > 0,
    ),
    redundant: [...redundant].map(([id, from]) => ({ id, from: [...from] })),
    conflict: [],
    unfit,
    measures: measuresOf(loose, vars, x),
  }
}

/** Puts the middle point of each arc half-way along it: the same arc, without a freedom of its own. */
function centreArcs(drawing: Drawing, vars: Variables) {
  for (const e of drawing.entities) {
    if (e.kind !== 'arc') continue
    const slot = vars.points[e.via]!
    if (slot.some((i) => i < 0)) continue
    const [a, m, b] = [e.a, e.via, e.b].map((id) => vars.at[id]!) as [P2, P2, P2]
    const curve = arcThrough(a, m, b)
    if (curve.kind !== 'arc') continue
    const middle = pointAt(curve, 0.5)
    vars.x[slot[0]] = middle[0]
    vars.x[slot[1]] = middle[1]
  }
}
