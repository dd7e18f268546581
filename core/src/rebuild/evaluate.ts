import { jobKey } from '../exact'
import { bad, type Diagnosis, type Outcome } from '../math'
import {
  type Axis,
  type Body,
  type OpContext,
  type OpMade,
  opSpec,
  type Path,
  type Plane,
  type Point,
  type Profile,
  type Sheet,
  type Shown,
  type State,
  StoppedKernel,
  type Tool,
} from '../ops'
import { faceNames } from '../turned'
import { ExpressionError, type FigureTable, type Op, sayIssue, type Workpiece } from '../workpiece'
import { type JobResults, STOPPED } from './jobs'

/** Something an op read, and what it then was. */
export type Read =
  | { from: 'figure'; name: string; value: number }
  | { from: 'content'; name: string; is: boolean }
  | {
      from: keyof State
      name: string
      key: string | undefined
    } /** What an op shows is kept among what it works out. */
export const SHOWN = '#shown'

/** An op reads a body that an earlier one has still to work on. */
export class WaitsForEarlier extends Error {
  override name = 'WaitsForEarlier'
}

const isContent = (w: Workpiece, body: string): boolean => w.bodies[body]?.content ?? false

export function stillSo(r: Read, { w, state, figures }: World): boolean {
  if (r.from === 'content') return isContent(w, r.name) === r.is
  if (r.from !== 'figure') return state[r.from][r.name]?.key === r.key
  return figureValue(figures, r.name) === r.value
}
const figureValue = (figures: FigureTable, name: string): number | undefined =>
  figures.values.find((v) => v.name === name)?.quantity?.value

/** Everything an op can read. */
export interface World {
  w: Workpiece
  state: State
  figures: FigureTable
  exact: JobResults
  /** The states before the ops so far. */
  past: readonly State[]
  /** Bodies that an earlier op has still to work on. */
  stale?: ReadonlySet<string>
  /** Something is dragged: what ops show is enough. */
  rough?: boolean
}

export const isStale = (r: Read, { stale }: World): boolean =>
  r.from === 'bodies' && Boolean(stale?.has(r.name))

/** Evaluates one op in a given state, outside of any cache. */
export function evaluateOp(
  op: Op,
  world: World,
  reads: Read[] = [],
  made = new Map<string, unknown>(),
): Outcome<OpMade> {
  const spec = opSpec(op.kind)
  if (!spec) return bad('unknown-op', `There is no op of the kind "${op.kind}".`)
  const parsed = spec.inputs.safeParse(op.inputs)
  if (!parsed.success) {
    return bad('bad-inputs', `Of its inputs, ${sayIssue(parsed.error.issues[0]!)}.`)
  }
  try {
    return spec.evaluate(parsed.data, contextOf(op.id, world, reads, made))
  } catch (e) {
    if (e instanceof ExpressionError) return bad('bad-value', e.message)
    throw e
  }
}

/** What stands in the inputs of an op that is none of them, in a warning: misspelt, it would count for nothing without a word. */
export function unknownInputs({ kind, inputs }: Op): Diagnosis[] {
  const parsed = opSpec(kind)?.inputs.safeParse(inputs)
  const names = parsed?.success ? leftOut(inputs, parsed.data) : []
  if (names.length === 0) return []
  const one = names.length === 1
  const list = names.slice(0, 5).map((n) => `"${n}"`)
  return [
    {
      code: 'unknown-input',
      message: `There ${one ? 'is no input' : 'are no inputs'} ${list.join(', ')}${names.length > 5 ? ' …' : ''} here: ${one ? 'it counts' : 'they count'} for nothing.`,
      places: [],
      fixes: [],
    },
  ]
}

/** The paths of what is in a value and not in what was read of it. */
function leftOut(given: unknown, read: unknown, path = ''): string[] {
  if (typeof given !== 'object' || typeof read !== 'object' || !given || !read) return []
  const known = read as Record<string, unknown>
  return Object.entries(given).flatMap(([key, value]) =>
    Object.hasOwn(known, key) ? leftOut(value, known[key], `${path}${key}.`) : [`${path}${key}`],
  )
}

/** The keys of the kernel's jobs that an op has asked for. */
export function jobsAsked(notes: Map<string, unknown>): Set<string> {
  const known = notes.get(JOBS) as Set<string> | undefined
  if (known) return known
  const keys = new Set<string>()
  notes.set(JOBS, keys)
  return keys
}
const JOBS = '#jobs'

/** The op's view of the state, noting what is read. */
export function contextOf(
  op: string,
  world: World,
  reads: Read[],
  notes = new Map<string, unknown>(),
): OpContext {
  const { w, state, figures, exact, past } = world
  const entity =
    <T extends { key: string }>(from: keyof State, table: Readonly<Record<string, T>>) =>
    (name: string): T | undefined => {
      const found = Object.hasOwn(table, name) ? table[name] : undefined
      const read = { from, name, key: found?.key }
      reads.push(read)
      if (isStale(read, world)) throw new WaitsForEarlier()
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
    path: entity<Path>('paths', state.paths),
    sheet: entity<Sheet>('sheets', state.sheets),
    body: entity<Body>('bodies', state.bodies),
    tool: entity<Tool>('tools', state.tools),
    content(name) {
      const is = isContent(w, name)
      reads.push({ from: 'content', name, is })
      return is
    },
    knew: (face) =>
      past.some((s) =>
        Object.values(s.bodies).some(({ shape }) =>
          shape.kind === 'turned'
            ? faceNames(shape.turned).has(face)
            : shape.faces.some((f) => f.names.includes(face)),
        ),
      ),
    file: (id) => (w.files && Object.hasOwn(w.files, id) ? w.files[id]!.name : undefined),
    kernel(job) {
      const made = exact.resultOf(job)
      if (!made.ok && made.diagnosis.code === STOPPED) throw new StoppedKernel(made.diagnosis)
      jobsAsked(notes).add(jobKey(job))
      return made
    },
    once<T>(name: string, make: () => T): T {
      if (!notes.has(name)) notes.set(name, make())
      return notes.get(name) as T
    },
    rough: world.rough ?? false,
    shows: (what) => notes.set(SHOWN, { ...(notes.get(SHOWN) as Shown | undefined), ...what }),
  }
}
