import { type ExactPart, edgeRef, edgesAlike } from '../../../exact'
import { bad, type Fix, mm, type Outcome, rounded } from '../../../math'
import type { OpContext } from '../../state'
import { treated } from './orders'
import type { Treatment, Which } from './which'
import { meetIn, scaled, type Work } from './work'

/** Edges of which the largest amount is looked for when they fail; trials for each. */
const LOOKED_AT = 3
const TRIALS = 7
/** Pairs of edges that are tried for being in each other's way. */
const PAIRS = 8

/** Why a set of edges does not hold in any way that was tried: which fail by themselves, or which are in each other's way. */
export function explained(
  ctx: OpContext,
  part: ExactPart,
  work: readonly Work[],
  which: Which,
  t: Treatment,
): Outcome<never> {
  const tried = new Map<string, boolean>()
  const alone = work.filter((w) => {
    // Edges alike do alike.
    const like = likeOf(part, w)
    const holds = tried.get(like) ?? treated(ctx, part, [w], t) !== null
    tried.set(like, holds)
    return !holds
  })
  return alone.length === 0
    ? inTheWay(ctx, part, work, which, t)
    : tooMuch(ctx, part, work, alone, which, t)
}

/** What edges have in common that are alike. */
function likeOf(part: ExactPart, { edge, amount }: Work): string {
  const { faces, bend, length, circle } = part.edges[edge]!
  const near = (x: number) => x.toPrecision(6)
  const sides = faces.map((f) => `${part.faces[f]!.kind} ${near(part.faces[f]!.area)}`).sort()
  return [
    bend,
    near(length),
    circle ? near(circle.radius) : '',
    ...sides,
    ...Object.values(amount),
  ].join()
}

const at = (part: ExactPart, w: Work, label?: string) => ({
  at: part.edges[w.edge]!.middle,
  ...(label ? { label } : {}),
})

/** Each holds alone: which two do not hold together, and how much all of them take. */
function inTheWay(
  ctx: OpContext,
  part: ExactPart,
  work: readonly Work[],
  { edges }: Which,
  t: Treatment,
): Outcome<never> {
  const two = pairsOf(part, work).find((pair) => treated(ctx, part, pair, t) === null)
  const { held, fixes } = commonOf(ctx, part, work, edges, t)
  const takes = held > 0 ? ` Together they take ${mm(held, 2)}.` : ''
  return two
    ? bad(
        'no-rounding',
        `Each of these edges takes its ${t.word} alone, but two of them are in each other’s way.${takes}`,
        two.map((w, i) => at(part, w, ['this one', 'and this one'][i])),
        fixes,
      )
    : bad(
        'no-rounding',
        `Each of these edges takes its ${t.word} alone, but not all of them together.${takes}`,
        work.map((w) => at(part, w)),
        fixes,
      )
}

/** How much all edges of a set take in one call, in the proportion asked, and the fix that gives them so much. */
function commonOf(
  ctx: OpContext,
  part: ExactPart,
  work: readonly Work[],
  edges: Which['edges'],
  t: Treatment,
): { held: number; fixes: Fix[] } {
  const { size } = t.amount
  const by = (share: number) => work.map((w) => ({ ...w, amount: scaled(w.amount, share) }))
  const { held } = mostOf(size, (share) => treated(ctx, part, by(share), t) !== null)
  if (!(held > 0)) return { held, fixes: [] }
  const share = held / size
  const own = edges.map((e) => ({
    ...e,
    ...(typeof e.size === 'number' ? { size: e.size * share } : {}),
    ...(typeof e.until === 'number' ? { until: e.until * share } : {}),
  }))
  const inputs = { [t.word === 'round' ? 'radius' : 'distance']: held, edges: own }
  return { held, fixes: [{ label: `All of them by ${mm(held, 2)}`, op: ctx.op, inputs }] }
}

/** Pairs of edges beside each other, those first that share a corner, of pairs alike one. */
function pairsOf(part: ExactPart, work: readonly Work[]): [Work, Work][] {
  const told = new Set<string>()
  const faces = (w: Work) => part.edges[w.edge]!.faces
  const corner = (a: Work, b: Work) =>
    part.vertices.some((v) => meetIn(v, [...faces(a), ...faces(b)]))
  return work
    .flatMap((a, i) =>
      work.slice(i + 1).flatMap((b) => {
        if (!faces(a).some((f) => faces(b).includes(f))) return []
        const near = corner(a, b)
        const key = [near, ...[likeOf(part, a), likeOf(part, b)].sort()].join()
        if (told.has(key)) return []
        told.add(key)
        return [{ pair: [a, b] as [Work, Work], near }]
      }),
    )
    .sort((a, b) => Number(b.near) - Number(a.near))
    .slice(0, PAIRS)
    .map(({ pair }) => pair)
}

