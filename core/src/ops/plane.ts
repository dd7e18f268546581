import { z } from 'zod'
import { pointAt, tangentAt } from '../curve'
import {
  add3,
  bad,
  cross3,
  dot3,
  type Frame,
  good,
  mm,
  norm3,
  type Outcome,
  type P3,
  scale3,
  sub3,
  toSpace,
  unit3,
} from '../math'
import { valueSchema } from '../profile'
import { type Face, faceRefSchema, type TurnedBody, turnedPoint } from '../turned'
import { pickFaces } from './pick'
import { defineOp } from './spec'
import { type OpContext, sectionOf } from './state'

const place = z.object({ x: valueSchema, y: valueSchema, z: valueSchema })
const inputs = z.object({
  how: z.enum(['offset', 'midway', 'angle', 'three', 'across', 'tangent']).default('offset'),
  from: z.string().default('top'),
  to: z.string().optional(),
  offset: valueSchema.default(0),
  about: z.enum(['level', 'upright']).default('level'),
  turn: valueSchema.default(0),
  body: z.string().optional(),
  faces: z.array(faceRefSchema).max(2).default([]),
  profile: z.string().optional(),
  piece: z.string().optional(),
  fraction: valueSchema.default(0.5),
  p1: place.optional(),
  p2: place.optional(),
  p3: place.optional(),
})
type Inputs = z.infer<typeof inputs>

const of =
  (...hows: Inputs['how'][]) =>
  (i: Readonly<Record<string, unknown>>) =>
    hows.includes((i.how as Inputs['how']) ?? 'offset')

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
      when: of('offset', 'midway', 'angle'),
    },
    { name: 'to', label: 'To', help: 'The other plane.', type: 'plane', when: of('midway') },
    {
      name: 'body',
      label: 'Body',
      help: 'The body whose faces are picked.',
      type: 'body',
      when: of('offset', 'midway', 'tangent'),
    },
    {
      name: 'faces',
      label: 'Faces',
      help: 'Flat faces, or the round one that is touched.',
      type: 'faces',
      when: of('offset', 'midway', 'tangent'),
    },
    {
      name: 'offset',
      label: 'Distance',
      help: 'Along the plane’s normal; negative to the other side.',
      type: 'value',
      dim: 'length',
      when: of('offset', 'tangent'),
    },
    {
      name: 'about',
      label: 'About',
      help: 'The line of the plane it turns about.',
      type: 'choice',
      options: [
        { value: 'level', label: 'its level line' },
        { value: 'upright', label: 'its upright line' },
      ],
      when: of('angle'),
    },
    {
      name: 'turn',
      label: 'Angle',
      help: 'How far it is turned; for a round face, where round the axis it touches.',
      type: 'value',
      dim: 'angle',
      when: of('angle', 'tangent'),
    },
    {
      name: 'profile',
      label: 'Profile',
      help: 'The drawing the curve is in.',
      type: 'profile',
      when: of('across'),
    },
    {
      name: 'piece',
      label: 'Piece',
      help: 'The curve the plane stands across.',
      type: 'piece',
      when: of('across'),
    },
    {
      name: 'fraction',
      label: 'At',
      help: 'Share of the way along, 0 to 1.',
      type: 'value',
      dim: 'number',
      when: of('across', 'tangent'),
    },
    { name: 'p1', label: 'First', help: 'x, y, z.', type: 'place', when: of('three') },
    { name: 'p2', label: 'Second', help: 'x, y, z.', type: 'place', when: of('three') },
    { name: 'p3', label: 'Third', help: 'x, y, z.', type: 'place', when: of('three') },
  ],
  start: () => ({
    how: 'offset' as const,
    from: 'top',
    offset: 50,
    about: 'level' as const,
    turn: 0,
    faces: [],
    fraction: 0.5,
  }),
  evaluate(input, ctx) {
    const made = MAKERS[input.how](input, ctx)
    if (!made.ok) return made
    const { frame, says } = made.value
    return good({ planes: { [ctx.op]: { frame } }, warnings: [], consequence: says })
  },
})

