import { z } from 'zod'
import { bad, good } from '../../../math'
import { exactBody, loosePieces, reshaped } from '../../exact'
import { mirrorIn } from '../../motions'
import { defineOp } from '../../spec'
import { volumeWords } from '../../state'

const inputs = z.object({
  body: z.string(),
  plane: z.string().min(1),
  keep: z.enum(['joined', 'apart', 'only']).default('joined'),
})

export const mirrorOp = defineOp<z.infer<typeof inputs>>({
  kind: 'mirror',
  version: 1,
  label: 'Mirror',
  help: 'The body on the other side of a plane.',
  stage: 'refine',
  inputs,
  fields: [
    { name: 'body', label: 'Body', help: 'The body that is mirrored.', type: 'body' },
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
    },
  ],
  start: ({ body }) => ({ body: body ?? '', plane: 'side', keep: 'joined' }),
  evaluate({ body: id, plane: planeId, keep }, ctx) {
    const target = exactBody(id, ctx)
    if (!target.ok) return target
    const { body, part } = target.value
    const plane = ctx.plane(planeId)
    if (!plane) return bad('no-plane', 'Choose the plane of the mirror.')
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
    if (!both.ok) return both
    const now = both.value[0]!
    return good({
      bodies: { [body.id]: reshaped(body, now) },
      warnings: loosePieces(body.name, now, part.measure.solids),
      consequence: volumeWords(part.measure.volume, now.measure.volume),
    })
  },
})