/** Some fail by themselves: how much each takes, or what more has to be chosen for them to hold. */
function tooMuch(
  ctx: OpContext,
  part: ExactPart,
  work: readonly Work[],
  alone: readonly Work[],
  { edges }: Which,
  t: Treatment,
): Outcome<never> {
  const { word } = t
  const more = companions(part, work, alone, t)
  if (more.length > 0 && treated(ctx, part, [...work, ...more], t)) {
    const n = more.length
    return bad(
      'no-rounding',
      `${work.length === 1 ? 'This edge does' : 'These edges do'} not take ${mm(t.amount.size, 2)} of ${word} without ${n === 1 ? 'the one' : `the ${n}`} that run into ${work.length === 1 ? 'it' : 'them'}; together they do.`,
      [...alone.map((w) => at(part, w)), ...more.map((w) => at(part, w, 'with this one'))],
      [
        {
          label: `Together with ${n === 1 ? 'that edge' : `those ${n} edges`}`,
          op: ctx.op,
          inputs: { edges: [...edges, ...more.map((w) => edgeRef(part, w.edge))] },
        },
      ],
    )
  }
  // Edges alike take alike.
  const known = new Map<string, ReturnType<typeof mostOf>>()
  const most: ReturnType<typeof mostOf>[] = []
  for (const w of alone) {
    const like = likeOf(part, w)
    if (!known.has(like)) {
      if (known.size === LOOKED_AT) break
      const own = (share: number) => [{ ...w, amount: scaled(w.amount, share) }]
      known.set(
        like,
        mostOf(w.amount.size, (share) => treated(ctx, part, own(share), t) !== null),
      )
    }
    most.push(known.get(like)!)
  }
  const takes = most.map(({ held, failed }) =>
    held > 0 ? `takes ${mm(held, 2)}, not ${mm(failed, 2)}` : 'takes none by itself',
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
    const each = work.map((w) => {
      const size = own.get(w.edge)
      return size === undefined ? w : { ...w, amount: scaled(w.amount, size / w.amount.size) }
    })
    if (treated(ctx, part, each, t))
      fixes.push({
        label:
          alone.length === 1
            ? `Give it ${mm(most[0]!.held, 2)}`
            : 'Give each of them what it takes',
        op: ctx.op,
        inputs: { edges: [...taken, ...named] },
      })
  }
  if (work.length > 1) fixes.push(...commonOf(ctx, part, work, edges, t).fixes)
  const failing = new Set(alone.map((w) => w.ref))
  const others = edges.filter((r) => !failing.has(r))
  const left = work.filter((w) => !failing.has(w.ref))
  if (others.length > 0 && others.length < edges.length && treated(ctx, part, left, t))
    fixes.push({ label: 'Go on with the others', op: ctx.op, inputs: { edges: others } })
  return bad(
    'no-rounding',
    message,
    alone.map((w, i) => at(part, w, takes[i])),
    fixes,
  )
}

/** Edges that run into those that fail, and those alike them of other copies, not chosen yet. */
function companions(
  part: ExactPart,
  work: readonly Work[],
  alone: readonly Work[],
  t: Treatment,
): Work[] {
  const chosen = new Set(work.map((w) => w.edge))
  const out = new Set<number>()
  for (const w of alone) {
    const { faces } = part.edges[w.edge]!
    const ends = part.vertices.filter((v) => meetIn(v, faces))
    for (const [e, { faces: own, bend }] of part.edges.entries())
      if (own.length === 2 && bend !== 'smooth' && ends.some((v) => meetIn(v, own))) out.add(e)
    for (const e of edgesAlike(part, w.edge)) out.add(e)
  }
  return [...out]
    .filter((e) => !chosen.has(e))
    .map((edge) => ({ edge, amount: t.amount, ref: null }))
}

const sized = (size: number): string => (size < 5e-4 ? 'less than 0.001 mm' : mm(size))

/** The largest share of an amount that was found to hold, as mm to 0.01, 0 where none, and the least that failed. */
function mostOf(size: number, holds: (share: number) => boolean): { held: number; failed: number } {
  let [low, high] = [0, 1]
  for (let k = 0; k < TRIALS; k++) {
    const mid = (low + high) / 2
    if (holds(mid)) low = mid
    else high = mid
  }
  const cents = (x: number) => rounded(x * size * 100, 6)
  return { held: Math.floor(cents(low)) / 100, failed: Math.ceil(cents(high)) / 100 }
}
