import { z } from 'zod'
import type { ExactPart } from '../../../exact'
import { faceCentroid } from '../../../exact'
import {
  add3,
  after,
  bad,
  dot3,
  good,
  type Motion,
  mm,
  moved,
  norm3,
  type Outcome,
  type P3,
  rounded,
  scale3,
  shift,
  sub3,
  turnAbout,
  turnTo,
} from '../../../math'
import { valueSchema } from '../../../profile'
import { type FaceRef, faceRefSchema } from '../../../refs'
import { placeOf, placeSchema } from '../../draw/datum'
import { exactBody, reshaped } from '../../exact'
import { pickExactFaces } from '../../pick'
import { defineOp } from '../../spec'
import type { OpContext } from '../../state'

const one = z.array(faceRefSchema).max(1).default([])
const inputs = z.object({
  body: z.string(),
  how: z.enum(['faces', 'axes', 'points']).default('faces'),
  face: one,
  onto: z.string().default(''),
  to: one,
  facing: z.enum(['against', 'flush']).default('against'),
  gap: valueSchema.default(0),
  middle: z.enum(['no', 'yes']).default('no'),
  turn: valueSchema.default(0),
  from: placeSchema.optional(),
  at: placeSchema.optional(),
})
type Inputs = z.infer<typeof inputs>

const on =
  (...hows: Inputs['how'][]) =>
  (i: Readonly<Record<string, unknown>>) =>
    hows.includes(i.how as Inputs['how'])

export const alignOp = defineOp<Inputs>({
  kind: 'align',
  version: 1,
  label: 'Align',
  help: 'Sets a body onto another: face to face, axis to axis, or point to point.',
  stage: 'refine',
  inputs,
  fields: [
    { name: 'body', label: 'Body', help: 'The body that is moved.', type: 'body' },
    {
      name: 'how',
      label: 'By',
      help: 'What is brought together.',
      type: 'choice',
      options: [
        { value: 'faces', label: 'Flat faces' },
        { value: 'axes', label: 'Axes of round faces' },
        { value: 'points', label: 'Points' },
      ],
    },
    {
      name: 'face',
      label: 'Its face',
      help: 'Of the body that is moved.',
      type: 'faces',
      most: 1,
      when: on('faces', 'axes'),
    },
    {
      name: 'onto',
      label: 'Onto',
      help: 'The body that stays.',
      type: 'body',
      when: on('faces', 'axes'),
    },
    {
      name: 'to',
      label: 'That face',
      help: 'Of the body that stays.',
      type: 'faces',
      of: 'onto',
      most: 1,
      when: on('faces', 'axes'),
    },
    {
      name: 'facing',
      label: 'They look',
      help: 'At each other, or the same way; of axes, the way each was made.',
      type: 'choice',
      options: [
        { value: 'against', label: 'at each other' },
        { value: 'flush', label: 'the same way' },
      ],
      when: on('faces', 'axes'),
    },
    {
      name: 'gap',
      label: 'Gap',
      help: 'Between the faces; of axes, along them.',
      type: 'value',
      dim: 'length',
      when: on('faces', 'axes'),
    },
    {
      name: 'middle',
      label: 'Across',
      help: 'Whether the middles of the faces come together too.',
      type: 'choice',
      options: [
        { value: 'no', label: 'stays where it is' },
        { value: 'yes', label: 'middle to middle' },
      ],
      when: on('faces'),
    },
    {
      name: 'turn',
      label: 'Then turned',
      help: 'About the way the face looks, or about the axis.',
      type: 'value',
      dim: 'angle',
      when: on('faces', 'axes'),
    },
    {
      name: 'from',
      label: 'Its point',
      help: 'Moves with the body.',
      type: 'place',
      when: on('points'),
    },
    { name: 'at', label: 'To', help: 'Where it comes to lie.', type: 'place', when: on('points') },
  ],
  start: ({ body }) => ({
    body: body ?? '',
    how: 'faces',
    face: [],
    onto: '',
    to: [],
    facing: 'against',
    gap: 0,
    middle: 'no',
    turn: 0,
  }),
  evaluate(input, ctx) {
    const target = exactBody(input.body, ctx)
    if (!target.ok) return target
    const { body, part } = target.value
    const motion = motionOf(input, part, ctx)
    if (!motion.ok) return motion
    const made = ctx.kernel({
      verb: 'move',
      args: { motion: motion.value, word: null },
      on: [part.key],
    })
    if (!made.ok) return made
    const c = part.measure.centroid
    const far = norm3(sub3(moved(motion.value, c), c))
    const { m } = motion.value
    const turn = Math.acos(Math.max(-1, Math.min(1, (m[0][0] + m[1][1] + m[2][2] - 1) / 2)))
    return good({
      bodies: { [body.id]: reshaped(body, made.value[0]!) },
      warnings: [],
      consequence: `its middle by ${mm(far, 2)}${turn > 1e-9 ? `, turned ${rounded((turn * 180) / Math.PI, 2)} deg` : ''}`,
    })
  },
})

