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
  /** A body, what it does to another, or a skin without thickness. */
  mode: z.enum(['new', 'join', 'cut', 'meet', 'sheet']),
  rails: z.array(z.string().min(1)).max(8).default([]),
  mirror: z.string().optional(),
  /** The path the skin goes along from section to section. */
  centre: z.string().optional(),
  give: valueSchema.default(0),
  /** Which of a rail and a section that miss each other is moved. */
  gives: z.enum(['rails', 'sections']).default('rails'),
  /** What makes a body of a skin between open sections. */
  skin: z.enum(['flat', 'one', 'other', 'middle']).default('flat'),
  wall: valueSchema.default(3),
  /** The plane the wall is square to; where none is told it is square to the skin. */
  along: z.string().optional(),
  run: z.enum(['smooth', 'ruled']).default('smooth'),
  ring: z.enum(['no', 'yes']).default('no'),
  begins: z.enum(ENDS).default('free'),
  beginPull: valueSchema.default(1),
  ends: z.enum(ENDS).default('free'),
  endPull: valueSchema.default(1),
})
export type LoftInputs = z.infer<typeof loftInputs>

export const railed = (i: Readonly<Record<string, unknown>>) =>
  smooth(i) && !i.centre && Array.isArray(i.rails) && i.rails.length > 0
const smooth = (i: Readonly<Record<string, unknown>>) => i.run !== 'ruled' && i.ring !== 'yes'

/** Smooth, and not led by a centre line. */
const free = (i: Readonly<Record<string, unknown>>) => smooth(i) && !i.centre

const hasWall = (i: Readonly<Record<string, unknown>>) =>
  i.ring !== 'yes' && i.mode !== 'sheet' && typeof i.skin === 'string' && i.skin !== 'flat'

const endOptions = [
  { value: 'free', label: 'as it comes' },
  { value: 'square', label: 'square to the section' },
  { value: 'on', label: 'on from the faces beside it' },
  { value: 'bent', label: 'on with their curvature' },
]

/** Of the fields of what comes of it: a sheet is one more thing it can be, and acts on no body. */
const sheetToo = (f: Field): Field => {
  if (f.name === 'mode' && f.type === 'choice')
    return {
      ...f,
      options: [...f.options, { value: 'sheet', label: 'A sheet, without thickness' }],
    }
  return { ...f, when: (i) => i.mode !== 'sheet' && (f.when?.(i) ?? true) }
}

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
    name: 'centre',
    label: 'Centre line',
    help: 'A path past all sections: from each to the next the skin goes as it does. Instead of rails.',
    type: 'path',
    none: 'none',
    when: (i) => smooth(i) && !(Array.isArray(i.rails) && i.rails.length > 0),
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
    label: 'May miss by',
    help: 'How far a rail and a section may miss each other and are brought together.',
    type: 'value',
    dim: 'length',
    when: railed,
  },
  {
    name: 'gives',
    label: 'Which gives way',
    help: 'Whether the rail is led through the section, or the section drawn to the rail.',
    type: 'choice',
    options: [
      { value: 'rails', label: 'the rail' },
      { value: 'sections', label: 'the section' },
    ],
    when: railed,
  },
  ...ontoFields.map(sheetToo),
  {
    name: 'skin',
    label: 'Open sections',
    help: 'What makes a body of a skin between open sections: flat faces where it is open, or a wall along it.',
    type: 'choice',
    options: [
      { value: 'flat', label: 'closed by flat faces' },
      { value: 'one', label: 'a wall on one side' },
      { value: 'other', label: 'a wall on the other side' },
      { value: 'middle', label: 'a wall about it' },
    ],
    when: (i) => i.ring !== 'yes' && i.mode !== 'sheet',
  },
  {
    name: 'wall',
    label: 'Wall',
    help: 'How thick it is.',
    type: 'value',
    dim: 'length',
    ranged: true,
    when: hasWall,
  },
  {
    name: 'along',
    label: 'Square to',
    help: 'Even walls stand square to the skin; straight ones all in the direction square to a plane.',
    type: 'plane',
    none: 'the skin everywhere',
    when: hasWall,
  },
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
    when: free,
  },
  {
    name: 'beginPull',
    label: 'Pull',
    help: 'How far it keeps that direction; 1 is even.',
    type: 'value',
    dim: 'number',
    ranged: true,
    when: (i) => free(i) && i.begins !== 'free',
  },
  {
    name: 'ends',
    label: 'Ends',
    help: 'How the skin reaches the last section.',
    type: 'choice',
    options: endOptions,
    when: free,
  },
  {
    name: 'endPull',
    label: 'Pull',
    help: 'How far it keeps that direction; 1 is even.',
    type: 'value',
    dim: 'number',
    ranged: true,
    when: (i) => free(i) && i.ends !== 'free',
  },
]
