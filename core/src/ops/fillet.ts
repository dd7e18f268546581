import { z } from 'zod'
import { bad } from '../math'
import { valueSchema } from '../profile'
import { edgeRefSchema, filletCorner } from '../turned'
import { sectionSize, treatEdges } from './rounding'
import { defineOp } from './spec'

const inputs = z.object({
  body: z.string(),
  edges: z.array(edgeRefSchema).max(500),
  radius: valueSchema,
})

export const filletOp = defineOp<z.infer<typeof inputs>>({
  kind: 'fillet',
  version: 1,
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
    return treatEdges(ctx, body, edges, 'round', (b, c, name) => filletCorner(b, c, r, name))
  },
  cap: (input, { body, edges }, ctx) =>
    input === 'radius' && edges.length > 0 ? sectionSize(ctx, body) : null,
})
