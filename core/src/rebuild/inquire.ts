import type { ExactPart } from '../exact'
import {
  asPrinted,
  type GaugeSpec,
  gaugeSpec,
  type LineOfBody,
  type PanelOfBody,
  type Reading,
  readWith,
  type SeamOfBody,
  type Subject,
  solidSubject,
  stretchOf,
  subjectOf,
  type Verdict,
  verdictOf,
} from '../gauges'
import type { BentSkin, Side } from '../kernel'
import { type Solutions, SPARING, solveFor, type WorkingRange, workingRange } from '../limits'
import type { TriMesh } from '../mesh'
import {
  type Body,
  type OpContext,
  opSpec,
  type State,
  StoppedKernel,
  WaitsForKernel,
} from '../ops'
import { DIMENSIONS, relationWords, tryValue } from '../profile'
import { shownMesh } from '../turned'
import {
  ExpressionError,
  type GaugeDoc,
  type Limits,
  materialOf,
  type Op,
  type Workpiece,
} from '../workpiece'
import { contextOf, evaluateOp, type World } from './evaluate'
import { bentJob, gaugedBody, linesJob, panelsJob, seamsJob } from './gaugejobs'
import { RebuildCache, type Rebuilt, rebuild } from './rebuild'
import { measuredThing } from './things'
import { wallsOf } from './truewalls'

/** Density for a body: its own material, else the brief's, g/cm3. */
export const densityOf = (w: Workpiece, body: Body): number | undefined =>
  materialOf(w.bodies[body.id]?.material ?? w.brief.material, w.materials)?.density

export interface GaugeReport {
  id: string
  kind: string
  label: string
  body: string
  reading: Reading | null
  /** Why there is no reading. */
  why: string
  limits: Limits | undefined
  fromBrief: boolean
  verdict: Verdict
}

/** Reads all gauges of the workpiece on its rebuilt bodies. */
export function readGauges(w: Workpiece, built: Rebuilt): GaugeReport[] {
  const subjects = new Map<string, Subject>()
  const readFrom = <T>(part: ExactPart, of: (p: ExactPart, exact: Rebuilt['exact']) => T) =>
    part.kind === 'exact' ? () => of(part, built.exact) : null
  const subject = (body: Body) => {
    const known = subjects.get(body.id)
    if (known) return known
    const density = densityOf(w, body)
    const made =
      body.shape.kind === 'turned'
        ? subjectOf(body.shape.turned, density)
        : solidSubject(
            { ...body.shape.measure, mesh: body.shape.mesh },
            body.shape.shown,
            density,
            {
              seams: readFrom(body.shape, seamsOf),
              lines: readFrom(body.shape, linesOf),
              panels: panelsFrom(body.shape, built.exact),
              bent: readFrom(body.shape, bentOf),
              walls: wallsFrom(body.shape, built.exact),
            },
          )
    subjects.set(body.id, made)
    return made
  }
  return w.gauges.map((g) => readGauge(w, built, g, subject))
}

/**
 * Edges of a part where its faces run on in each other, by the names of the faces; a sentence where they could not be read,
 * or are not yet.
 */
function seamsOf(p: ExactPart, exact: Rebuilt['exact']): SeamOfBody[] | string {
  const job = seamsJob(p)
  if (!exact.has(job)) return 'Its seams are being read.'
  const read = exact.resultOf(job)
  if (!read.ok) return read.diagnosis.message
  return p.edges.flatMap(({ faces }, i) => {
    const seam = read.value[0]!.form!.seams[i]
    const names = faces.map((f) => p.faces[f]!.names[0] ?? '?')
    return seam ? [{ ...seam, name: `${names[0]} / ${names[1] ?? 'itself'}` }] : []
  })
}

/** Lines of the curved faces of a part, by the names of the faces; a sentence where they could not be read, or are not yet. */
function linesOf(p: ExactPart, exact: Rebuilt['exact']): LineOfBody[] | string {
  const job = linesJob(p)
  if (!exact.has(job)) return 'The lines of its surfaces are being read.'
  const read = exact.resultOf(job)
  if (!read.ok) return read.diagnosis.message
  return read.value[0]!.form!.lines.map((l) => ({ ...l, name: p.faces[l.face]!.names[0] ?? '?' }))
}

/** The labels on a part's curved faces, likewise. */
function panelsFrom(p: ExactPart, exact: Rebuilt['exact']) {
  if (p.kind !== 'exact') return null
  return (asked: GaugeDoc['params']): PanelOfBody[] | string => {
    const job = panelsJob(p, stretchOf(asked))
    if (!exact.has(job)) return 'Labels are being laid on its faces.'
    const read = exact.resultOf(job)
    if (!read.ok) return read.diagnosis.message
    return read.value[0]!.form!.panels.map((x) => ({
      ...x,
      name: p.faces[x.face]!.names[0] ?? '?',
    }))
  }
}

