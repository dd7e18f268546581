import { arcThrough, pointAt } from '../../curve'
import type { Drawing } from '../drawing'
import { conflictOf } from './conflict'
import { flipped } from './flips'
import { linearise, MET, solveLeast } from './least'
import { equationsOf, isFar, type Loose, measuresOf, reachOf } from './loose'
import { ORIGIN } from './names'
import { analyseRank, travelOf } from './rank'
import { settle } from './settle'
import { type Equation, placed, type Variables, variablesOf } from './system'

type P2 = readonly [number, number]

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
  /** No way was found from the drawing as it stands to one that holds, though nothing shows a conflict. */
  unreached: boolean
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
  unreached: false,
  unfit: [],
  measures: {},
}

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
    const anew = isFar(loose, eqs, vars)
      ? (x: Float64Array) => equationsOf(loose, { ...vars, x }, loose.targets, [])
      : null
    const conflict = conflictOf(eqs, vars.x, reachOf(vars), anew)
    const state = {
      ...EMPTY,
      conflict,
      unreached: conflict.length === 0,
      unfit,
      measures: measuresOf(loose, vars, vars.x),
    }
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
  if (whole.state.conflict.length === 0 && !whole.state.unreached) return { ok: true }
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
  const eqs = equationsOf(loose, vars, loose.targets, [])
  return settle(loose, vars, eqs, 'brief') !== null
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
    unreached: false,
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
