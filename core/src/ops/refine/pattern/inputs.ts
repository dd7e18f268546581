import { z } from 'zod'
import { valueSchema } from '../../../profile'

export const patternInputs = z.object({
  what: z.enum(['body', 'ops']).default('body'),
  body: z.string(),
  ops: z.array(z.string().min(1)).max(50).default([]),
  how: z.enum(['row', 'grid', 'round', 'curve', 'way', 'field']).default('row'),
  along: z.enum(['x', 'y', 'z', 'axis']).default('x'),
  axis: z.string().optional(),
  path: z.string().optional(),
  /** A path in space. */
  way: z.string().optional(),
  field: z.string().optional(),
  layout: z.enum(['hex', 'square']).default('hex'),
  count: valueSchema.default(3),
  space: z.enum(['pitch', 'gap', 'even']).default('pitch'),
  pitch: valueSchema.default(20),
  gap: valueSchema.default(0),
  follow: z.enum(['yes', 'upright', 'no']).default('yes'),
  margin: valueSchema.default(0),
  across: z.enum(['x', 'y', 'z']).default('y'),
  count2: valueSchema.default(2),
  pitch2: valueSchema.default(20),
  turn: valueSchema.default(360),
  skip: z.string().max(400).default(''),
  result: z.enum(['one', 'bodies', 'triangles']).default('one'),
})
export type PatternInputs = z.infer<typeof patternInputs>

/** Copies at most. */
export const MOST = 400
