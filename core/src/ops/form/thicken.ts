import { z } from 'zod'
import { bad, type Outcome } from '../../math'
import { valueSchema } from '../../profile'
import { defineOp } from '../spec'
import type { OpResult } from '../state'
import { ontoFields, ontoInputs, placed } from './onto'
import { quilted } from './quilted'
import { walledSkin } from './walled'

const inputs = z.object({
  sheet: z.string(),
  side: z.enum(['one', 'other', 'middle']).default('one'),
  wall: valueSchema.default(2),
  /** The plane the wall is square to; where none is told it is square to the sheet. */
  along: z.string().optional(),
  ...ontoInputs,
})

export const thickenOp = defineOp<z.infer<typeof inputs>>({
  kind: 'thicken',
  version: 1,
  label: 'Thicken',
  help: 'A sheet given a wall: on its light side, its dark side, or both.',
  stage: 'form',
  inputs,
  fields: [
    { name: 'sheet', label: 'Sheet', help: 'What gets a wall.', type: 'sheet' },
    {
      name: 'side',
      label: 'Lies',
      help: 'The sides of a sheet are told apart by their tint.',
      type: 'choice',
      options: [
        { value: 'one', label: 'on its light side' },
        { value: 'other', label: 'on its dark side' },
        { value: 'middle', label: 'half on each side' },
      ],
    },
    {
      name: 'wall',
      label: 'Wall',
      help: 'How thick it is.',
      type: 'value',
      dim: 'length',
      ranged: true,
    },
    {
      name: 'along',
      label: 'Square to',
      help: 'Even walls stand square to the sheet; straight ones all in the direction square to a plane.',
      type: 'plane',
      none: 'the sheet everywhere',
    },
    ...ontoFields,
  ],
  start: ({ body }) => ({
    sheet: '',
    side: 'one',
    wall: 2,
    mode: 'new',
    ...(body ? { body } : {}),
  }),
  evaluate(input, ctx): Outcome<OpResult> {
    const sheet = ctx.sheet(input.sheet)
    if (!sheet) return bad('no-sheet', 'Choose the sheet that gets a wall; a loft can be one.')
    const { patches, closed } = sheet
    const made = ctx.once('wall', () => walledSkin(patches, closed, input, input.side, ctx))
    if (!made.ok) return made
    const { flats, words, wall } = made.value
    const part = quilted(made.value.patches, flats, ctx, wall)
    if (!part.ok) return part
    return placed(part.value, input, ctx, { words })
  },
  // No thicker than the way across it is worth searching.
  cap: (_, { sheet }, ctx) => {
    const found = ctx.sheet(sheet)
    if (!found) return null
    const xs = found.patches.flatMap(({ patch }) => [...patch.poles])
    const spans = [0, 1, 2].map((k) => {
      const of = xs.filter((_, i) => i % 3 === k)
      return Math.max(...of) - Math.min(...of)
    })
    return Math.max(...spans) / 2 || null
  },
  slow: () => true,
})
