import { z } from 'zod'
import {
  add3,
  bad,
  cross3,
  dot3,
  type Frame,
  fixed,
  good,
  mm,
  norm3,
  type Outcome,
  type P3,
  scale3,
  sub3,
  toSpace,
  unit3,
} from '../../math'
import { valueSchema } from '../../profile'
import { faceRefSchema } from '../../refs'
import { defineOp } from '../spec'
import {
  type DatumContext,
  datumAxis,
  faceSpot,
  type Line3,
  madeBy,
  pickedFrames,
  pieceSpot,
  placeOf,
  placeSchema,
  planeFrame,
  planePair,
  sharedLine,
  when,
} from './datum'

const inputs = z.object({
  how: z.enum(['offset', 'midway', 'angle', 'three', 'across', 'tangent']).default('offset'),
  from: z.string().default('top'),
  to: z.string().optional(),
  offset: valueSchema.default(0),
  about: z.enum(['level', 'upright', 'axis']).default('level'),
  axis: z.string().optional(),
  turn: valueSchema.default(0),
  body: z.string().optional(),
  faces: z.array(faceRefSchema).max(2).default([]),
  profile: z.string().optional(),
  piece: z.string().optional(),
  fraction: valueSchema.default(0.5),
  near: z.string().optional(),
  p1: placeSchema.optional(),
  p2: placeSchema.optional(),
  p3: placeSchema.optional(),
})
type Inputs = z.infer<typeof inputs>

export const planeOp = defineOp<Inputs>({
  kind: 'plane',
  version: 2,
  label: 'Datum plane',
  help: 'A plane to draw on or split at, that follows what it is set on.',
  stage: 'draw',
  inputs,
  fields: [
    {
      name: 'how',
      label: 'Set',
      help: 'What the plane is set on.',
      type: 'choice',
      options: [
        { value: 'offset', label: 'off a plane or flat face' },
        { value: 'midway', label: 'midway between two' },
        { value: 'angle', label: 'at an angle to a plane' },
        { value: 'three', label: 'through three places' },
        { value: 'across', label: 'across a drawn curve' },
        { value: 'tangent', label: 'touching a round face' },
      ],
    },
    {
      name: 'from',
      label: 'From',
      help: 'The plane to start from, where no face is picked.',
      type: 'plane',
      when: when('offset', 'midway', 'angle'),
    },
    { name: 'to', label: 'To', help: 'The other plane.', type: 'plane', when: when('midway') },
    {
      name: 'body',
      label: 'Body',
      help: 'The body whose faces are picked.',
      type: 'body',
      when: when('offset', 'midway', 'tangent'),
    },
    {
      name: 'faces',
      label: 'Faces',
      help: 'Flat faces, or the round one that is touched.',
      type: 'faces',
      when: when('offset', 'midway', 'tangent'),
    },
    {
      name: 'offset',
      label: 'Distance',
      help: 'Along the plane’s normal; negative to the other side.',
      type: 'value',
      dim: 'length',
      when: when('offset', 'tangent'),
    },
    {
      name: 'about',
      label: 'About',
      help: 'The line of the plane it turns about.',
      type: 'choice',
      options: [
        { value: 'level', label: 'its level line' },
        { value: 'upright', label: 'its upright line' },
        { value: 'axis', label: 'a datum axis' },
      ],
      when: when('angle'),
    },
    {
      name: 'axis',
      label: 'Axis',
      help: 'The datum axis it turns about.',
      type: 'axis',
      when: (i) => i.how === 'angle' && i.about === 'axis',
    },
    {
      name: 'turn',
      label: 'Angle',
      help: 'How far it is turned; for a round face, where round the axis it touches.',
      type: 'value',
      dim: 'angle',
      when: when('angle', 'tangent'),
    },
    {
      name: 'profile',
      label: 'Profile',
      help: 'The drawing the curve is in.',
      type: 'profile',
      when: when('across'),
    },
    {
      name: 'piece',
      label: 'Piece',
      help: 'The curve the plane stands across.',
      type: 'piece',
      when: when('across'),
    },
    {
      name: 'near',
      label: 'Nearest to',
      help: 'A datum point beside the curve; none for a share of the way.',
      type: 'point',
      none: 'a share of the way',
      when: when('across'),
    },
    {
      name: 'fraction',
      label: 'At',
      help: 'Share of the way along, 0 to 1.',
      type: 'value',
      dim: 'number',
      when: when('across', 'tangent'),
    },
    {
      name: 'p1',
      label: 'First',
      help: 'x, y, z, or a datum point.',
      type: 'place',
      when: when('three'),
    },
    {
      name: 'p2',
      label: 'Second',
      help: 'x, y, z, or a datum point.',
      type: 'place',
      when: when('three'),
    },
    {
      name: 'p3',
      label: 'Third',
      help: 'x, y, z, or a datum point.',
      type: 'place',
      when: when('three'),
    },
  ],
  start: ({ body }) => ({
    how: 'offset' as const,
    ...(body ? { body } : {}),
    from: 'top',
    offset: 50,
    about: 'level' as const,
    turn: 0,
    faces: [],
    fraction: 0.5,
  }),
  evaluate: (input, ctx) =>
    madeBy(MAKERS, input, ctx, ({ frame, says }) => ({
      planes: { [ctx.op]: { frame } },
      consequence: says,
    })),
})

