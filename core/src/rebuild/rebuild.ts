import type { KernelJob } from '../exact'
import { type Diagnosis, good } from '../math'
import {
  type Body,
  type OpResult,
  opSpec,
  RoughEnough,
  type Shown,
  START,
  type State,
  StoppedKernel,
  said,
  WaitsForKernel,
} from '../ops'
import { type FigureTable, type Op, shownRoute, type Workpiece, workOut } from '../workpiece'
import {
  evaluateOp,
  isStale,
  jobsAsked,
  type Read,
  SHOWN,
  stillSo,
  unknownInputs,
  WaitsForEarlier,
  type World,
} from './evaluate'
import { gaugeJobs } from './gaugejobs'
import { JobResults } from './jobs'

export type OpStatus = 'ok' | 'warn' | 'fail' | 'skipped' | 'waits'

/** What became of one op. */
export interface OpReport {
  id: string
  number: number
  kind: string
  status: OpStatus
  /** Milliseconds spent, with those of the exact kernel; 0 when the kept result served. */
  ms: number
  reused: boolean
  consequence: string
  diagnoses: Diagnosis[]
  /** What the Stage shows of it while it is chosen. */
  shown?: Shown
}
export interface Rebuilt {
  state: State
  /** The state before each op, by op id: what the op had to work with. */
  before: Record<string, State>
  reports: OpReport[]
  figures: FigureTable
  /** What the exact kernel has to do before the route can go on, or its gauges can be read. */
  waits: KernelJob[]
  /** What the exact kernel has done so far. */
  exact: JobResults
}

/** What an op that waits for the kernel has worked out so far. */
interface Half {
  inputs: string
  version: number
  reads: Read[]
  made: Map<string, unknown>
  /** Milliseconds spent on it so far. */
  ms: number
}
interface Kept {
  inputs: string
  version: number
  reads: Read[]
  outcome: { ok: true; value: OpResult } | { ok: false; diagnosis: Diagnosis }
  shown: Shown | undefined
  /** What its inputs hold that is none of them. */
  unknown: Diagnosis[]
  op: string
  key: string
}

/** Results of ops, kept from run to run. One for each workpiece that is open. */
export class RebuildCache {
  #kept = new Map<string, Kept>()
  #half = new Map<string, Half>()
  #serial = 0
  #of = ''
  readonly exact = new JobResults()

