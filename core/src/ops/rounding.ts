import { bad, type Diagnosis, good, type Outcome } from '../math'
import {
  type Corner,
  type EdgeRef,
  edgeRef,
  resolveEdge,
  sectionBounds,
  type TurnedBody,
} from '../turned'
import { pickEdges } from './pick'
import { type Body, type OpContext, type OpResult, sectionOf, volumeChange } from './state'

/** Treats each picked edge in turn (`treat` gets the corner as it stands then) and measures the change. */
export function treatEdges(
  ctx: OpContext,
  bodyId: string,
  refs: readonly EdgeRef[],
  word: string,
  treat: (b: TurnedBody, corner: Corner, name: string) => Outcome<TurnedBody>,
): Outcome<OpResult> {
  const body = ctx.body(bodyId)
  if (!body) return bad('no-body', 'Choose a body; it must come earlier in the route.')
  if (refs.length === 0) return bad('no-edges', 'Choose the edges on the model or the section.')
  const section = sectionOf(body)
  if (!section.ok) return section
  const start = section.value
  const picked = pickEdges(start, refs, ctx.op)
  if (!picked.ok) return picked
  let turned = start
  const warnings: Diagnosis[] = picked.value.warnings
  for (const corner of picked.value.items) {
    // Earlier roundings move the piece numbers on: the corner is looked up again by name.
    const now = resolveEdge(turned, edgeRef(start, corner))
    if (now.state === 'lost') {
      return bad('runs-into', 'An edge is used up by the one treated before it.', [
        { at: corner.at },
      ])
    }
    const name = `${ctx.op}:${word}(${corner.before.name}|${corner.after.name})`
    const done = treat(turned, now.item, name)
    if (!done.ok) return done
    turned = done.value
  }
  return good({
    bodies: { [body.id]: { ...withShape(body, turned) } },
    warnings,
    consequence: volumeChange(start, turned),
  })
}

export const withShape = (body: Body, turned: TurnedBody): Omit<Body, 'key'> => ({
  id: body.id,
  name: body.name,
  shape: { kind: 'turned', turned },
})

/** No rounding or wall can be larger than the section itself. */
export function sectionSize(ctx: OpContext, bodyId: string): number | null {
  const body = ctx.body(bodyId)
  if (body?.shape.kind !== 'turned') return null
  const box = sectionBounds(body.shape.turned)
  return Math.max(box.max[0] - box.min[0], box.max[1] - box.min[1])
}
