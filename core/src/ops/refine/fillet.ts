import { z } from 'zod'
import { bad } from '../../math'
import { valueSchema } from '../../profile'
import { edgeRefSchema } from '../../refs'
import { filletCorner, filletFront } from '../../turned'
import { defineOp } from '../spec'
import { isExact, marksOf, sectionSize, treatEdges } from './rounding'

const inputs = z.object({
  body: z.string(),
  edges: z.array(edgeRefSchema).max(500),
  radius: valueSchema,
})

export const filletOp = defineOp<z.infer<typeof inputs>>({
  kind: 'fillet',
  version: 2,
  label: 'Fillet',
  help: 'Rounds edges so that both faces run smoothly into each other.',
  stage: 'refine',
  inputs,
  fields: [
    { name: 'body', label: 'Body', help: 'The body to round.', type: 'body' },
    { name: 'edges', label: 'Edges', help: 'Picked on the model or the section.', type: 'edges' },
    {
      name: 'radius',
      label: 'Radius',
      help: 'Of the round.',
      type: 'value',
      dim: 'length',
      ranged: true,
    },
  ],
  start: ({ body }) => ({ body: body ?? '', edges: [], radius: 2 }),
  evaluate({ body, edges, radius }, ctx) {
    const r = ctx.read(radius, 'length')
    if (!(r > 0)) return bad('not-positive', 'The radius must be more than 0.')
    return treatEdges(ctx, body, edges, {
      word: 'round',
      corner: (b, c, name) => filletCorner(b, c, r, name),
      size: r,
    })
  },
  cap: (input, { body, edges }, ctx) =>
    input === 'radius' && edges.length > 0 ? sectionSize(ctx, body) : null,
  marks: (_, { body, edges }, ctx) => marksOf(ctx, body, edges, filletFront),
  slow: ({ body }, ctx) => isExact(ctx, body),
})
