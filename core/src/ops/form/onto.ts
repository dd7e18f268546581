import { z } from 'zod'
import type { ExactPart } from '../../exact'
import type { How } from '../../kernel'
import { type Diagnosis, good, type Outcome } from '../../math'
import { exactBody, exactOf, reshaped, unchanged, unsound } from '../exact'
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

/**
 * A part as its op was asked: a body of its own, or acting on the one named. `words` come before the change of volume, and `first`
 * before them where it is a body of its own.
 */
export function placed(
  part: ExactPart,
  { mode, body }: { mode: string; body?: string | undefined },
  ctx: OpContext,
  {
    warnings = [],
    words = '',
    first = '',
  }: { warnings?: Diagnosis[]; words?: string; first?: string },
): Outcome<OpResult> {
  if (mode === 'new')
    return good({
      bodies: { [ctx.op]: { id: ctx.op, name: '', shape: part } },
      warnings,
      consequence: `${first}${words}${volumeWords(0, part.measure.volume)}`,
    })
  const target = exactBody(body ?? '', ctx)
  if (!target.ok) return target
  const made = onto(target.value.body, part, mode as How, ctx)
  if (!made.ok) return made
  made.value.warnings.unshift(...warnings)
  made.value.consequence = `${words}${made.value.consequence}`
  return made
}

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
      ...unchanged(target.name, how, before, now, [tool]),
      ...unsound(target.name, now, before.measure.solids),
    ],
    consequence: volumeWords(before.measure.volume, now.measure.volume),
  })
}
