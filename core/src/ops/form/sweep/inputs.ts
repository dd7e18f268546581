import { z } from 'zod'
import { valueSchema } from '../../../profile'
import { faceRefSchema } from '../../../refs'
import type { Field } from '../../spec'
import { ontoFields, ontoInputs } from '../onto'
import { sweepSectionFields, sweepSectionInputs } from './placed'

const stationSchema = z.object({
  /** Share of the way, 0 to 1. */
  fraction: valueSchema,
  width: valueSchema.default(1),
  height: valueSchema.default(1),
  turn: valueSchema.default(0),
  /** Another drawing for the section here, its 0, 0 on the path; where none is told it goes on as before. */
  profile: z.string().optional(),
})

export const sweepInputs = z.object({
  path: z.string(),
  ...sweepSectionInputs,
  ...ontoInputs,
  standing: z.enum(['even', 'upright', 'parallel', 'face', 'guide']).default('even'),
  /** What its up side looks out of, where it stands on faces. */
  on: z.string().optional(),
  faces: z.array(faceRefSchema).max(100).default([]),
  /** The path it is turned by. */
  guide: z.string().optional(),
  sized: z.enum(['no', 'yes']).default('no'),
  twist: valueSchema.default(0),
  scale: valueSchema.default(1),
  stations: z.array(stationSchema).max(60).default([]),
  corner: z.enum(['mitre', 'round']).default('mitre'),
})
export type SweepInputs = z.infer<typeof sweepInputs>

const stands = (how: SweepInputs['standing']) => (i: Readonly<Record<string, unknown>>) =>
  i.standing === how

export const sweepFields: Field[] = [
  { name: 'path', label: 'Path', help: 'What it is carried along.', type: 'path' },
  ...sweepSectionFields,
  ...ontoFields,
  {
    name: 'standing',
    label: 'Stands',
    help: 'How it is turned on the way: as little as can be, with its up side up, or parallel to itself.',
    type: 'choice',
    options: [
      { value: 'even', label: 'square, turning least' },
      { value: 'upright', label: 'square, upright' },
      { value: 'parallel', label: 'parallel to itself' },
      { value: 'face', label: 'square, up out of a face' },
      { value: 'guide', label: 'square, turned by a guide rail' },
    ],
  },
  {
    name: 'on',
    label: 'On',
    help: 'The body whose faces the path runs on.',
    type: 'body',
    when: stands('face'),
  },
  {
    name: 'faces',
    label: 'Faces',
    help: 'Its up side looks out of them all along the path.',
    type: 'faces',
    of: 'on',
    when: stands('face'),
  },
  {
    name: 'guide',
    label: 'Guide rail',
    help: 'Another path: the section is turned so that it keeps towards it the side it has at the start.',
    type: 'path',
    when: stands('guide'),
  },
  {
    name: 'sized',
    label: 'Its size',
    help: 'Whether the section grows and shrinks with the distance of the guide rail, so that what touches it at the start stays on it.',
    type: 'choice',
    options: [
      { value: 'no', label: 'stays' },
      { value: 'yes', label: 'follows the guide rail' },
    ],
    when: stands('guide'),
  },
  {
    name: 'turn',
    label: 'Turned',
    help: 'About the path, all along.',
    type: 'value',
    dim: 'angle',
  },
  {
    name: 'twist',
    label: 'Twist',
    help: 'How much more it is turned where the path ends.',
    type: 'value',
    dim: 'angle',
  },
  {
    name: 'scale',
    label: 'Size at end',
    help: 'As a factor; it grows or shrinks evenly on the way.',
    type: 'value',
    dim: 'number',
    ranged: true,
  },
  {
    name: 'stations',
    label: 'Stations',
    help: 'Places along the path where it is wider, higher or turned; it runs on smoothly between them.',
    type: 'stations',
  },
  {
    name: 'corner',
    label: 'Kinks',
    help: 'What happens where the path has a kink.',
    type: 'choice',
    options: [
      { value: 'mitre', label: 'are mitred' },
      { value: 'round', label: 'are turned round outside' },
    ],
  },
]
