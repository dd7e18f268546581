import { freshId } from '../math'
import { namesIn } from './expression'
import { insertOp } from './route'
import type { LinkDoc, Op, Workpiece } from './schema'
import { EXPRESSION_KEYS, expressionsIn, renamedIn } from './uses'

/** Ids that no op may bear: the planes there are from the start. */
const PLANES = ['front', 'side', 'top']
/** In a drawing only what it is projected from names ops. */
const DRAWN = 'drawing'
const SOURCE = 'source'

/** Does something with every text of inputs that may name ops: ids, and names of faces made of them. */
function named(value: unknown, of: (text: string) => string, key = '', drawn = false): unknown {
  if (typeof value === 'string') return EXPRESSION_KEYS.has(key) || drawn ? value : of(value)
  if (Array.isArray(value)) return value.map((v) => named(v, of, key, drawn))
  if (value && typeof value === 'object')
    return Object.fromEntries(
      Object.entries(value).map(([k, v]) => [
        k,
        named(v, of, k, (drawn || k === DRAWN) && k !== SOURCE),
      ]),
    )
  return value
}

/** The id of an op before a colon, as names of faces hold it. */
const WITHIN = /(?<![\w-])[A-Za-z][\w-]*(?=:)/g

/** Ids of ops that an op's inputs name. */
function mentioned(op: Op, ids: ReadonlySet<string>): Set<string> {
  const out = new Set<string>()
  named(op.inputs, (text) => {
    for (const id of [text, ...(text.match(WITHIN) ?? [])]) if (ids.has(id)) out.add(id)
    return text
  })
  out.delete(op.id)
  return out
}

const figuresIn = (expr: string): string[] => {
  try {
    return namesIn(expr)
  } catch {
    return []
  }
}

/** Ops in the order of the route that given ones need to stand, themselves too, and the figures all of them use. */
export function neededBy(
  w: Workpiece,
  ids: readonly string[],
): { ops: string[]; figures: string[] } {
  const all = new Set(w.route.map((o) => o.id))
  const byId = new Map(w.route.map((o) => [o.id, o]))
  const queue = ids.filter((id) => all.has(id))
  const ops = new Set(queue)
  for (const id of queue)
    for (const other of mentioned(byId.get(id)!, all))
      if (!ops.has(other)) {
        ops.add(other)
        queue.push(other)
      }
  return { ops: w.route.flatMap((o) => (ops.has(o.id) ? [o.id] : [])), figures: figuresOf(w, ops) }
}

/** The figures that ops use, and those these are worked out from, in the order they stand in. */
function figuresOf(w: Workpiece, ops: ReadonlySet<string>): string[] {
  const byName = new Map(w.figures.map((f) => [f.name, f.expr]))
  const queue = w.route
    .filter((o) => ops.has(o.id))
    .flatMap((o) => expressionsIn(o.inputs).flatMap(figuresIn))
  const found = new Set<string>()
  for (const name of queue) {
    const expr = byName.get(name)
    if (expr === undefined || found.has(name)) continue
    found.add(name)
    queue.push(...figuresIn(expr))
  }
  return w.figures.flatMap((f) => (found.has(f.name) ? [f.name] : []))
}

/** What uses an op: those that name it. */
export function usersOf(w: Workpiece, id: string): string[] {
  const only = new Set([id])
  return w.route.flatMap((o) => (o.id !== id && mentioned(o, only).size > 0 ? [o.id] : []))
}
/** What an op uses: those it names. */
export function usedBy(w: Workpiece, id: string): string[] {
  const op = w.route.find((o) => o.id === id)
  if (!op) return []
  const found = mentioned(op, new Set(w.route.map((o) => o.id)))
  return w.route.flatMap((o) => (found.has(o.id) ? [o.id] : []))
}

/**
 * A workpiece with ops of another (or its own, once more) after the one at `index`: under ids of their own where theirs are taken, all
 * they name of each other with them. Of another come the figures they use (under another name where that means something else here),
 * the files and how their bodies are called.
 */
export function taken(
  into: Workpiece,
  from: Workpiece,
  ids: readonly string[],
  index: number,
): { doc: Workpiece; ids: string[]; ties: Ties } {
  const again = into.id === from.id
  const ops = from.route.filter((o) => ids.includes(o.id))
  const busy = [...PLANES, ...into.route.map((o) => o.id)]
  const renamed = new Map<string, string>()
  for (const { id } of ops) {
    const now = busy.includes(id) ? freshId(busy, id.replace(/\d+$/, '') || 'op') : id
    busy.push(now)
    renamed.set(id, now)
  }
  const figures = again ? [] : figuresOf(from, new Set(ids))
  const { made, words } = takenFigures(into, from, figures)
  const text = (t: string) => renamed.get(t) ?? t.replace(WITHIN, (id) => renamed.get(id) ?? id)
  const fresh = ops.map((op): Op => {
    let inputs = named(op.inputs, text) as Op['inputs']
    for (const [was, now] of words) inputs = renamedIn(inputs, was, now)
    return { ...op, id: renamed.get(op.id)!, name: again ? againName(op.name) : op.name, inputs }
  })
  let route = [...into.route]
  for (const [k, op] of fresh.entries()) route = insertOp(route, index + k, op)
  const files = filesOf(from, fresh)
  const bodies = Object.fromEntries(
    ops.flatMap(({ id }) => {
      const body = from.bodies[id]
      return body ? [[renamed.get(id)!, again ? bodyAgain(body) : body]] : []
    }),
  )
  return {
    doc: {
      ...into,
      route,
      figures: [...into.figures, ...made],
      bodies: { ...into.bodies, ...bodies },
      ...(Object.keys(files).length > 0 ? { files: { ...into.files, ...files } } : {}),
    },
    ids: fresh.map((o) => o.id),
    ties: {
      ops: Object.fromEntries([...renamed].map(([theirs, mine]) => [mine, theirs])),
      figures: Object.fromEntries(figures.map((f) => [new Map(words).get(f) ?? f, f])),
    },
  }
}

