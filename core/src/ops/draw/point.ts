import { z } from 'zod'
import { add3, bad, dot3, good, mm, type Outcome, type P3, scale3, sub3 } from '../../math'
import { valueSchema } from '../../profile'
import { faceRefSchema } from '../../refs'
import { defineOp } from '../spec'
import {
  type DatumContext,
  datumAxis,
  faceSpot,
  madeBy,
  pieceSpot,
  placeOf,
  placeSchema,
  planeFrame,
  when,
} from './datum'

const inputs = z.object({
  how: z.enum(['place', 'along', 'face', 'meet']).default('place'),
  p1: placeSchema.optional(),
  profile: z.string().optional(),
  piece: z.string().optional(),
  body: z.string().optional(),
  faces: z.array(faceRefSchema).max(1).default([]),
  fraction: valueSchema.default(0.5),
  turn: valueSchema.default(0),
  axis: z.string().optional(),
  plane: z.string().optional(),
})
type Inputs = z.infer<typeof inputs>

export const pointOp = defineOp<Inputs>({
  kind: 'point',
  version: 1,
  label: 'Datum point',
  help: 'A place to set axes and planes on, that follows what it is set on.',
  stage: 'draw',
  inputs,
  fields: [
    {
      name: 'how',
      label: 'Set',
      help: 'What the point is set on.',
      type: 'choice',
      options: [
        { value: 'place', label: 'at a place' },
        { value: 'along', label: 'along a drawn curve' },
        { value: 'face', label: 'on a face' },
        { value: 'meet', label: 'where an axis meets a plane' },
      ],
    },
    { name: 'p1', label: 'Place', help: 'x, y, z.', type: 'place', when: when('place') },
    {
      name: 'profile',
      label: 'Profile',
      help: 'The drawing the curve is in.',
      type: 'profile',
      when: when('along'),
    },
    {
      name: 'piece',
      label: 'Piece',
      help: 'The curve it lies on.',
      type: 'piece',
      when: when('along'),
    },
    {
      name: 'body',
      label: 'Body',
      help: 'The body whose face is picked.',
      type: 'body',
      when: when('face'),
    },
    {
      name: 'faces',
      label: 'Face',
      help: 'The face it lies on.',
      type: 'faces',
      when: when('face'),
    },
    {
      name: 'fraction',
      label: 'At',
      help: 'Share of the way along, 0 to 1.',
      type: 'value',
      dim: 'number',
      when: when('along', 'face'),
    },
    {
      name: 'turn',
      label: 'Angle',
      help: 'Where round the axis of the body.',
      type: 'value',
      dim: 'angle',
      when: when('face'),
    },
    { name: 'axis', label: 'Axis', help: 'The axis.', type: 'axis', when: when('meet') },
    {
      name: 'plane',
      label: 'Plane',
      help: 'The plane it meets.',
      type: 'plane',
      when: when('meet'),
    },
  ],
  start: ({ body }) => ({
    how: 'place' as const,
    p1: { x: 0, y: 0, z: 0 },
    ...(body ? { body } : {}),
    faces: [],
    fraction: 0.5,
    turn: 0,
  }),
  evaluate: (input, ctx) =>
    madeBy(MAKERS, input, ctx, (at) => ({
      points: { [ctx.op]: { at } },
      consequence: `at ${at.map((x) => mm(x)).join(', ')}`,
    })),
})

const MAKERS: Record<Inputs['how'], (i: Inputs, ctx: DatumContext) => Outcome<P3>> = {
  place: (i, ctx) => placeOf(i.p1, ctx),
  along(i, ctx) {
    const spot = pieceSpot(i, ctx)
    return spot.ok ? good(spot.value.at) : spot
  },
  face(i, ctx) {
    const spot = faceSpot(i, ctx)
    return spot.ok ? good(spot.value.at) : spot
  },
  meet(i, ctx) {
    const axis = datumAxis(i.axis ?? '', ctx)
    if (!axis.ok) return axis
    const plane = planeFrame(i.plane ?? '', ctx)
    if (!plane.ok) return plane
    const { origin, dir } = axis.value
    const slope = dot3(dir, plane.value.z)
    if (Math.abs(slope) < 1e-9)
      return bad('parallel', 'The axis runs along the plane and meets it nowhere.')
    const k = dot3(sub3(plane.value.origin, origin), plane.value.z) / slope
    return good(add3(origin, scale3(dir, k)))
  },
}
