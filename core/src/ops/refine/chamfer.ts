import { z } from 'zod'
import { bad } from '../../math'
import { valueSchema } from '../../profile'
import { edgeRefSchema } from '../../refs'
import { chamferCorner, chamferFront } from '../../turned'
import { defineOp } from '../spec'
import { isExact, marksOf, sectionSize, treatEdges } from './rounding'

const inputs = z.object({
  body: z.string(),
  edges: z.array(edgeRefSchema).max(500),
  distance: valueSchema,
  second: valueSchema.optional(),
})

export const chamferOp = defineOp<z.infer<typeof inputs>>({
  kind: 'chamfer',
  version: 2,
  label: 'Chamfer',
  help: 'Bevels edges by a straight face.',
  stage: 'refine',
  inputs,
  fields: [
    { name: 'body', label: 'Body', help: 'The body to bevel.', type: 'body' },
    { name: 'edges', label: 'Edges', help: 'Picked on the model or the section.', type: 'edges' },
    {
      name: 'distance',
      label: 'Setback',
      help: 'From the edge along the first face.',
      type: 'value',
      dim: 'length',
      ranged: true,
    },
    {
      name: 'second',
      label: 'Second setback',
      help: 'Along the other face; the same when empty.',
      type: 'value',
      dim: 'length',
      optional: true,
    },
  ],
  start: ({ body }) => ({ body: body ?? '', edges: [], distance: 1 }),
  evaluate({ body, edges, distance, second }, ctx) {
    const d1 = ctx.read(distance, 'length')
    const d2 = second === undefined ? d1 : ctx.read(second, 'length')
    if (!(d1 > 0) || !(d2 > 0)) return bad('not-positive', 'The setback must be more than 0.')
    return treatEdges(ctx, body, edges, {
      word: 'bevel',
      corner: (b, c, name) => chamferCorner(b, c, d1, d2, name),
      size: d1,
      ...(d1 === d2 ? {} : { end: d2 }),
    })
  },
  cap: (input, { body, edges }, ctx) =>
    input === 'distance' && edges.length > 0 ? sectionSize(ctx, body) : null,
  marks: (_, { body, edges, second }, ctx) => {
    const fixed = second === undefined ? null : ctx.read(second, 'length')
    return marksOf(ctx, body, edges, (c, v) => chamferFront(c, v, fixed ?? v))
  },
  slow: ({ body }, ctx) => isExact(ctx, body),
})
