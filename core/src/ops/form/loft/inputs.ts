import { z } from 'zod'
import { valueSchema } from '../../../profile'
import type { Field } from '../../spec'
import { ontoFields, ontoInputs } from '../onto'
import { loftSectionSchema } from './section'

/** How the skin leaves its ends: as it comes, square to the section, on in what lies beside it, on with its curvature too. */
const ENDS = ['free', 'square', 'on', 'bent'] as const

export const loftInputs = z.object({
  sections: z.array(loftSectionSchema).max(60).default([]),
  ...ontoInputs,
  rails: z.array(z.string().min(1)).max(8).default([]),
  mirror: z.string().optional(),
  give: valueSchema.default(0),
  run: z.enum(['smooth', 'ruled']).default('smooth'),
  ring: z.enum(['no', 'yes']).default('no'),
  begins: z.enum(ENDS).default('free'),
  beginPull: valueSchema.default(1),
  ends: z.enum(ENDS).default('free'),
  endPull: valueSchema.default(1),
})
export type LoftInputs = z.infer<typeof loftInputs>

export const railed = (i: Readonly<Record<string, unknown>>) =>
  smooth(i) && Array.isArray(i.rails) && i.rails.length > 0
const smooth = (i: Readonly<Record<string, unknown>>) => i.run !== 'ruled' && i.ring !== 'yes'

const endOptions = [
  { value: 'free', label: 'as it comes' },
  { value: 'square', label: 'square to the section' },
  { value: 'on', label: 'on from the faces beside it' },
  { value: 'bent', label: 'on with their curvature' },
]

export const loftFields: Field[] = [
  {
    name: 'sections',
    label: 'Sections',
    help: 'In the order the skin runs through them.',
    type: 'sections',
  },
  {
    name: 'rails',
    label: 'Rails',
    help: 'Paths the skin runs along; each has to touch all sections.',
    type: 'paths',
    when: smooth,
  },
  {
    name: 'mirror',
    label: 'Mirrored in',
    help: 'Each rail counts twice: as it is drawn, and over on the other side of this plane.',
    type: 'plane',
    none: 'not mirrored',
    when: railed,
  },
  {
    name: 'give',
    label: 'Rails give',
    help: 'How far a rail may miss a section and is led through it.',
    type: 'value',
    dim: 'length',
    when: railed,
  },
  ...ontoFields,
  {
    name: 'run',
    label: 'Runs',
    help: 'Smoothly through all of them, or straight from each to the next.',
    type: 'choice',
    options: [
      { value: 'smooth', label: 'smoothly' },
      { value: 'ruled', label: 'straight from each to the next' },
    ],
  },
  {
    name: 'ring',
    label: 'Closes',
    help: 'Whether it runs on from the last section to the first.',
    type: 'choice',
    options: [
      { value: 'no', label: 'no, it has two ends' },
      { value: 'yes', label: 'to a ring' },
    ],
  },
  {
    name: 'begins',
    label: 'Begins',
    help: 'How the skin leaves the first section.',
    type: 'choice',
    options: endOptions,
    when: smooth,
  },
  {
    name: 'beginPull',
    label: 'Pull',
    help: 'How far it keeps that direction; 1 is even.',
    type: 'value',
    dim: 'number',
    ranged: true,
    when: (i) => smooth(i) && i.begins !== 'free',
  },
  {
    name: 'ends',
    label: 'Ends',
    help: 'How the skin reaches the last section.',
    type: 'choice',
    options: endOptions,
    when: smooth,
  },
  {
    name: 'endPull',
    label: 'Pull',
    help: 'How far it keeps that direction; 1 is even.',
    type: 'value',
    dim: 'number',
    ranged: true,
    when: (i) => smooth(i) && i.ends !== 'free',
  },
]
