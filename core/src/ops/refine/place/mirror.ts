import { z } from 'zod'
import { bad, good, mirrorIn, type Outcome } from '../../../math'
import { exactBody, reshaped, unsound } from '../../exact'
import { defineOp } from '../../spec'
import { type OpResult, volumeWords } from '../../state'
import { doneAgain, whatFields } from '../again'

const inputs = z.object({
  what: z.enum(['body', 'ops']).default('body'),
  body: z.string(),
  ops: z.array(z.string().min(1)).max(50).default([]),
  plane: z.string().min(1),
  keep: z.enum(['joined', 'apart', 'only']).default('joined'),
})

export const mirrorOp = defineOp<z.infer<typeof inputs>>({
  kind: 'mirror',
  version: 1,
  label: 'Mirror',
  help: 'A body, or ops done again, on the other side of a plane.',
  stage: 'refine',
  inputs,
  fields: [
    ...whatFields('mirrored'),
    { name: 'plane', label: 'In', help: 'The plane of the mirror.', type: 'plane' },
    {
      name: 'keep',
      label: 'Result',
      help: 'What becomes of the two halves.',
      type: 'choice',
      options: [
        { value: 'joined', label: 'Both, joined' },
        { value: 'apart', label: 'Both, as two bodies' },
        { value: 'only', label: 'The mirrored one alone' },
      ],
      when: (i) => i.what !== 'ops',
    },
  ],
  start: ({ body }) => ({ what: 'body', body: body ?? '', ops: [], plane: 'side', keep: 'joined' }),
  evaluate({ what, body: id, ops, plane: planeId, keep }, ctx): Outcome<OpResult> {
    const plane = ctx.plane(planeId)
    if (!plane) return bad('no-plane', 'Choose the plane of the mirror.')
    if (what === 'ops') {
      const place = { motion: mirrorIn(plane.frame), word: `${ctx.op}:mirror` }
      return doneAgain(ops, id, [place], ctx)
    }
    const target = exactBody(id, ctx)
    if (!target.ok) return target
    const { body, part } = target.value
    const made = ctx.kernel({
      verb: 'move',
      args: { motion: mirrorIn(plane.frame), word: `${ctx.op}:mirror` },
      on: [part.key],
    })
    if (!made.ok) return made
    const other = made.value[0]!
    if (keep === 'only')
      return good({
        bodies: { [body.id]: reshaped(body, other) },
        warnings: [],
        consequence: 'mirrored',
      })
    if (keep === 'apart')
      return good({
        bodies: {
          [ctx.op]: { id: ctx.op, name: `${body.name} mirrored`, shape: other },
        },
        warnings: [],
        consequence: 'one more body',
      })
    const both = ctx.kernel({
      verb: 'combine',
      args: { op: ctx.op, how: 'join' },
      on: [part.key, other.key],
    })
    if (!both.ok)
      return bad(
        both.diagnosis.code,
        `The two halves could not be joined: they just touch in the plane, or nearly. Split ${body.name || 'the body'} at the plane, keep one half, and mirror that.`,
        both.diagnosis.places,
      )
    const now = both.value[0]!
    return good({
      bodies: { [body.id]: reshaped(body, now) },
      warnings: unsound(body.name, now, part.measure.solids),
      consequence: volumeWords(part.measure.volume, now.measure.volume),
    })
  },
})
