import { bad, type Outcome } from '../../../math'
import { type Corner, type filletFront, roundingMarks } from '../../../turned'
import { ofTriangles, sectionSize } from '../../exact'
import { pickEdges } from '../../pick'
import type { OpContext, OpResult } from '../../state'
import { onExact } from './onexact'
import { cornersRound, onSection } from './section'
import type { Treatment, Which } from './which'

/** Treats the chosen edges and measures the change. */
export function treatEdges(ctx: OpContext, which: Which, t: Treatment): Outcome<OpResult> {
  const body = ctx.body(which.body)
  if (!body) return bad('no-body', 'Choose a body; it must come earlier in the route.')
  const faceted = ofTriangles(body, 'a rounding or bevel')
  if (faceted) return faceted
  if (which.edges.length + which.round.length === 0)
    return bad('no-edges', 'Choose the edges on the model or the section.')
  return body.shape.kind === 'turned'
    ? onSection(ctx, body, body.shape.turned, which, t)
    : onExact(ctx, body, body.shape, which, t)
}

/** Values at which what is taken off the picked edges changes its make-up, for the working range. */
export function marksOf(
  ctx: OpContext,
  which: Which,
  front: (corner: Corner, value: number) => ReturnType<typeof filletFront>,
): number[] {
  const body = ctx.body(which.body)
  const cap = sectionSize(ctx, which.body)
  if (body?.shape.kind !== 'turned' || cap === null) return []
  const { turned } = body.shape
  const picked = pickEdges(turned, which.edges, ctx)
  const about = cornersRound(turned, which.round, ctx)
  if (!picked.ok || !about.ok) return []
  return [...picked.value.items, ...about.value.items].flatMap((c) =>
    roundingMarks(turned, c, (v) => front(c, v), cap),
  )
}
