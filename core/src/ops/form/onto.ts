import { z } from 'zod'
import type { ExactPart } from '../../exact'
import type { How } from '../../kernel'
import { good, type Outcome } from '../../math'
import { exactOf, loosePieces, reshaped, unchanged } from '../exact'
import type { Field } from '../spec'
import { type Body, type OpContext, type OpResult, volumeWords } from '../state'

/** How what a profile makes acts on a body that is there. */
export const ontoInputs = {
  mode: z.enum(['new', 'join', 'cut', 'meet']),
  body: z.string().optional(),
}
export const ontoFields: Field[] = [
  {
    name: 'mode',
    label: 'Result',
    help: 'A new body, or how it acts on one that is there.',
    type: 'choice',
    options: [
      { value: 'new', label: 'A body of its own' },
      { value: 'join', label: 'Added to' },
      { value: 'cut', label: 'Taken from' },
      { value: 'meet', label: 'Only what both share with' },
    ],
  },
  {
    name: 'body',
    label: 'Body',
    help: 'The body it acts on.',
    type: 'body',
    when: (i) => i.mode !== 'new',
  },
]

/** A body joined with, cut by or met with a part of the exact kernel. */
export function onto(target: Body, tool: ExactPart, how: How, ctx: OpContext): Outcome<OpResult> {
  const part = exactOf(target, ctx)
  if (!part.ok) return part
  const made = ctx.kernel({
    verb: 'combine',
    args: { op: ctx.op, how },
    on: [part.value.key, tool.key],
  })
  if (!made.ok) return made
  const [before, now] = [part.value, made.value[0]!]
  return good({
    bodies: { [target.id]: reshaped(target, now) },
    ...(how === 'meet'
      ? {}
      : { tool: { how, body: target.id, shapes: [tool], before: part.value } }),
    warnings: [
      ...unchanged(target.name, how, before, now),
      ...loosePieces(target.name, now, before.measure.solids),
    ],
    consequence: volumeWords(before.measure.volume, now.measure.volume),
  })
}
