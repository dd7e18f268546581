import { bad, type Diagnosis, good, type Outcome } from '../math'
import {
  type Axis,
  type Body,
  type ExactPart,
  type OpContext,
  type OpResult,
  opSpec,
  type Plane,
  type Point,
  type Profile,
  START,
  type State,
  WaitsForKernel,
} from '../ops'
import {
  ExpressionError,
  type FigureTable,
  type Op,
  sayIssue,
  shownRoute,
  type Workpiece,
  workOut,
} from '../workpiece'

export type OpStatus = 'ok' | 'warn' | 'fail' | 'skipped'

/** What became of one op. */
export interface OpReport {
  id: string
  number: number
  kind: string
  status: OpStatus
  /** Milliseconds spent; 0 when the kept result served. */
  ms: number
  reused: boolean
  consequence: string
  diagnoses: Diagnosis[]
}
export interface Rebuilt {
  state: State
  /** The state before each op, by op id: what the op had to work with. */
  before: Record<string, State>
  reports: OpReport[]
  figures: FigureTable
  /** Kept files the exact kernel has to read before the route can go on. */
  waits: string[]
}

/** Something an op read, and what it then was. */
type Read =
  | { from: 'figure'; name: string; value: number }
  | { from: keyof State; name: string; key: string | undefined }
interface Kept {
  inputs: string
  version: number
  reads: Read[]
  outcome: { ok: true; value: OpResult } | { ok: false; diagnosis: Diagnosis }
  key: string
}

/** Results of ops, kept from run to run. One for each workpiece that is open. */
export class RebuildCache {
  #kept = new Map<string, Kept>()
  #serial = 0
  /** Solids read from kept files, by file id. An id says what is in the file, so none grows old. */
  readonly solids = new Map<string, Outcome<ExactPart>>()

  get(op: string): Kept | undefined {
    return this.#kept.get(op)
  }
  keep(op: string, kept: Omit<Kept, 'key'>): Kept {
    const full = { ...kept, key: `${op}#${++this.#serial}` }
    this.#kept.set(op, full)
    return full
  }
}

/** Runs the route op by op; yields each report as it is made, so a host may stream or stop. */
export function* rebuildSteps(w: Workpiece, cache: RebuildCache): Generator<OpReport, Rebuilt> {
  const figures = workOut(w.figures, w.unit)
  const reports: OpReport[] = []
  const before: Record<string, State> = {}
  const waits: string[] = []
  const solid = solidsOf(w, cache)
  let state = START
  for (const op of shownRoute(w)) {
    before[op.id] = state
    if (op.suppressed) {
      const report = reportOf(op, 'skipped', 0, false, 'left out', [])
      reports.push(report)
      yield report
      continue
    }
    const start = performance.now()
    const run = runOp(op, { state, figures, solid }, cache)
    if ('waits' in run) {
      waits.push(run.waits)
      const report = reportOf(op, 'skipped', 0, false, 'the exact kernel is reading the file', [])
      reports.push(report)
      yield report
      continue
    }
    const { kept, reused } = run
    const ms = reused ? 0 : performance.now() - start
    let report: OpReport
    if (kept.outcome.ok) {
      const { warnings, consequence, failed } = kept.outcome.value
      state = applied(state, kept.outcome.value, kept.key, w)
      const status = failed ? 'fail' : warnings.length > 0 ? 'warn' : 'ok'
      report = reportOf(op, status, ms, reused, consequence, warnings)
    } else {
      const cause = causeOf(kept.reads, w, reports)
      report = reportOf(op, 'fail', ms, reused, '', [cause ?? kept.outcome.diagnosis])
    }
    reports.push(report)
    yield report
  }
  return { state, before, reports, figures, waits }
}

/** An op that lacks what an earlier one did not make fails for that one's sake; null where it does not. */
function causeOf(
  reads: readonly Read[],
  w: Workpiece,
  reports: readonly OpReport[],
): Diagnosis | null {
  for (const r of reads) {
    if (r.from === 'figure' || r.key !== undefined) continue
    const culprit = reports.find((x) => x.id === r.name)
    const named = w.route.find((o) => o.id === r.name)
    if (!culprit || !named || culprit.status === 'ok' || culprit.status === 'warn') continue
    const why =
      culprit.status === 'fail' ? 'fails' : named.suppressed ? 'is left out' : 'is not read yet'
    return {
      code: 'waits',
      message: `It waits for ${named.number} ${named.name}, which ${why}.`,
      places: [],
      fixes: [],
    }
  }
  return null
}

