import { z } from 'zod'
import { bad, cross3, good, norm3, type Outcome, sub3, unit3 } from '../../math'
import { valueSchema } from '../../profile'
import { faceRefSchema } from '../../refs'
import { defineOp } from '../spec'
import {
  type DatumContext,
  faceSpot,
  type Line3,
  madeBy,
  pickedFaces,
  pieceSpot,
  placeOf,
  placeSchema,
  planePair,
  sharedLine,
  when,
} from './datum'

const inputs = z.object({
  how: z.enum(['planes', 'round', 'across', 'along', 'points']).default('planes'),
  from: z.string().default('front'),
  to: z.string().optional(),
  body: z.string().optional(),
  faces: z.array(faceRefSchema).max(2).default([]),
  fraction: valueSchema.default(0.5),
  turn: valueSchema.default(0),
  profile: z.string().optional(),
  piece: z.string().optional(),
  p1: placeSchema.optional(),
  p2: placeSchema.optional(),
})
type Inputs = z.infer<typeof inputs>

export const axisOp = defineOp<Inputs>({
  kind: 'axis',
  version: 1,
  label: 'Datum axis',
  help: 'A line to turn about or to set planes on, that follows what it is set on.',
  stage: 'draw',
  inputs,
  fields: [
    {
      name: 'how',
      label: 'Set',
      help: 'What the axis is set on.',
      type: 'choice',
      options: [
        { value: 'planes', label: 'where two planes meet' },
        { value: 'round', label: 'the axis of a round face' },
        { value: 'across', label: 'square to a face at a place' },
        { value: 'along', label: 'along a drawn line' },
        { value: 'points', label: 'through two places' },
      ],
    },
    { name: 'from', label: 'One plane', help: '', type: 'plane', when: when('planes') },
    { name: 'to', label: 'The other', help: '', type: 'plane', when: when('planes') },
    {
      name: 'body',
      label: 'Body',
      help: 'The body whose faces are picked.',
      type: 'body',
      when: when('planes', 'round', 'across'),
    },
    {
      name: 'faces',
      label: 'Faces',
      help: 'Flat faces instead of planes, or the one face the axis belongs to.',
      type: 'faces',
      when: when('planes', 'round', 'across'),
    },
    {
      name: 'profile',
      label: 'Profile',
      help: 'The drawing the line is in.',
      type: 'profile',
      when: when('along'),
    },
    {
      name: 'piece',
      label: 'Piece',
      help: 'The line the axis runs along.',
      type: 'piece',
      when: when('along'),
    },
    {
      name: 'fraction',
      label: 'At',
      help: 'Share of the way along the face’s section, 0 to 1.',
      type: 'value',
      dim: 'number',
      when: when('across'),
    },
    {
      name: 'turn',
      label: 'Angle',
      help: 'Where round the axis of the body.',
      type: 'value',
      dim: 'angle',
      when: when('across'),
    },
    {
      name: 'p1',
      label: 'From',
      help: 'x, y, z, or a datum point.',
      type: 'place',
      when: when('points'),
    },
    {
      name: 'p2',
      label: 'To',
      help: 'x, y, z, or a datum point.',
      type: 'place',
      when: when('points'),
    },
  ],
  start: ({ body }) => ({
    how: 'planes' as const,
    from: 'front',
    to: 'side',
    ...(body ? { body } : {}),
    faces: [],
    fraction: 0.5,
    turn: 0,
  }),
  evaluate: (input, ctx) =>
    madeBy(MAKERS, input, ctx, ({ origin, dir, says }) => ({
      axes: { [ctx.op]: { origin, dir } },
      consequence: says,
    })),
})

type Made = Outcome<Line3 & { says: string }>
const MAKERS: Record<Inputs['how'], (i: Inputs, ctx: DatumContext) => Made> = {
  planes(i, ctx) {
    const pair = planePair(i, ctx)
    if (!pair.ok) return pair
    const [a, b] = pair.value
    const along = cross3(a.z, b.z)
    if (norm3(along) < 1e-9)
      return bad('parallel', 'The two planes are parallel and share no line.')
    return good({ ...sharedLine(a, b, along), says: 'where both planes meet' })
  },
  round(i, ctx) {
    const picked = pickedFaces(i, ctx)
    if (!picked.ok) return picked
    if (picked.value.faces.length !== 1) return bad('one-face', 'Pick the one round face.')
    const { origin, z: dir } = picked.value.body.frame
    return good({ origin, dir, says: 'the axis the face is turned about' })
  },
  across(i, ctx) {
    const spot = faceSpot(i, ctx)
    if (!spot.ok) return spot
    return good({ origin: spot.value.at, dir: spot.value.out, says: 'square to the face' })
  },
  along(i, ctx) {
    const spot = pieceSpot({ ...i, fraction: 0 }, ctx)
    if (!spot.ok) return spot
    const { at, dir, piece, straight } = spot.value
    if (!straight) return bad('not-straight', `${piece} is no straight line.`)
    return good({ origin: at, dir, says: `along ${piece}` })
  },
  points(i, ctx) {
    const [a, b] = [placeOf(i.p1, ctx), placeOf(i.p2, ctx)]
    if (!a.ok) return a
    if (!b.ok) return b
    const way = sub3(b.value, a.value)
    if (norm3(way) < 1e-9) return bad('one-place', 'The two places are one.')
    return good({ origin: a.value, dir: unit3(way), says: 'through two places' })
  },
}
