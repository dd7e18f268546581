import { type ExactPart, edgeRef, resolveEdge } from '../../../exact'
import type { EdgeWork } from '../../../kernel'
import type { OpContext, RoundedEdge } from '../../state'
import { lastOf } from '../past'
import type { Treatment } from './which'
import { meetIn, type Work } from './work'

/** Edges treated, each by all of them that are known to hold together. */
export interface Treated {
  part: ExactPart
  /** How it came to hold, where not by one call. */
  how?: string
  /** Where the rounds of the op before were made anew together with these: what there was before both. */
  earlier?: { before: ExactPart; edges: RoundedEdge[] }
}

/** Treatments tried before a set is said not to hold. */
const TRIALS = 12

/** One call of the kernel for some edges; null where it does not hold. */
export function treated(
  ctx: OpContext,
  part: ExactPart,
  work: readonly Pick<Work, 'edge' | 'amount'>[],
  { word }: Pick<Treatment, 'word'>,
): ExactPart | null {
  const made = ctx.kernel({
    verb: 'rounding',
    args: {
      op: ctx.op,
      kind: word === 'round' ? 'fillet' : 'chamfer',
      work: work.map(({ edge, amount }) => ({ edge, ...amount })),
    },
    on: [part.key],
  })
  return made.ok ? made.value[0]! : null
}

/**
 * All edges: by one call; else one group after another, in the order that holds; else together with the rounds of the op before, since
 * where rounds meet each needs the other. Null where no trial holds all.
 */
export function treatedSomehow(
  ctx: OpContext,
  body: string,
  part: ExactPart,
  work: readonly Work[],
  t: Treatment,
): Treated | null {
  const once = treated(ctx, part, work, t)
  if (once) return { part: once }
  const known = new Map<string, ExactPart | null>()
  let trials = TRIALS
  const stage = (now: ExactPart, own: readonly Work[]): ExactPart | null => {
    const again = now === part ? [...own] : found(part, now, own)
    if (!again) return null
    const key = `${now.key} ${again.map((w) => w.edge).join()}`
    const kept = known.get(key)
    if (kept !== undefined) return kept
    if (trials-- <= 0) return null
    const made = treated(ctx, now, again, t)
    known.set(key, made)
    return made
  }
  for (const order of ordersOf(part, work)) {
    let now: ExactPart | null = part
    for (const own of order) now = now && stage(now, own)
    if (now) return { part: now, how: `in ${order.length} steps` }
  }
  return t.word === 'round' ? withEarlier(ctx, body, part, work) : null
}

/** The same edges on a body as it became; null where one is not there for sure. */
export function found(was: ExactPart, now: ExactPart, work: readonly Work[]): Work[] | null {
  const out: Work[] = []
  for (const w of work) {
    const r = resolveEdge(now, edgeRef(was, w.edge))
    if (r.state !== 'found') return null
    out.push({ ...w, edge: r.item })
  }
  return out
}

/** Orders of groups of edges, fewest first: those that differ in how they bend, in what they lie between, in how much is taken off. */
function ordersOf(part: ExactPart, work: readonly Work[]): Work[][][] {
  const groups = groupsOf(part, work)
  const n = groups.length
  const out: Work[][][] = []
  if (n < 2) return out
  // Any of the groups first, then all others.
  for (let k = 1; k < Math.min(n, 4); k++)
    for (const some of subsets(n, k)) {
      const rest = groups.filter((_, i) => !some.includes(i))
      out.push([some.flatMap((i) => groups[i]!), rest.flat()])
    }
  if (n > 2) out.push(groups, [...groups].reverse())
  return out
}

const subsets = (n: number, k: number, from = 0): number[][] =>
  k === 0
    ? [[]]
    : Array.from({ length: Math.max(0, n - from) }, (_, i) => from + i).flatMap((i) =>
        subsets(n, k - 1, i + 1).map((rest) => [i, ...rest]),
      )

/** Groups of edges alike, those first whose both ends run into others, and those with more taken off. */
function groupsOf(part: ExactPart, work: readonly Work[]): Work[][] {
  const pairs = new Map(work.map((w) => [w.edge, part.edges[w.edge]!.faces]))
  const runsOn = ({ edge }: Work) =>
    part.vertices
      .filter((v) => meetIn(v, pairs.get(edge)!))
      .every((v) => [...pairs].some(([e, faces]) => e !== edge && meetIn(v, faces)))
  const by = new Map<string, Work[]>()
  for (const w of work) {
    const { faces, bend } = part.edges[w.edge]!
    const kinds = faces.map((f) => part.faces[f]!.kind).sort()
    const { size, end = size } = w.amount
    const key = [bend, ...kinds, size, end, runsOn(w)].join(' ')
    by.set(key, [...(by.get(key) ?? []), w])
  }
  const score = (g: Work[]) => 2 * Number(runsOn(g[0]!)) + g[0]!.amount.size / 1e3
  return [...by.values()].sort((a, b) => score(b) - score(a))
}

/** The edges together with those of the round the body came through last, from what it was before that. */
function withEarlier(
  ctx: OpContext,
  body: string,
  part: ExactPart,
  work: readonly Work[],
): Treated | null {
  const last = lastOf(body, part, ctx)
  if (last?.tool.how !== 'round') return null
  const { before, edges } = last.tool
  const own = roundsOf(ctx.op, part, work)
  const made = roundedAgain(ctx, ctx.op, before, [...edges, ...own])
  return made && { part: made, how: 'together with the round before', earlier: { before, edges } }
}

/** Edges with what rounds them, to be done about something else. */
export const roundsOf = (op: string, part: ExactPart, work: readonly Work[]): RoundedEdge[] =>
  work.map(({ edge, amount }) => ({
    op,
    ref: edgeRef(part, edge),
    bend: part.edges[edge]!.bend,
    ...amount,
  }))

/** Edges rounded as they were on another body, by one call, each told by the op that asked for it; null where one is not there for sure. */
export function roundedAgain(
  ctx: OpContext,
  op: string,
  part: ExactPart,
  edges: readonly RoundedEdge[],
): ExactPart | null {
  const work = new Map<number, EdgeWork>()
  const ops: Record<string, string> = {}
  for (const { op: own, ref, size, end } of edges) {
    const r = resolveEdge(part, ref)
    if (r.state !== 'found' || work.has(r.item)) return null
    work.set(r.item, { edge: r.item, size, ...(end === undefined ? {} : { end }) })
    if (own !== op) ops[pairOf(part, r.item)] = own
  }
  const args = { op, kind: 'fillet' as const, work: [...work.values()] }
  const made = ctx.kernel({
    verb: 'rounding',
    args: Object.keys(ops).length > 0 ? { ...args, ops } : args,
    on: [part.key],
  })
  return made.ok ? made.value[0]! : null
}

/** The names of the faces beside an edge, as its round tells them. */
const pairOf = (part: ExactPart, edge: number): string =>
  part.edges[edge]!.faces.map((f) => part.faces[f]!.names[0]!)
    .sort()
    .join('|')