/** Runs the whole route at once. */
export function rebuild(w: Workpiece, cache = new RebuildCache()): Rebuilt {
  const steps = rebuildSteps(w, cache)
  for (;;) {
    const next = steps.next()
    if (next.done) return next.value
  }
}

const reportOf = (
  op: Op,
  status: OpStatus,
  ms: number,
  reused: boolean,
  consequence: string,
  diagnoses: Diagnosis[],
): OpReport => ({
  id: op.id,
  number: op.number,
  kind: op.kind,
  status,
  ms,
  reused,
  consequence,
  diagnoses,
})

function runOp(
  op: Op,
  world: World,
  cache: RebuildCache,
): { kept: Kept; reused: boolean } | { waits: string } {
  const { state, figures } = world
  const inputs = JSON.stringify([op.kind, op.inputs])
  const known = cache.get(op.id)
  const version = opSpec(op.kind)?.version ?? 0
  if (
    known &&
    known.inputs === inputs &&
    known.version === version &&
    known.reads.every((r) => stillSo(r, state, figures))
  ) {
    return { kept: known, reused: true }
  }
  const reads: Read[] = []
  try {
    const outcome = evaluateOp(op, world, reads)
    return { kept: cache.keep(op.id, { inputs, version, reads, outcome }), reused: false }
  } catch (e) {
    if (e instanceof WaitsForKernel) return { waits: e.message }
    throw e
  }
}

function stillSo(r: Read, state: State, figures: FigureTable): boolean {
  if (r.from !== 'figure') return state[r.from][r.name]?.key === r.key
  return figureValue(figures, r.name) === r.value
}
const figureValue = (figures: FigureTable, name: string): number | undefined =>
  figures.values.find((v) => v.name === name)?.quantity?.value

/** Everything an op can read. */
export interface World {
  state: State
  figures: FigureTable
  solid: OpContext['solid']
}

/** The solids of a workpiece's kept files, as far as the kernel has read them. */
export const solidsOf =
  (w: Workpiece, cache: RebuildCache): OpContext['solid'] =>
  (id) => {
    const file = w.files?.[id]
    if (!file) return bad('no-file', `The file "${id}" is not in the workpiece.`)
    const read = cache.solids.get(id)
    if (!read) throw new WaitsForKernel(id)
    return read.ok ? good({ name: file.name, part: read.value }) : read
  }

/** Evaluates one op in a given state, outside of any cache. */
export function evaluateOp(op: Op, world: World, reads: Read[] = []): Kept['outcome'] {
  const spec = opSpec(op.kind)
  if (!spec) return bad('unknown-op', `There is no op of the kind "${op.kind}".`)
  const parsed = spec.inputs.safeParse(op.inputs)
  if (!parsed.success) {
    return bad('bad-inputs', `Of its inputs, ${sayIssue(parsed.error.issues[0]!)}.`)
  }
  try {
    return spec.evaluate(parsed.data, contextOf(op.id, world, reads))
  } catch (e) {
    if (e instanceof ExpressionError) return bad('bad-value', e.message)
    throw e
  }
}

/** The op's view of the state, noting what is read. */
export function contextOf(op: string, { state, figures, solid }: World, reads: Read[]): OpContext {
  const entity =
    <T extends { key: string }>(from: keyof State, table: Readonly<Record<string, T>>) =>
    (name: string): T | undefined => {
      const found = Object.hasOwn(table, name) ? table[name] : undefined
      reads.push({ from, name, key: found?.key })
      return found
    }
  return {
    op,
    read: (value, want) =>
      figures.read(value, want, (name, v) => reads.push({ from: 'figure', name, value: v })),
    plane: entity<Plane>('planes', state.planes),
    axis: entity<Axis>('axes', state.axes),
    point: entity<Point>('points', state.points),
    profile: entity<Profile>('profiles', state.profiles),
    body: entity<Body>('bodies', state.bodies),
    solid,
  }
}

function applied(state: State, r: OpResult, key: string, w: Workpiece): State {
  const keyed = <T>(add: Record<string, T> | undefined) =>
    Object.fromEntries(Object.entries(add ?? {}).map(([id, x]) => [id, { ...x, key }]))
  const bodies: Record<string, Body> = { ...state.bodies }
  for (const [id, body] of Object.entries(r.bodies ?? {})) {
    if (body) bodies[id] = { ...body, name: w.bodies[id]?.name ?? (body.name || `Body ${id}`), key }
    else delete bodies[id]
  }
  return {
    planes: { ...state.planes, ...keyed(r.planes) },
    axes: { ...state.axes, ...keyed(r.axes) },
    points: { ...state.points, ...keyed(r.points) },
    profiles: { ...state.profiles, ...keyed(r.profiles) },
    bodies,
  }
}
