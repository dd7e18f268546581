import { type ExactPart, edgeRef, edgesAlike } from '../../../exact'
import { bad, type Diagnosis, type Fix, good, mm, type Outcome, rounded } from '../../../math'
import { reshaped } from '../../exact'
import { pickExactEdges, pickExactFaces } from '../../pick'
import {
  type Body,
  type OpContext,
  type OpResult,
  type RoundedEdge,
  volumeWords,
} from '../../state'
import { type Amount, type OwnEdge, ownAmount, type Treatment, type Which } from './which'

interface Work {
  edge: number
  amount: Amount
  /** The reference it is one of; none where a face brought it in. */
  ref: OwnEdge | null
}

/** Every edge by one call of the kernel, which needs them all to blend where they meet. */
export function onExact(
  ctx: OpContext,
  body: Body,
  part: ExactPart,
  which: Which,
  t: Treatment,
): Outcome<OpResult> {
  const chosen = workOf(ctx, part, which, t)
  if (!chosen.ok) return chosen
  const { work, warnings } = chosen.value
  const made = treated(ctx, part, work, t)
  if (!made.ok) return explained(ctx, part, work, which, t)
  const now = made.value[0]!
  const some = work.length === which.edges.length ? '' : `, ${work.length} edges`
  return good({
    bodies: { [body.id]: reshaped(body, now) },
    ...(t.word === 'round'
      ? { tool: { how: 'round', body: body.id, edges: roundedOf(part, work), before: part } }
      : {}),
    warnings,
    consequence: volumeWords(part.measure.volume, now.measure.volume) + some,
  })
}

const roundedOf = (part: ExactPart, work: readonly Work[]): RoundedEdge[] =>
  work.map(({ edge, amount }) => ({
    ref: edgeRef(part, edge),
    bend: part.edges[edge]!.bend,
    ...amount,
  }))

/** The edges meant, each once, with what is taken off it. */
function workOf(
  ctx: OpContext,
  part: ExactPart,
  { edges, round, alike }: Which,
  t: Treatment,
): Outcome<{ work: Work[]; warnings: Diagnosis[] }> {
  const picked = pickExactEdges(part, edges, ctx)
  if (!picked.ok) return picked
  const faces = pickExactFaces(part, round, ctx, 'round')
  if (!faces.ok) return faces
  const work: Work[] = []
  const add = (w: Work) => {
    if (!work.some((x) => x.edge === w.edge)) work.push(w)
  }
  for (const [i, edge] of picked.value.items.entries()) {
    const ref = edges[i]!
    const own = ownAmount(ref, t, ctx)
    if (!own.ok) return own
    add({ edge, amount: own.value ?? t.amount, ref })
  }
  if (alike === 'yes')
    for (const w of [...work]) for (const edge of edgesAlike(part, w.edge)) add({ ...w, edge })
  for (const face of faces.value.items)
    for (const [edge, e] of part.edges.entries())
      if (e.faces.length === 2 && e.faces.includes(face) && e.bend !== 'smooth')
        add({ edge, amount: t.amount, ref: null })
  if (work.length === 0)
    return bad('no-edges', 'These faces have no edge that could be treated: they run on smoothly.')
  return good({ work, warnings: [...picked.value.warnings, ...faces.value.warnings] })
}

const treated = (ctx: OpContext, part: ExactPart, work: readonly Work[], { word }: Treatment) =>
  ctx.kernel({
    verb: 'rounding',
    args: {
      op: ctx.op,
      kind: word === 'round' ? 'fillet' : 'chamfer',
      work: work.map(({ edge, amount }) => ({ edge, ...amount })),
    },
    on: [part.key],
  })

/** Edges of which the largest amount is looked for when they fail; trials for each. */
const LOOKED_AT = 3
const TRIALS = 7

/** Which edges fail by themselves, and what each of them takes. */
function explained(
  ctx: OpContext,
  part: ExactPart,
  work: readonly Work[],
  { edges }: Which,
  t: Treatment,
): Outcome<never> {
  const { word } = t
  const alone = work.filter((w) => !treated(ctx, part, [w], t).ok)
  const at = (w: Work, label?: string) => ({
    at: part.edges[w.edge]!.middle,
    ...(label ? { label } : {}),
  })
  if (alone.length === 0)
    return bad(
      'no-rounding',
      `Each of these edges takes its ${word} alone, but not all of them together.`,
      work.map((w) => at(w)),
    )
  const most = alone.slice(0, LOOKED_AT).map((w) => mostOf(ctx, part, w, t))
  const takes = most.map(({ held, failed }) =>
    held > 0 ? `takes ${mm(held, 2)}, not ${mm(failed, 2)}` : 'takes none',
  )
  const size = alone[0]!.amount.size
  const message =
    work.length === 1
      ? `This edge does not take ${sized(size)} of ${word}; it ${takes[0]}.`
      : `${alone.length} of ${work.length} edges ${alone.length === 1 ? 'does' : 'do'} not take ${sized(size)} of ${word}; ${alone.length === 1 ? 'it' : 'the first'} ${takes[0]}.`
  const fixes: Fix[] = []
  if (most.length === alone.length && most.every((m) => m.held > 0)) {
    const own = new Map(alone.map((w, i) => [w.edge, most[i]!.held]))
    const taken = edges.map((ref) => {
      const w = alone.find((x) => x.ref === ref)
      return w ? { ...ref, size: own.get(w.edge)! } : ref
    })
    // Edges that a face or a likeness brought in become picked ones, with a size of their own.
    const named = alone.flatMap((w) =>
      w.ref && taken.some((r) => r.size === own.get(w.edge))
        ? []
        : [{ ...edgeRef(part, w.edge), size: own.get(w.edge)! }],
    )
    fixes.push({
      label:
        alone.length === 1 ? `Give it ${mm(most[0]!.held, 2)}` : 'Give each of them what it takes',
      op: ctx.op,
      inputs: { edges: [...taken, ...named] },
    })
  }
  const failing = new Set(alone.map((w) => w.ref))
  const others = edges.filter((r) => !failing.has(r))
  if (others.length > 0 && others.length < edges.length)
    fixes.push({ label: 'Go on with the others', op: ctx.op, inputs: { edges: others } })
  return bad(
    'no-rounding',
    message,
    alone.map((w, i) => at(w, takes[i])),
    fixes,
  )
}

/** An amount for a sentence: what rounds to nothing is not called nothing. */
const sized = (size: number): string => (size < 5e-4 ? 'less than 0.001 mm' : mm(size))

/**
 * The largest amount that was found to hold by itself on an edge, mm to 0.01, in the proportion asked, 0 where none, and the least that
 * failed.
 */
function mostOf(
  ctx: OpContext,
  part: ExactPart,
  w: Work,
  t: Treatment,
): { held: number; failed: number } {
  const { size, end } = w.amount
  const holds = (share: number) => {
    const amount = { size: size * share, ...(end === undefined ? {} : { end: end * share }) }
    return treated(ctx, part, [{ ...w, amount }], t).ok
  }
  let [low, high] = [0, 1]
  for (let k = 0; k < TRIALS; k++) {
    const mid = (low + high) / 2
    if (holds(mid)) low = mid
    else high = mid
  }
  const cents = (x: number) => rounded(x * size * 100, 6)
  return { held: Math.floor(cents(low)) / 100, failed: Math.ceil(cents(high)) / 100 }
}