/** Which op and which figure here is which of another workpiece. */
export type Ties = Pick<LinkDoc, 'ops' | 'figures'>

/**
 * A workpiece whose linked ops and figures are as a newer state of what they were taken from; a sentence where that needs more than was
 * taken over.
 */
export function renewed(
  into: Workpiece,
  from: Workpiece,
  { ops, figures }: Ties,
): Workpiece | string {
  const mine = new Map(Object.entries(ops).map(([m, theirs]) => [theirs, m]))
  const here = new Set(into.route.map((o) => o.id))
  const theirs = new Map(from.route.map((o) => [o.id, o]))
  const all = new Set(theirs.keys())
  const words = Object.entries(figures).filter(([m, t]) => m !== t)
  const exprs = (inputs: Op['inputs']) => words.reduce((i, [m, t]) => renamedIn(i, t, m), inputs)
  const known = new Set(Object.values(figures))
  const lacks: string[] = []
  const text = (t: string) => mine.get(t) ?? t.replace(WITHIN, (id) => mine.get(id) ?? id)
  const route = into.route.map((op): Op => {
    const source = theirs.get(ops[op.id] ?? '')
    if (!source) return op
    for (const id of mentioned(source, all))
      if (!here.has(mine.get(id) ?? '')) lacks.push(theirs.get(id)!.name)
    for (const f of figuresOf(from, new Set([source.id]))) if (!known.has(f)) lacks.push(f)
    return { ...op, kind: source.kind, inputs: exprs(named(source.inputs, text) as Op['inputs']) }
  })
  if (lacks.length > 0)
    return `It now uses ${[...new Set(lacks)].join(', ')}, which was not taken over: take it over again.`
  const newer = new Map(from.figures.map((f) => [f.name, f.expr]))
  const linked = into.figures.map((f) => {
    const expr = newer.get(figures[f.name] ?? '')
    return expr === undefined ? f : { ...f, expr: exprs({ value: expr }).value as string }
  })
  const files = filesOf(from, route)
  return {
    ...into,
    route,
    figures: linked,
    ...(Object.keys(files).length > 0 ? { files: { ...into.files, ...files } } : {}),
  }
}

const againName = (name: string): string => `${name.slice(0, 72)}, again`
const bodyAgain = (body: Workpiece['bodies'][string]): Workpiece['bodies'][string] =>
  body.name ? { ...body, name: againName(body.name) } : body

/** Figures to add, and names that became others since they mean something else already. */
function takenFigures(into: Workpiece, from: Workpiece, names: readonly string[]) {
  const there = new Map(into.figures.map((f) => [f.name, f.expr]))
  const exprs = new Map(from.figures.map((f) => [f.name, f.expr]))
  // What is the same here, word for word, is another thing all the same where it is worked out from others.
  const others = new Set(names.filter((n) => there.has(n) && there.get(n) !== exprs.get(n)))
  for (let before = -1; before !== others.size; ) {
    before = others.size
    for (const n of names)
      if (there.has(n) && figuresIn(exprs.get(n)!).some((m) => others.has(m))) others.add(n)
  }
  const taken = [...there.keys(), ...names]
  const words = names.flatMap((name): [string, string][] => {
    if (!others.has(name)) return []
    const now = freshId(taken, `${name.slice(0, 36)}_`)
    taken.push(now)
    return [[name, now]]
  })
  const renamed = new Map(words)
  const made = names.flatMap((name) => {
    if (there.has(name) && !renamed.has(name)) return []
    const own = from.figures.find((f) => f.name === name)!
    let { expr } = own
    for (const [was, now] of words) expr = renamedIn({ value: expr }, was, now).value as string
    return [{ ...own, name: renamed.get(name) ?? name, expr }]
  })
  return { made, words }
}

/** The kept files that ops name. */
function filesOf(from: Workpiece, ops: readonly Op[]): NonNullable<Workpiece['files']> {
  const text = JSON.stringify(ops.map((o) => o.inputs))
  return Object.fromEntries(
    Object.entries(from.files ?? {}).filter(([id]) => text.includes(`"${id}"`)),
  )
}
