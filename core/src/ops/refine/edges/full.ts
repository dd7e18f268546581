import { type ExactPart, fullRadius } from '../../../exact'
import { bad, good, mm, type Outcome } from '../../../math'
import type { FaceRef } from '../../../refs'
import { facesOf, fullRound, type TurnedBody } from '../../../turned'
import { ofTriangles, reshaped, withShape } from '../../exact'
import { pickExactFaces, pickFaces } from '../../pick'
import { type Body, type OpContext, type OpResult, volumeChange, volumeWords } from '../../state'

/** Each of the faces becomes one round that touches both its neighbours. */
export function fullRounds(
  ctx: OpContext,
  bodyId: string,
  middle: readonly FaceRef[],
): Outcome<OpResult> {
  const body = ctx.body(bodyId)
  if (!body) return bad('no-body', 'Choose a body; it must come earlier in the route.')
  const faceted = ofTriangles(body, 'a rounding')
  if (faceted) return faceted
  if (middle.length === 0)
    return bad('no-faces', 'Choose the faces that are to become round from side to side.')
  return body.shape.kind === 'turned'
    ? turnedRounds(ctx, body, body.shape.turned, middle)
    : exactRounds(ctx, body, body.shape, middle)
}

function turnedRounds(
  ctx: OpContext,
  body: Body,
  start: TurnedBody,
  middle: readonly FaceRef[],
): Outcome<OpResult> {
  const picked = pickFaces(start, middle, ctx, 'middle')
  if (!picked.ok) return picked
  let turned = start
  for (const { seg, at } of picked.value.items) {
    const now = facesOf(turned).find((f) => f.seg === seg)
    if (!now) return bad('runs-into', `The face ${seg.name} is used up by another round.`, [{ at }])
    const made = fullRound(
      turned,
      now.seg,
      (p, q) => `${ctx.op}:round(${[p.name, q.name].join('|')})`,
    )
    if (!made.ok) return made
    turned = made.value
  }
  return good({
    bodies: { [body.id]: withShape(body, turned) },
    warnings: picked.value.warnings,
    consequence: volumeChange(start, turned),
  })
}

/** The kernel rounds up to, but not quite, the middle of a face, mm: what is left of it. */
const LEFT = 1e-5

function exactRounds(
  ctx: OpContext,
  body: Body,
  part: ExactPart,
  middle: readonly FaceRef[],
): Outcome<OpResult> {
  const picked = pickExactFaces(part, middle, ctx, 'middle')
  if (!picked.ok) return picked
  const work: { edge: number; size: number }[] = []
  const radii: number[] = []
  for (const face of picked.value.items) {
    const wide = fullRadius(part, face)
    if (!wide.ok) return wide
    const radius = wide.value.radius * (1 - 2e-7) - LEFT
    radii.push(radius)
    for (const edge of wide.value.sides) work.push({ edge, size: radius })
  }
  const made = ctx.kernel({
    verb: 'rounding',
    args: { op: ctx.op, kind: 'fillet', work },
    on: [part.key],
  })
  if (!made.ok)
    return bad(
      'no-full-round',
      `No full round of ${radii.map((r) => mm(r, 2)).join(', ')} is found here: ${made.diagnosis.message}`,
      picked.value.items.map((f) => ({ at: part.faces[f]!.middle })),
    )
  const now = made.value[0]!
  return good({
    bodies: { [body.id]: reshaped(body, now) },
    warnings: picked.value.warnings,
    consequence: `radius ${radii.map((r) => mm(r, 2)).join(', ')}, ${volumeWords(part.measure.volume, now.measure.volume)}`,
  })
}