type Made = Outcome<{ frame: Frame; says: string }>
const MAKERS: Record<Inputs['how'], (i: Inputs, ctx: OpContext) => Made> = {
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
    const faces = pickedFrames(i, ctx)
    if (!faces.ok) return faces
    const planes = [i.from, i.to ?? ''].map((id) => planeFrame(id, ctx))
    const pair = faces.value.length > 0 ? faces.value : []
    for (const p of planes) if (pair.length < 2 && p.ok) pair.push(p.value)
    const [a, b] = pair
    if (!a || !b) return bad('two', 'Choose two planes, or pick two flat faces.')
    return midway(a, b)
  },
  angle(i, ctx) {
    const base = planeFrame(i.from, ctx)
    if (!base.ok) return base
    const turn = ctx.read(i.turn, 'angle')
    const { x, y, z, origin } = base.value
    const [c, s] = [Math.cos(turn), Math.sin(turn)]
    const mix = (u: P3, v: P3, k: number): P3 => add3(scale3(u, c), scale3(v, k * s))
    const frame: Frame =
      i.about === 'level'
        ? { origin, x, y: mix(y, z, 1), z: mix(z, y, -1) }
        : { origin, x: mix(x, z, -1), y, z: mix(z, x, 1) }
    return good({ frame, says: `${((turn * 180) / Math.PI).toFixed(2)}° to ${i.from}` })
  },
  three(i, ctx) {
    const at = [i.p1, i.p2, i.p3].map((p): P3 | null =>
      p ? [ctx.read(p.x, 'length'), ctx.read(p.y, 'length'), ctx.read(p.z, 'length')] : null,
    )
    const [a, b, c] = at
    if (!a || !b || !c) return bad('three', 'Give three places.')
    const normal = cross3(sub3(b, a), sub3(c, a))
    if (norm3(normal) < 1e-9) return bad('in-line', 'The three places lie in one line.')
    const x = unit3(sub3(b, a))
    const z = unit3(normal)
    return good({ frame: { origin: a, x, y: cross3(z, x), z }, says: 'through three places' })
  },
  across(i, ctx) {
    const profile = ctx.profile(i.profile ?? '')
    if (!profile) return bad('no-profile', 'Choose the profile the curve is drawn in.')
    const piece = profile.shape.drawn.find((d) => d.id === i.piece)
    if (!piece) return bad('no-piece', 'Choose the curve the plane stands across.')
    const t = ctx.read(i.fraction, 'number')
    if (!(t >= 0 && t <= 1)) return bad('fraction', 'The share of the way must lie from 0 to 1.')
    const [p, u] = [pointAt(piece.curve, t), tangentAt(piece.curve, t)]
    const f = profile.frame
    const along = (v: readonly [number, number]): P3 => add3(scale3(f.x, v[0]), scale3(f.y, v[1]))
    const z = along(u)
    const frame = { origin: toSpace(f, p[0], p[1]), x: f.z, y: cross3(z, f.z), z }
    return good({ frame, says: `across ${piece.id} at ${(100 * t).toFixed(1)} %` })
  },
  tangent(i, ctx) {
    const picked = pickedFaces(i, ctx)
    if (!picked.ok) return picked
    const { body, faces } = picked.value
    if (faces.length !== 1) return bad('one-face', 'Pick the one round face the plane touches.')
    const t = ctx.read(i.fraction, 'number')
    if (!(t >= 0 && t <= 1)) return bad('fraction', 'The share of the way must lie from 0 to 1.')
    const turn = ctx.read(i.turn, 'angle')
    const { curve } = faces[0]!.seg
    const [p, u] = [pointAt(curve, t), tangentAt(curve, t)]
    if (p[0] < 1e-6) return bad('pole', 'At its pole a face has no one tangent plane to draw on.')
    // The material lies left of the section's boundary: the face looks to its right.
    const out = [u[1], -u[0]] as const
    const c = add3(scale3(body.frame.x, Math.cos(turn)), scale3(body.frame.y, Math.sin(turn)))
    const z = unit3(add3(scale3(c, out[0]), scale3(body.frame.z, out[1])))
    const x = unit3(cross3(body.frame.z, c))
    const d = ctx.read(i.offset, 'length')
    const origin = add3(turnedPoint(body.frame, p[0], p[1], turn), scale3(z, d))
    return good({
      frame: { origin, x, y: cross3(z, x), z },
      says: `touching at Ø ${mm(2 * p[0])}, ${((turn * 180) / Math.PI).toFixed(1)}° round`,
    })
  },
}

