import { pointAt } from '../../../curve'
import { bad, type Diagnosis, dist, good, type Outcome, POINT } from '../../../math'
import type { FaceRef } from '../../../refs'
import { type Corner, cornersOf, isSharp, type TurnedBody } from '../../../turned'
import { withShape } from '../../exact'
import { pickEdges, pickFaces } from '../../pick'
import { type Body, type OpContext, type OpResult, volumeChange } from '../../state'
import { type Amount, type OwnEdge, ownAmount, type Treatment } from './which'

/** The sharp corners at the ends of picked faces. */
export function cornersRound(
  b: TurnedBody,
  faces: readonly FaceRef[],
  ctx: OpContext,
): Outcome<{ items: Corner[]; warnings: Diagnosis[] }> {
  const picked = pickFaces(b, faces, ctx, 'round')
  if (!picked.ok) return picked
  const segs = picked.value.items.map((f) => f.seg)
  const items = cornersOf(b).filter(
    (c) => isSharp(c) && (segs.includes(c.before) || segs.includes(c.after)),
  )
  return good({ items, warnings: picked.value.warnings })
}

/** Each corner of the section in turn, as it stands then. */
export function onSection(
  ctx: OpContext,
  body: Body,
  start: TurnedBody,
  { edges, round }: { edges: readonly OwnEdge[]; round: readonly FaceRef[] },
  t: Treatment,
): Outcome<OpResult> {
  const picked = pickEdges(start, edges, ctx)
  if (!picked.ok) return picked
  const about = cornersRound(start, round, ctx)
  if (!about.ok) return about
  const work: { corner: Corner; amount: Amount }[] = []
  for (const [i, corner] of picked.value.items.entries()) {
    const own = ownAmount(edges[i]!, t, ctx)
    if (!own.ok) return own
    if (t.word === 'round' && own.value?.end !== undefined)
      return bad(
        'closed-edge',
        'An edge that runs round and closes on itself cannot change its radius.',
        [{ at: corner.at }],
      )
    work.push({ corner, amount: own.value ?? t.amount })
  }
  for (const corner of about.value.items)
    if (!work.some((w) => w.corner.seg === corner.seg && w.corner.loop === corner.loop))
      work.push({ corner, amount: t.amount })
  let turned = start
  const treated: Corner[] = []
  for (const { corner, amount } of work) {
    // Earlier roundings move the piece numbers on: the corner is looked up again where it stands.
    const now = cornersOf(turned).find((c) => dist(c.at, corner.at) <= 10 * POINT)
    if (!now) {
      return bad('runs-into', 'This edge is used up by the one treated before it.', [
        { at: corner.at },
      ])
    }
    const name = `${ctx.op}:${t.word}(${corner.before.name}|${corner.after.name})`
    const done = t.corner(turned, now, name, amount)
    if (!done.ok) return shared(done.diagnosis, corner, treated) ?? done
    turned = done.value
    treated.push(corner)
  }
  return good({
    bodies: { [body.id]: withShape(body, turned) },
    warnings: [...picked.value.warnings, ...about.value.warnings],
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