/** How the surfaces of a part bend; a sentence where that could not be read, or is not yet. */
function bentOf(p: ExactPart, exact: Rebuilt['exact']): BentSkin | string {
  const job = bentJob(p)
  if (!exact.has(job)) return 'How it bends is being read.'
  const read = exact.resultOf(job)
  return read.ok ? read.value[0]!.form!.bent! : read.diagnosis.message
}

/** The wall of a part, or the gaps in it, on its surfaces, likewise. */
const wallsFrom = (p: ExactPart, exact: Rebuilt['exact']) =>
  p.kind === 'exact' ? (side: Side) => wallsOf(p, side, exact) : null

function readGauge(
  w: Workpiece,
  built: Rebuilt,
  g: GaugeDoc,
  subject: (b: Body) => Subject,
): GaugeReport {
  const spec = gaugeSpec(g.kind)
  const { bodies } = built.state
  const body = gaugedBody(w, bodies, g)
  const target = spec?.target ? w.brief.targets[spec.target] : undefined
  const limits = g.limits ?? target
  const base = {
    id: g.id,
    kind: g.kind,
    label: spec?.label ?? g.kind,
    body: body?.id ?? '',
    limits,
    fromBrief: !g.limits && target !== undefined,
  }
  const none = (why: string): GaugeReport => ({
    ...base,
    reading: null,
    why,
    verdict: limits ? 'out' : 'none',
  })
  if (!spec) return none(`There is no gauge of the kind "${g.kind}".`)
  if (!body) return none(g.body ? `The body "${g.body}" is not there.` : 'There is no body yet.')
  if (w.bodies[body.id]?.away) return { ...none(`${body.name} is put away.`), verdict: 'none' }
  const others = () =>
    Object.values(bodies)
      .filter((b) => b.id !== body.id && !w.bodies[b.id]?.away)
      .filter((b) => !g.params.other || b.id === g.params.other)
      .map((b) => ({ name: b.name || b.id, mesh: triangleMesh(b) }))
  const reading = spec.picks
    ? betweenPicked(spec.picks, body, bodies, g.params)
    : spec.between
      ? spec.between(triangleMesh(body), others())
      : readWith(spec, subject(body), g.params)
  if (typeof reading === 'string') return none(reading)
  const verdict = verdictOf(reading.low, reading.high, limits)
  const { process, line, printer } = w.brief
  const laid = process === 'printed' ? (line ?? printer?.line) : undefined
  const read =
    spec.kind === 'wall' && laid ? asPrinted(reading, verdict, laid) : { reading, verdict }
  return { ...base, ...read, why: '' }
}

function betweenPicked(
  read: NonNullable<GaugeSpec['picks']>,
  body: Body,
  bodies: State['bodies'],
  params: GaugeDoc['params'],
): Reading | string {
  const other = params.other ? bodies[params.other] : body
  if (!other) return `The body "${params.other}" is not there.`
  const [a, b] = [
    measuredThing(body, String(params.face ?? '')),
    measuredThing(other, String(params.with ?? '')),
  ]
  if (!a.ok) return a.diagnosis.message
  return b.ok ? read(a.value, b.value) : b.diagnosis.message
}

/** The triangles of a body of any kind. */
export const triangleMesh = ({ shape }: Body): TriMesh =>
  shape.kind === 'turned' ? shownMesh(shape.turned) : shape.mesh

/** The world as it is before an op. */
export const worldOf = (w: Workpiece, built: Rebuilt, state: State): World => ({
  w,
  state,
  figures: built.figures,
  exact: built.exact,
  past: Object.values(built.before),
})

/**
 * The working range of one input of an op in its place in the route, in mm, or deg for angles; null when it has none now. Throws
 * `WaitsForKernel` where a value has to be tried there first.
 */
export function rangeOf(
  w: Workpiece,
  built: Rebuilt,
  opId: string,
  input: string,
): WorkingRange | null {
  const op = w.route.find((o) => o.id === opId)
  const state = built.before[opId]
  const spec = op && opSpec(op.kind)
  if (!op || !state || !spec?.cap) return null
  const parsed = spec.inputs.safeParse(op.inputs)
  if (!parsed.success) return null
  const world = worldOf(w, built, state)
  const ctx = contextOf(opId, world, [])
  const cap = spec.cap(input, parsed.data, ctx)
  if (cap === null) return null
  const marks = spec.marks?.(input, parsed.data, ctx) ?? []
  return workingRange(
    (value) => {
      try {
        const out = evaluateOp({ ...op, inputs: { ...op.inputs, [input]: value } }, world)
        return out.ok ? null : out.diagnosis
      } catch (e) {
        // That a trial was stopped is what is told of it.
        if (e instanceof StoppedKernel) return e.diagnosis
        throw e
      }
    },
    cap,
    marks,
    spec.slow?.(parsed.data, ctx) ? SPARING : undefined,
    // What fails now may not even be readable.
    built.reports.find((r) => r.id === opId)?.status === 'fail' ? null : presentOf(op, input, ctx),
  )
}