function planeFrame(id: string, ctx: OpContext): Outcome<Frame> {
  const plane = ctx.plane(id)
  if (plane) return good(plane.frame)
  return bad('no-plane', `The plane "${id}" does not exist at this point of the route.`)
}

function pickedFaces(i: Inputs, ctx: OpContext): Outcome<{ body: TurnedBody; faces: Face[] }> {
  const body = ctx.body(i.body ?? '')
  if (!body) return bad('no-body', 'Choose the body whose faces are picked.')
  const section = sectionOf(body)
  if (!section.ok) return section
  const faces = pickFaces(section.value, i.faces, ctx.op, 'faces')
  return faces.ok ? good({ body: section.value, faces: faces.value.items }) : faces
}

/** Frames of the picked faces, all of which must be flat; none when none is picked. */
function pickedFrames(i: Inputs, ctx: OpContext): Outcome<Frame[]> {
  if (i.faces.length === 0) return good([])
  const picked = pickedFaces(i, ctx)
  if (!picked.ok) return picked
  const { body, faces } = picked.value
  const frames: Frame[] = []
  for (const f of faces) {
    const [p, u] = [pointAt(f.seg.curve, 0.5), tangentAt(f.seg.curve, 0.5)]
    if (f.seg.curve.kind !== 'line' || Math.abs(u[1]) > 1e-9)
      return bad('not-flat', 'This face is round; a plane is set off flat faces only.', [
        { at: f.at },
      ])
    // Looking out of the material, which lies left of the boundary.
    const up = u[0] < 0
    const { x, y, z } = body.frame
    const origin = toSpace(body.frame, 0, 0, p[1])
    frames.push(up ? { origin, x, y, z } : { origin, x, y: scale3(y, -1), z: scale3(z, -1) })
  }
  return good(frames)
}

function oneBase(i: Inputs, ctx: OpContext): Outcome<{ frame: Frame; name: string }> {
  const faces = pickedFrames(i, ctx)
  if (!faces.ok) return faces
  if (faces.value.length > 1) return bad('one-face', 'Pick one flat face only.')
  if (faces.value[0]) return good({ frame: faces.value[0], name: 'the face' })
  const plane = planeFrame(i.from, ctx)
  return plane.ok ? good({ frame: plane.value, name: i.from }) : plane
}

/** The plane half-way between two: of parallel ones the middle, else the one that halves their angle. */
function midway(a: Frame, b: Frame): Made {
  const line = cross3(a.z, b.z)
  const apart = dot3(sub3(b.origin, a.origin), a.z)
  if (norm3(line) < 1e-9) {
    const frame = { ...a, origin: toSpace(a, 0, 0, apart / 2) }
    return good({ frame, says: `midway, ${mm(Math.abs(apart) / 2)} from both` })
  }
  // A place on both planes: along the first plane, square to the line they share.
  const way = unit3(cross3(line, a.z))
  const k = -dot3(sub3(a.origin, b.origin), b.z) / dot3(way, b.z)
  const origin = add3(a.origin, scale3(way, k))
  const z = unit3(dot3(a.z, b.z) < 0 ? sub3(a.z, b.z) : add3(a.z, b.z))
  const x = unit3(line)
  return good({ frame: { origin, x, y: cross3(z, x), z }, says: 'halving the angle between both' })
}