  /** Says whose results they are: those of another workpiece, whose ops may bear the same ids, are let go. */
  open(workpiece: string): void {
    if (workpiece !== this.#of) {
      this.#kept.clear()
      this.#half.clear()
    }
    this.#of = workpiece
  }
  get(op: string): Kept | undefined {
    return this.#kept.get(op)
  }
  half(op: string): Half | undefined {
    return this.#half.get(op)
  }
  /** Keeps what an op has worked out until it goes on. */
  wait(op: string, half: Half): void {
    this.#half.set(op, half)
  }
  /** Has ops that failed run again, and jobs that were stopped done again. */
  retry(): void {
    this.exact.forgetStopped()
    for (const [op, kept] of this.#kept) if (!kept.outcome.ok) this.#kept.delete(op)
  }
  keep(op: string, kept: Omit<Kept, 'key' | 'op'>): Kept {
    const full = { ...kept, op, key: `${op}#${++this.#serial}` }
    this.#kept.set(op, full)
    this.#half.delete(op)
    return full
  }
}

/**
 * Runs the route op by op; yields each report as it is made, so a host may stream or stop. `rough`: while something is dragged,
 * ops that take long show what they come to and leave what they last made.
 */
export function* rebuildSteps(
  w: Workpiece,
  cache: RebuildCache,
  rough = false,
): Generator<OpReport, Rebuilt> {
  cache.open(w.id)
  const figures = workOut(w.figures, w.unit)
  const reports: OpReport[] = []
  const before: Record<string, State> = {}
  const waits: KernelJob[] = []
  const stale = new Set<string>()
  let state = START
  for (const op of shownRoute(w)) {
    before[op.id] = state
    if (op.suppressed) {
      const report = reportOf(op, 'skipped', 0, false, 'left out', [])
      reports.push(report)
      yield report
      continue
    }
    const past = Object.values(before)
    const run = runOp(op, { w, state, figures, exact: cache.exact, past, stale, rough }, cache)
    if ('waits' in run) {
      if (run.waits) waits.push(run.waits)
      for (const id of touchedBy(op, run.last)) stale.add(id)
      // What it last made stays shown until the new is there.
      if (run.last?.outcome.ok) state = applied(state, run.last.outcome.value, run.last, w)
      const why = run.waits ? 'the exact kernel is at work' : 'waits for what comes before'
      const report = reportOf(op, 'waits', 0, false, why, [])
      if (run.shown) report.shown = run.shown
      reports.push(report)
      yield report
      continue
    }
    const { kept, reused, ms } = run
    let report: OpReport
    if (kept.outcome.ok) {
      const { consequence, failed } = kept.outcome.value
      const warnings = [...kept.outcome.value.warnings, ...kept.unknown]
      state = applied(state, kept.outcome.value, kept, w)
      const status = failed ? 'fail' : warnings.length > 0 ? 'warn' : 'ok'
      report = reportOf(op, status, ms, reused, consequence, warnings)
    } else {
      const cause = causeOf(kept.reads, w, reports)
      report =
        cause === 'waits'
          ? reportOf(op, 'waits', ms, reused, 'waits for what comes before', [])
          : reportOf(op, 'fail', ms, reused, '', [cause ?? kept.outcome.diagnosis, ...kept.unknown])
    }
    if (kept.shown) report.shown = kept.shown
    reports.push(report)
    yield report
  }
  // Gauges are read on what the route makes, once it is made.
  if (waits.length === 0) waits.push(...gaugeJobs(w, state).filter((job) => !cache.exact.has(job)))
  return { state, before, reports, figures, waits, exact: cache.exact }
}

/** Bodies that an op may make or change: until it has run, what stands there is not what it will be. */
function touchedBy({ id, kind, inputs }: Op, last: Kept | undefined): string[] {
  const made = Object.keys((last?.outcome.ok && last.outcome.value.bodies) || {})
  // Datums and text look at bodies only.
  if (opSpec(kind)?.stage === 'draw') return [id, ...made]
  const named = [inputs.body, ...(Array.isArray(inputs.tools) ? inputs.tools : [])]
  return [id, ...made, ...named.filter((x): x is string => typeof x === 'string')]
}

/**
 * An op that lacks what an earlier one did not make fails for that one's sake, or waits with it for the exact
 * kernel; null where it does not.
 */
function causeOf(
  reads: readonly Read[],
  w: Workpiece,
  reports: readonly OpReport[],
): Diagnosis | 'waits' | null {
  for (const r of reads) {
    if (r.from === 'figure' || r.from === 'content' || r.key !== undefined) continue
    const culprit = reports.find((x) => x.id === r.name)
    const named = w.route.find((o) => o.id === r.name)
    if (!culprit || !named || culprit.status === 'ok' || culprit.status === 'warn') continue
    if (culprit.status === 'waits') return 'waits'
    const why = culprit.status === 'fail' ? 'fails' : 'is left out'
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
export function rebuild(w: Workpiece, cache = new RebuildCache(), rough = false): Rebuilt {
  const steps = rebuildSteps(w, cache, rough)
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
):
  | { kept: Kept; reused: boolean; ms: number }
  | { waits: KernelJob | null; last: Kept | undefined; shown?: Shown | undefined } {
  const inputs = JSON.stringify([op.kind, op.inputs])
  const known = cache.get(op.id)
  const version = opSpec(op.kind)?.version ?? 0
  if (
    known &&
    known.inputs === inputs &&
    known.version === version &&
    known.reads.every((r) => stillSo(r, world) && !isStale(r, world))
  ) {
    return { kept: known, reused: true, ms: 0 }
  }
  const half = cache.half(op.id)
  const goesOn =
    half &&
    half.inputs === inputs &&
    half.version === version &&
    half.reads.every((r) => stillSo(r, world) && !isStale(r, world))
  const reads: Read[] = goesOn ? [...half.reads] : []
  const so = goesOn ? half.made : new Map<string, unknown>()
  const asked = { inputs, version, reads }
  const start = performance.now()
  const since = () => (goesOn ? half.ms : 0) + performance.now() - start
  const spent = () => since() + cache.exact.tookOf(jobsAsked(so))
  try {
    const made = evaluateOp(op, world, reads, so)
    const outcome = made.ok ? good(said(made.value)) : made
    // A skin stands for a body that is not there yet, or that could not be made.
    const { skin, ...rest } = (so.get(SHOWN) as Shown | undefined) ?? {}
    const left: Shown = outcome.ok || !skin ? rest : { ...rest, skin }
    const shown = Object.keys(left).length > 0 ? left : undefined
    const unknown = unknownInputs(op)
    const kept = cache.keep(op.id, { ...asked, outcome, shown, unknown })
    return { kept, reused: false, ms: spent() }
  } catch (e) {
    if (e instanceof WaitsForKernel) {
      cache.wait(op.id, { ...asked, made: so, ms: since() })
      return { waits: e.job, last: known, shown: so.get(SHOWN) as Shown | undefined }
    }
    // Stopped is a state of its own: the sentence of no other way stands in for what did not come to an end.
    if (e instanceof StoppedKernel) {
      const outcome = { ok: false as const, diagnosis: e.diagnosis }
      return {
        kept: cache.keep(op.id, { ...asked, outcome, shown: undefined, unknown: [] }),
        reused: false,
        ms: spent(),
      }
    }
    if (e instanceof RoughEnough)
      return { waits: null, last: known, shown: so.get(SHOWN) as Shown | undefined }
    if (e instanceof WaitsForEarlier) return { waits: null, last: known }
    throw e
  }
}

function applied(state: State, r: OpResult, { key, op }: Kept, w: Workpiece): State {
  const keyed = <T>(add: Record<string, T> | undefined) =>
    Object.fromEntries(Object.entries(add ?? {}).map(([id, x]) => [id, { ...x, key }]))
  const bodies: Record<string, Body> = { ...state.bodies }
  for (const [id, body] of Object.entries(r.bodies ?? {})) {
    const made = w.route.find((o) => o.id === id)?.name ?? `Body ${id}`
    if (body) bodies[id] = { ...body, name: w.bodies[id]?.name ?? (body.name || made), key }
    else delete bodies[id]
  }
  return {
    planes: { ...state.planes, ...keyed(r.planes) },
    axes: { ...state.axes, ...keyed(r.axes) },
    points: { ...state.points, ...keyed(r.points) },
    profiles: { ...state.profiles, ...keyed(r.profiles) },
    paths: { ...state.paths, ...keyed(r.paths) },
    sheets: { ...state.sheets, ...keyed(r.sheets) },
    bodies,
    tools: r.tool ? { ...state.tools, [op]: { ...r.tool, key } } : state.tools,
  }
}
