import { z } from 'zod'
import { bad } from '../../../math'
import { valueSchema } from '../../../profile'
import { faceRefSchema } from '../../../refs'
import { filletCorner, filletFront } from '../../../turned'
import { isExact, sectionSize } from '../../exact'
import { defineOp } from '../../spec'
import { fullRounds } from './full'
import { marksOf, treatEdges } from './treat'
import { edgesFields, edgesInputs } from './which'

const inputs = z.object({
  how: z.enum(['radius', 'full']).default('radius'),
  ...edgesInputs,
  middle: z.array(faceRefSchema).max(50).default([]),
  radius: valueSchema,
})

export const filletOp = defineOp<z.infer<typeof inputs>>({
  kind: 'fillet',
  version: 3,
  label: 'Fillet',
  help: 'Rounds edges so that both faces run smoothly into each other.',
  stage: 'refine',
  inputs,
  fields: [
    {
      name: 'how',
      label: 'Round',
      help: 'By a radius, or so that the face between two others becomes one round.',
      type: 'choice',
      options: [
        { value: 'radius', label: 'By a radius' },
        { value: 'full', label: 'A whole face, from side to side' },
      ],
    },
    ...edgesFields([
      { name: 'size', label: 'radius' },
      { name: 'until', label: 'to' },
    ]).map((f) => {
      const { when } = f
      if (f.name === 'body') return f
      return {
        ...f,
        when: (i: Readonly<Record<string, unknown>>) => i.how !== 'full' && (when?.(i) ?? true),
      }
    }),
    {
      name: 'middle',
      label: 'Faces',
      help: 'Each between two others of which the round touches both.',
      type: 'faces',
      when: (i) => i.how === 'full',
    },
    {
      name: 'radius',
      label: 'Radius',
      help: 'Of the round.',
      type: 'value',
      dim: 'length',
      ranged: true,
      when: (i) => i.how !== 'full',
    },
  ],
  start: ({ body }) => ({
    how: 'radius',
    body: body ?? '',
    edges: [],
    round: [],
    alike: 'no',
    middle: [],
    radius: 2,
  }),
  evaluate({ how, middle, radius, ...which }, ctx) {
    if (how === 'full') return fullRounds(ctx, which.body, middle)
    const r = ctx.read(radius, 'length')
    if (!(r > 0)) return bad('not-positive', 'The radius must be more than 0.')
    return treatEdges(ctx, which, {
      word: 'round',
      corner: (b, c, name, amount) => filletCorner(b, c, amount.size, name),
      amount: { size: r },
      own: (size, until) => (until === undefined ? { size } : { size, end: until }),
    })
  },
  cap: (input, { body, edges, round }, ctx) =>
    input === 'radius' && edges.length + round.length > 0 ? sectionSize(ctx, body) : null,
  marks: (_, which, ctx) => marksOf(ctx, which, filletFront),
  slow: ({ body }, ctx) => isExact(ctx, body),
})