type Made = Outcome<{ frame: Frame; says: string }>
const MAKERS: Record<Inputs['how'], (i: Inputs, ctx: DatumContext) => Made> = {
  offset(i, ctx) {
    const base = oneBase(i, ctx)
    if (!base.ok) return base
    const d = ctx.read(i.offset, 'length')
    const { frame, name } = base.value
    return good({
      frame: { ...frame, origin: toSpace(frame, 0, 0, d) },
      says: `${mm(d)} from ${name}`,
    })
  },
  midway(i, ctx) {
    const pair = planePair(i, ctx)
    return pair.ok ? midway(...pair.value) : pair
  },
  angle(i, ctx) {
    const base = planeFrame(i.from, ctx)
    if (!base.ok) return base
    const turn = ctx.read(i.turn, 'angle')
    const { x, y, origin } = base.value
    const axis = i.about === 'axis' ? datumAxis(i.axis ?? '', ctx) : null
    if (axis && !axis.ok) return axis
    const line = axis ? axis.value : { origin, dir: i.about === 'level' ? x : y }
    const frame = turnedFrame(base.value, line, turn)
    return good({ frame, says: `${fixed((turn * 180) / Math.PI, 2)}° to ${i.from}` })
  },
  three(i, ctx) {
    const at: P3[] = []
    for (const p of [i.p1, i.p2, i.p3]) {
      const place = placeOf(p, ctx)
      if (!place.ok) return place
      at.push(place.value)
    }
    const [a, b, c] = at as [P3, P3, P3]
    const normal = cross3(sub3(b, a), sub3(c, a))
    if (norm3(normal) < 1e-9) return bad('in-line', 'The three places lie in one line.')
    const x = unit3(sub3(b, a))
    const z = unit3(normal)
    return good({ frame: { origin: a, x, y: cross3(z, x), z }, says: 'through three places' })
  },
  across(i, ctx) {
    const spot = pieceSpot(i, ctx)
    if (!spot.ok) return spot
    const { at, dir: z, frame: f, piece, share } = spot.value
    const frame = { origin: at, x: f.z, y: cross3(z, f.z), z }
    return good({ frame, says: `across ${piece} at ${fixed(100 * share, 1)} %` })
  },
  tangent(i, ctx) {
    const spot = faceSpot(i, ctx)
    if (!spot.ok) return spot
    const { at, out, round, r, turn } = spot.value
    if (!round) return bad('pole', 'At its pole a face has no one tangent plane to draw on.')
    const d = ctx.read(i.offset, 'length')
    const origin = add3(at, scale3(out, d))
    return good({
      frame: { origin, x: round, y: cross3(out, round), z: out },
      says: `${d === 0 ? 'touching' : `${mm(d)} off its touch`} at Ø ${mm(2 * r)}, ${fixed((turn * 180) / Math.PI, 1)}° round`,
    })
  },
}

function oneBase(i: Inputs, ctx: DatumContext): Outcome<{ frame: Frame; name: string }> {
  const faces = pickedFrames(i, ctx)
  if (!faces.ok) return faces
  if (faces.value.length > 1) return bad('one-face', 'Pick one flat face only.')
  if (faces.value[0]) return good({ frame: faces.value[0], name: 'the face' })
  const plane = planeFrame(i.from, ctx)
  return plane.ok ? good({ frame: plane.value, name: i.from }) : plane
}

/** The frame turned about a line, right-handed (Rodrigues). */
function turnedFrame(f: Frame, line: Line3, turn: number): Frame {
  const [c, s] = [Math.cos(turn), Math.sin(turn)]
  const spin = (v: P3): P3 =>
    add3(
      add3(scale3(v, c), scale3(cross3(line.dir, v), s)),
      scale3(line.dir, dot3(line.dir, v) * (1 - c)),
    )
  const origin = add3(line.origin, spin(sub3(f.origin, line.origin)))
  return { origin, x: spin(f.x), y: spin(f.y), z: spin(f.z) }
}

/** The plane half-way between two: of parallel ones the middle, else the one that halves their angle. */
function midway(a: Frame, b: Frame): Made {
  const line = cross3(a.z, b.z)
  const apart = dot3(sub3(b.origin, a.origin), a.z)
  if (norm3(line) < 1e-9) {
    const frame = { ...a, origin: toSpace(a, 0, 0, apart / 2) }
    return good({ frame, says: `midway, ${mm(Math.abs(apart) / 2)} from both` })
  }
  const { origin } = sharedLine(a, b, line)
  const z = unit3(dot3(a.z, b.z) < 0 ? sub3(a.z, b.z) : add3(a.z, b.z))
  const x = unit3(line)
  return good({ frame: { origin, x, y: cross3(z, x), z }, says: 'halving the angle between both' })
}