function motionOf(i: Inputs, part: ExactPart, ctx: OpContext): Outcome<Motion> {
  if (i.how === 'points') {
    const [from, at] = [placeOf(i.from, ctx), placeOf(i.at, ctx)]
    if (!from.ok) return from
    if (!at.ok) return at
    return good(shift(sub3(at.value, from.value)))
  }
  const other = exactBody(i.onto, ctx)
  if (!other.ok) return bad('no-body', 'Choose the body it is set onto.')
  const spots = i.how === 'faces' ? spotOfFlat : spotOfRound
  const own = spots(part, i.face, 'face', ctx)
  if (!own.ok) return own
  const there = spots(other.value.part, i.to, 'to', ctx)
  if (!there.ok) return there
  const gap = ctx.read(i.gap, 'length')
  const angle = ctx.read(i.turn, 'angle')
  const dir = there.value.dir
  const turned = turnTo(own.value.at, own.value.dir, scale3(dir, i.facing === 'against' ? -1 : 1))
  const off = sub3(there.value.at, own.value.at)
  const along = scale3(dir, dot3(off, dir) + gap)
  // Faces keep their place across unless their middles are to meet; axes keep theirs along.
  const across = sub3(off, scale3(dir, dot3(off, dir)))
  const way =
    i.how === 'axes'
      ? add3(across, scale3(dir, gap))
      : i.middle === 'yes'
        ? add3(along, across)
        : along
  const spun = turnAbout(add3(own.value.at, way), dir, angle)
  return good(after(after(turned, shift(way)), spun))
}

type Spot = Outcome<{ at: P3; dir: P3 }>

function spotOfFlat(p: ExactPart, refs: readonly FaceRef[], input: string, ctx: OpContext): Spot {
  const picked = faceOf(p, refs, input, ctx)
  if (!picked.ok) return picked
  const face = p.faces[picked.value]!
  if (!face.flat)
    return bad('not-flat', 'Faces are brought together where they are flat.', [{ at: face.middle }])
  return good({ at: faceCentroid(p, picked.value), dir: face.normal })
}

function spotOfRound(p: ExactPart, refs: readonly FaceRef[], input: string, ctx: OpContext): Spot {
  const picked = faceOf(p, refs, input, ctx)
  if (!picked.ok) return picked
  const face = p.faces[picked.value]!
  if (!face.round)
    return bad('not-round', 'An axis is that of a round face, a cylinder.', [{ at: face.middle }])
  const { origin, dir } = face.round
  // The place on the axis across from the face's middle, so that a turn moves it least.
  const along = dot3(sub3(face.middle, origin), dir)
  return good({ at: add3(origin, scale3(dir, along)), dir })
}

function faceOf(
  p: ExactPart,
  refs: readonly FaceRef[],
  input: string,
  ctx: OpContext,
): Outcome<number> {
  if (refs.length === 0) return bad('no-faces', 'Choose a face on each of the two bodies.')
  const picked = pickExactFaces(p, refs, ctx, input)
  return picked.ok ? good(picked.value.items[0]!) : picked
}
