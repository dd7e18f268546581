import { z } from 'zod'
import { valueSchema } from '../../../profile'
import { edgeRefSchema, faceRefSchema } from '../../../refs'
import { holdSchema } from './holds'

const going = {
  by: z.enum(['line', 'arc', 'over', 'spline']).default('line'),
  /** Of the corner here; that of the whole path where it is left out. */
  round: valueSchema.optional(),
  /** A place that helps: holds and coordinates count it, the path passes it by. */
  aside: z.boolean().optional(),
}
const stopSchema = z.union([
  z.object({ point: z.string().min(1), ...going }),
  z.object({
    x: valueSchema,
    y: valueSchema,
    z: valueSchema,
    /** From the place before. */
    rel: z.boolean().default(false),
    ...going,
  }),
])
export type StopInput = z.infer<typeof stopSchema>

export const pathInputs = z.object({
  how: z
    .enum([
      'stops',
      'profile',
      'edges',
      'helix',
      'blend',
      'views',
      'onto',
      'line',
      'mirror',
      'refit',
      'meeting',
      'beside',
    ])
    .default('stops'),
  stops: z.array(stopSchema).max(500).default([]),
  /** What holds between the places; coordinates told as numbers then give way, those told as expressions stay. */
  holds: z.array(holdSchema).max(500).default([]),
  closed: z.enum(['no', 'yes']).default('no'),
  profile: z.string().optional(),
  /** What the second drawing shows of what is seen from two sides. */
  other: z.string().optional(),
  body: z.string().optional(),
  faces: z.array(faceRefSchema).max(100).default([]),
  pull: z.enum(['nearest', 'straight']).default('nearest'),
  /** Where faces meet: what goes through those of `body`. */
  with: z.string().optional(),
  others: z.array(faceRefSchema).max(100).default([]),
  /** Of several lines in which they meet, counted from 1 as their middles lie along x, then y, then z. */
  which: valueSchema.optional(),
  distance: valueSchema.default(5),
  side: z.enum(['left', 'right']).default('left'),
  lines: z.enum(['along', 'across']).default('along'),
  fraction: valueSchema.default(0.5),
  count: valueSchema.default(8),
  edges: z.array(edgeRefSchema).max(500).default([]),
  grow: z.enum(['no', 'smooth']).default('no'),
  plane: z.string().default('top'),
  axis: z.string().optional(),
  by: z.enum(['pitch-turns', 'pitch-height', 'turns-height']).default('turns-height'),
  radius: valueSchema.default(20),
  last: valueSchema.optional(),
  pitch: valueSchema.default(10),
  turns: valueSchema.default(3),
  height: valueSchema.default(30),
  hand: z.enum(['right', 'left']).default('right'),
  from: z.string().optional(),
  leaves: z.enum(['end', 'start']).default('end'),
  into: z.string().optional(),
  reaches: z.enum(['start', 'end']).default('start'),
  order: z.enum(['direction', 'curvature', 'change']).default('curvature'),
  leavePull: valueSchema.default(1),
  reachPull: valueSchema.default(1),
  /** The plane a blend stays on the upper side of. */
  above: z.string().optional(),
  over: z.string().optional(),
  keeps: z.enum(['all', 'blend']).default('all'),
  round: valueSchema.default(0),
  join: valueSchema.default(0.01),
})
export type PathInputs = z.infer<typeof pathInputs>