/** What an input is now, in mm, deg or as a number; null where it has no value that can be read. */
function presentOf(op: Op, input: string, ctx: OpContext): number | null {
  const field = opSpec(op.kind)?.fields.find((f) => f.name === input)
  const value = op.inputs[input]
  if (field?.type !== 'value' || !(typeof value === 'number' || typeof value === 'string'))
    return null
  const now = ctx.read(value, field.dim)
  return field.dim === 'angle' ? (now * 180) / Math.PI : now
}

/** Whether a dimension of a profile can take a typed value: yes, a sentence, or what blocks it. */
export function tryDimension(
  built: Rebuilt,
  opId: string,
  id: string,
  value: number | string,
): string | { ok: true } | { ok: false; blockedBy: string; nearest: number | null } {
  const profile = built.state.profiles[opId]
  const d = profile?.drawing.dimensions?.find((x) => x.id === id)
  if (!profile || !d) return 'This dimension is not there.'
  const { unit } = DIMENSIONS[d.kind]
  let target: number
  try {
    target = built.figures.read(value, unit)
  } catch (e) {
    if (e instanceof ExpressionError) return e.message
    throw e
  }
  if (!Number.isFinite(target)) return 'This value is not a number.'
  if (target < 0) return 'A dimension cannot be negative; drag the point over to turn it round.'
  const { drawing, shape } = profile
  const tried = tryValue({ ...shape, drawing }, id, target)
  if (tried.ok) return tried
  const others = tried.conflict.filter((c) => c !== id)
  const nearest =
    tried.nearest === null ? null : unit === 'angle' ? deg(tried.nearest) : tried.nearest
  return {
    ok: false,
    blockedBy: others.map((c) => relationWords(drawing, c)).join(', ') || 'the shape itself',
    nearest,
  }
}
const deg = (rad: number): number => (rad * 180) / Math.PI

export interface SolveRequest {
  figure: string
  gauge: string
  /** In the gauge's unit. */
  target: number
  /** Search span in mm (or the figure's own unit); half to double of today's value when absent. */
  lo?: number
  hi?: number
}
export interface SolveReply extends Solutions {
  lo: number
  hi: number
  /** The figure's value today, inside units. */
  now: number
  unit: string
}

/**
 * Searches for values of a figure at which a gauge reads the target. Throws `WaitsForKernel` where the route
 * needs the exact kernel on the way.
 */
export function solveWorkpiece(
  w: Workpiece,
  req: SolveRequest,
  cache = new RebuildCache(),
): SolveReply | string {
  const figure = w.figures.find((f) => f.name === req.figure)
  const gauge = w.gauges.find((g) => g.id === req.gauge)
  if (!figure) return `There is no figure named "${req.figure}".`
  if (!gauge) return 'Choose a gauge to solve for.'
  const q = rebuild(w, cache).figures.values.find((v) => v.name === figure.name)?.quantity
  if (!q) return `The figure "${figure.name}" has no value to start from.`
  const unit = q.length === 1 ? 'mm' : q.angle === 1 ? 'rad' : q.length === 3 ? 'mm^3' : ''
  const [lo, hi] = [
    req.lo ?? Math.min(q.value / 2, q.value * 2),
    req.hi ?? Math.max(q.value / 2, q.value * 2),
  ]
  if (!(lo < hi)) return 'The search needs a span: the lower end must be below the upper.'
  const read = (x: number): number | string => {
    const figures = w.figures.map((f) =>
      f.name === figure.name ? { ...f, expr: expressionFor(x, unit) } : f,
    )
    const tried = { ...w, figures, gauges: [gauge] }
    const built = rebuild(tried, cache)
    if (built.waits[0]) throw new WaitsForKernel(built.waits[0])
    const failed = built.reports.find((r) => r.status === 'fail')
    if (failed) return failed.diagnoses[0]!.message
    const report = readGauges(tried, built)[0]!
    return report.reading ? report.reading.low : report.why
  }
  return { ...solveFor(read, req.target, lo, hi, 24, 1e-7), lo, hi, now: q.value, unit }
}

/** A figure's expression for a solved value. */
export const expressionFor = (value: number, unit: string): string =>
  unit === 'mm^3' ? `${value} mm * 1 mm * 1 mm` : unit ? `${value} ${unit}` : `${value}`
