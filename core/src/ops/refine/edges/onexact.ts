import type { ExactPart } from '../../../exact'
import { good, type Outcome } from '../../../math'
import { reshaped } from '../../exact'
import { type Body, type OpContext, type OpResult, volumeWords } from '../../state'
import { explained } from './explain'
import { roundsOf, treatedSomehow } from './orders'
import type { Treatment, Which } from './which'
import { workOf } from './work'

/** Every edge by one call of the kernel, which needs them all to blend where they meet; else as they hold. */
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
  const made = treatedSomehow(ctx, body.id, part, work, t)
  if (!made) return explained(ctx, part, work, which, t)
  const { part: now, how, earlier } = made
  const some = work.length === which.edges.length ? '' : `, ${work.length} edges`
  return good({
    bodies: { [body.id]: reshaped(body, now) },
    ...(t.word === 'round'
      ? {
          tool: {
            how: 'round',
            body: body.id,
            edges: [...(earlier?.edges ?? []), ...roundsOf(ctx.op, part, work)],
            before: earlier?.before ?? part,
          },
        }
      : {}),
    warnings,
    consequence: `${volumeWords(part.measure.volume, now.measure.volume)}${some}${how ? `, ${how}` : ''}`,
  })
}
