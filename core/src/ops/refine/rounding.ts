import { pointAt } from '../../curve'
import { type ExactPart, sizeOf } from '../../exact'
import { bad, type Diagnosis, dist, good, mm, type Outcome, POINT } from '../../math'
import type { EdgeRef } from '../../refs'
import {
  type Corner,
  cornersOf,
  type filletFront,
  roundingMarks,
  sectionBounds,
  type TurnedBody,
} from '../../turned'
import { ofTriangles, reshaped } from '../exact'
import { pickEdges, pickExactEdges } from '../pick'
import { type Body, type OpContext, type OpResult, volumeChange, volumeWords } from '../state'

/** What is done to an edge: to a corner of a section as it stands then, or by the exact kernel. */
export interface Treatment {
  word: 'round' | 'bevel'
  corner(b: TurnedBody, corner: Corner, name: string): Outcome<TurnedBody>
  /** mm; `end` where the two sides (of a bevel) differ. */
  size: number
  end?: number
}

/** Treats the picked edges and measures the change. */
export function treatEdges(
  ctx: OpContext,
  bodyId: string,
  refs: readonly EdgeRef[],
  treatment: Treatment,
): Outcome<OpResult> {
  const body = ctx.body(bodyId)
  if (!body) return bad('no-body', 'Choose a body; it must come earlier in the route.')
  const faceted = ofTriangles(body, 'a rounding or bevel')
  if (faceted) return faceted
  if (refs.length === 0) return bad('no-edges', 'Choose the edges on the model or the section.')
  return body.shape.kind === 'turned'
    ? onSection(ctx, body, body.shape.turned, refs, treatment)
    : onExact(ctx, body, body.shape, refs, treatment)
}

/** Every edge by one call of the kernel, which needs them all to blend where they meet. */
function onExact(
  ctx: OpContext,
  body: Body,
  part: ExactPart,
  refs: readonly EdgeRef[],
  { word, size, end }: Treatment,
): Outcome<OpResult> {
  const picked = pickExactEdges(part, refs, ctx)
  if (!picked.ok) return picked
  const kind = word === 'round' ? 'fillet' : 'chamfer'
  const edges = [...new Set(picked.value.items)]
  const job = (of: readonly number[]) =>
    ctx.kernel({
      verb: 'rounding',
      args: {
        op: ctx.op,
        kind,
        work: of.map((edge) => ({ edge, size, ...(end === undefined ? {} : { end }) })),
      },
      on: [part.key],
    })
  const made = job(edges)
  if (made.ok) {
    const now = made.value[0]!
    return good({
      bodies: { [body.id]: reshaped(body, now) },
      warnings: picked.value.warnings,
      consequence: volumeWords(part.measure.volume, now.measure.volume),
    })
  }
  const at = (i: number) => ({ at: part.edges[i]!.middle })
  if (edges.length === 1)
    return bad('no-rounding', `This edge does not take ${mm(size)} of ${word}.`, edges.map(at))
  // One by one, to name those that fail by themselves.
  const alone = edges.filter((i) => !job([i]).ok)
  if (alone.length === 0)
    return bad(
      'no-rounding',
      `Each of these edges takes ${mm(size)} of ${word} alone, but not all of them together.`,
      edges.map(at),
    )
  const others = refs.filter((_, k) => !alone.includes(picked.value.items[k]!))
  return bad(
    'no-rounding',
    `${alone.length} of ${edges.length} edges ${alone.length === 1 ? 'does' : 'do'} not take ${mm(size)} of ${word}.`,
    alone.map(at),
    others.length > 0
      ? [{ label: 'Go on with the others', op: ctx.op, inputs: { edges: others } }]
      : [],
  )
}

/** Each corner of the section in turn, as it stands then. */
function onSection(
  ctx: OpContext,
  body: Body,
  start: TurnedBody,
  refs: readonly EdgeRef[],
  { word, corner: treat }: Treatment,
): Outcome<OpResult> {
  const picked = pickEdges(start, refs, ctx)
  if (!picked.ok) return picked
  let turned = start
  const warnings: Diagnosis[] = picked.value.warnings
  const treated: Corner[] = []
  for (const corner of picked.value.items) {
    // Earlier roundings move the piece numbers on: the corner is looked up again where it stands.
    const now = cornersOf(turned).find((c) => dist(c.at, corner.at) <= 10 * POINT)
    if (!now) {
      return bad('runs-into', 'This edge is used up by the one treated before it.', [
        { at: corner.at },
      ])
    }
    const name = `${ctx.op}:${word}(${corner.before.name}|${corner.after.name})`
    const done = treat(turned, now, name)
    if (!done.ok) return shared(done.diagnosis, corner, treated) ?? done
    turned = done.value
    treated.push(corner)
  }
  return good({
    bodies: { [body.id]: { ...withShape(body, turned) } },
    warnings,
    consequence: volumeChange(start, turned),
  })
}

/** A face that is used up from both its ends at once is no matter of one value alone. */
function shared(d: Diagnosis, corner: Corner, treated: readonly Corner[]) {
  if (d.code !== 'vanishes') return null
  for (const face of [corner.before, corner.after]) {
    if (!treated.some((t) => t.before === face || t.after === face)) continue
    return bad(
      'vanishes',
      `The face ${face.name} is used up: there is no room for what is taken at both its ends.`,
      [{ at: pointAt(face.curve, 0.5) }],
    )
  }
  return null
}

/** Values at which what is taken off the picked edges changes its make-up, for the working range. */
export function marksOf(
  ctx: OpContext,
  bodyId: string,
  refs: readonly EdgeRef[],
  front: (corner: Corner, value: number) => ReturnType<typeof filletFront>,
): number[] {
  const body = ctx.body(bodyId)
  const cap = sectionSize(ctx, bodyId)
  if (body?.shape.kind !== 'turned' || cap === null) return []
  const { turned } = body.shape
  const picked = pickEdges(turned, refs, ctx)
  if (!picked.ok) return []
  return picked.value.items.flatMap((c) => roundingMarks(turned, c, (v) => front(c, v), cap))
}

export const withShape = (body: Body, turned: TurnedBody): Omit<Body, 'key'> => ({
  id: body.id,
  name: body.name,
  shape: { kind: 'turned', turned },
})

/** Whether a body's ops take the exact kernel. */
export const isExact = (ctx: OpContext, bodyId: string): boolean =>
  (ctx.body(bodyId)?.shape.kind ?? 'turned') !== 'turned'

/** No rounding or wall can be larger than the section itself, or half an exact body. */
export function sectionSize(ctx: OpContext, bodyId: string): number | null {
  const body = ctx.body(bodyId)
  if (!body) return null
  if (body.shape.kind !== 'turned') return sizeOf(body.shape) / 2
  const box = sectionBounds(body.shape.turned)
  return Math.max(box.max[0] - box.min[0], box.max[1] - box.min[1])
}
