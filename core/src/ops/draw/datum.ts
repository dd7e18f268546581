import { z } from 'zod'
import { type Curve, nearest, pointAt, tangentAt } from '../../curve'
import type { ExactFace, ExactPart } from '../../exact'
import {
  add3,
  bad,
  cross3,
  type Diagnosis,
  dot3,
  type Frame,
  good,
  norm3,
  type Outcome,
  type P3,
  scale3,
  sub3,
  toSpace,
  unit3,
} from '../../math'
import { type Value, valueSchema } from '../../profile'
import type { FaceRef } from '../../refs'
import { type Face, type TurnedBody, turnedPoint } from '../../turned'
import { pickExactFaces, pickFaces } from '../pick'
import { type OpContext, type OpResult, type Profile, sectionOf } from '../state'

/** What a datum op sees, and where it leaves what a person should know although it worked. */
export interface DatumContext extends OpContext {
  warnings: Diagnosis[]
}

/** Runs the maker that `how` names; what it makes becomes the result, with the warnings met on the way. */
export function madeBy<H extends string, I extends { how: H }, T>(
  makers: Record<H, (i: I, ctx: DatumContext) => Outcome<T>>,
  inputs: I,
  ctx: OpContext,
  result: (made: T) => Omit<OpResult, 'warnings'>,
): Outcome<OpResult> {
  const datum: DatumContext = { ...ctx, warnings: [] }
  const made = makers[inputs.how](inputs, datum)
  return made.ok ? good({ ...result(made.value), warnings: datum.warnings }) : made
}

/** Shown while the input `how` is one of these. */
export const when =
  <H extends string>(...hows: H[]) =>
  (i: Readonly<Record<string, unknown>>): boolean =>
    hows.includes(i.how as H)

/** A place: its coordinates, or a datum point. */
export const placeSchema = z.union([
  z.object({ point: z.string().min(1) }),
  z.object({ x: valueSchema, y: valueSchema, z: valueSchema }),
])
export type Place = z.infer<typeof placeSchema>

export function placeOf(p: Place | undefined, ctx: OpContext): Outcome<P3> {
  if (!p) return bad('no-place', 'A place is missing: type it, or choose a datum point.')
  if (!('point' in p))
    return good([ctx.read(p.x, 'length'), ctx.read(p.y, 'length'), ctx.read(p.z, 'length')])
  const point = ctx.point(p.point)
  return point
    ? good(point.at)
    : bad('no-point', `The datum point "${p.point}" does not exist at this point of the route.`)
}

export function planeFrame(id: string, ctx: OpContext): Outcome<Frame> {
  const plane = ctx.plane(id)
  if (plane) return good(plane.frame)
  return bad('no-plane', `The plane "${id}" does not exist at this point of the route.`)
}

/** A line in space: a place on it and its unit direction. */
export interface Line3 {
  origin: P3
  dir: P3
}

export function datumAxis(id: string, ctx: OpContext): Outcome<Line3> {
  const axis = ctx.axis(id)
  return axis
    ? good(axis)
    : bad('no-axis', `The datum axis "${id}" does not exist at this point of the route.`)
}

interface PickInputs {
  body?: string | undefined
  faces: readonly FaceRef[]
}

export function pickedFaces(
  i: PickInputs,
  ctx: DatumContext,
): Outcome<{ body: TurnedBody; faces: Face[] }> {
  const body = ctx.body(i.body ?? '')
  if (!body) return bad('no-body', 'Choose the body whose faces are picked.')
  const section = sectionOf(body)
  if (!section.ok) return section
  const faces = pickFaces(section.value, i.faces, ctx, 'faces')
  if (!faces.ok) return faces
  ctx.warnings.push(...faces.value.warnings)
  return good({ body: section.value, faces: faces.value.items })
}

/** Frames of the picked faces, all of which must be flat; none when none is picked. */
export function pickedFrames(i: PickInputs, ctx: DatumContext): Outcome<Frame[]> {
  if (i.faces.length === 0) return good([])
  const part = ctx.body(i.body ?? '')?.shape
  if (part && part.kind !== 'turned') return exactFrames(part, i.faces, ctx)
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

/** The same of a body that is not turned: about the foot of the origin of space, x level. */
function exactFrames(
  part: ExactPart,
  refs: readonly FaceRef[],
  ctx: DatumContext,
): Outcome<Frame[]> {
  const picked = pickExactFaces(part, refs, ctx, 'faces')
  if (!picked.ok) return picked
  ctx.warnings.push(...picked.value.warnings)
  const frames: Frame[] = []
  for (const i of picked.value.items) {
    const f = part.faces[i]!
    if (f.kind !== 'plane')
      return bad('not-flat', 'This face is not flat; a plane is set off flat faces only.', [
        { at: f.middle },
      ])
    frames.push(frameOf(f))
  }
  return good(frames)
}

/** The plane of a flat face about the foot of the origin of space, x level, z out of the material. */
export function frameOf({ middle, normal: z }: ExactFace): Frame {
  const level = cross3([0, 0, 1], z)
  const x: P3 = norm3(level) > 1e-9 ? unit3(level) : [1, 0, 0]
  return { origin: scale3(z, dot3(middle, z)), x, y: cross3(z, x), z }
}

/** Two planes: the picked flat faces first, then those chosen by name. */
export function planePair(
  i: PickInputs & { from: string; to?: string | undefined },
  ctx: DatumContext,
): Outcome<[Frame, Frame]> {
  const faces = pickedFrames(i, ctx)
  if (!faces.ok) return faces
  const pair = [...faces.value]
  for (const id of [i.from, i.to ?? '']) {
    const plane = pair.length < 2 ? planeFrame(id, ctx) : null
    if (plane?.ok) pair.push(plane.value)
  }
  const [a, b] = pair
  return a && b ? good([a, b]) : bad('two', 'Choose two planes, or pick two flat faces.')
}

/** The line two planes share; `along` is the cross product of their normals, which must not vanish. */
export function sharedLine(a: Frame, b: Frame, along: P3): Line3 {
  // A place on both planes: along the first plane, square to the line they share.
  const way = unit3(cross3(along, a.z))
  const k = -dot3(sub3(a.origin, b.origin), b.z) / dot3(way, b.z)
  return { origin: add3(a.origin, scale3(way, k)), dir: unit3(along) }
}

/** A place on a face: a share of the way along its section, turned about the axis of the body. */
export interface FaceSpot {
  at: P3
  /** Out of the material. */
  out: P3
  /** Level, in the sense of the turn; null at a pole, where every direction is. */
  round: P3 | null
  /** Distance from the axis, mm. */
  r: number
  /** rad. */
  turn: number
}

export function faceSpot(
  i: PickInputs & { fraction: Value; turn: Value },
  ctx: DatumContext,
): Outcome<FaceSpot> {
  const picked = pickedFaces(i, ctx)
  if (!picked.ok) return picked
  const { body, faces } = picked.value
  if (faces.length !== 1) return bad('one-face', 'Pick the one face it is set on.')
  const share = shareOf(i.fraction, ctx)
  if (!share.ok) return share
  const turn = ctx.read(i.turn, 'angle')
  const { curve } = faces[0]!.seg
  const [p, u] = [pointAt(curve, share.value), tangentAt(curve, share.value)]
  // The material lies left of the section's boundary: the face looks to its right.
  const out = [u[1], -u[0]] as const
  const c = add3(scale3(body.frame.x, Math.cos(turn)), scale3(body.frame.y, Math.sin(turn)))
  return good({
    at: turnedPoint(body.frame, p[0], p[1], turn),
    out: unit3(add3(scale3(c, out[0]), scale3(body.frame.z, out[1]))),
    round: p[0] < 1e-6 ? null : unit3(cross3(body.frame.z, c)),
    r: p[0],
    turn,
  })
}

/** The drawn piece a datum is set on, and the plane it lies in. */
export function drawnPiece(
  i: { profile?: string | undefined; piece?: string | undefined },
  ctx: OpContext,
): Outcome<{ piece: Profile['shape']['drawn'][number]; frame: Frame }> {
  const profile = ctx.profile(i.profile ?? '')
  if (!profile) return bad('no-profile', 'Choose the profile the curve is drawn in.')
  const piece = profile.shape.drawn.find((d) => d.id === i.piece)
  return piece
    ? good({ piece, frame: profile.frame })
    : bad('no-piece', 'Choose the curve it is set on.')
}

/** A place along a drawn piece, by its share of the way or nearest to a datum point, and its direction there. */
export function pieceSpot(
  i: {
    profile?: string | undefined
    piece?: string | undefined
    fraction: Value
    near?: string | undefined
  },
  ctx: OpContext,
): Outcome<{ at: P3; dir: P3; frame: Frame; piece: string; share: number; straight: boolean }> {
  const drawn = drawnPiece(i, ctx)
  if (!drawn.ok) return drawn
  const { piece, frame } = drawn.value
  const share = i.near ? shareNear(i.near, piece.curve, frame, ctx) : shareOf(i.fraction, ctx)
  if (!share.ok) return share
  const [p, u] = [pointAt(piece.curve, share.value), tangentAt(piece.curve, share.value)]
  return good({
    at: toSpace(frame, p[0], p[1]),
    dir: add3(scale3(frame.x, u[0]), scale3(frame.y, u[1])),
    frame,
    piece: piece.id,
    share: share.value,
    straight: piece.curve.kind === 'line',
  })
}

function shareNear(point: string, c: Curve, f: Frame, ctx: OpContext): Outcome<number> {
  const at = placeOf({ point }, ctx)
  if (!at.ok) return at
  const off = sub3(at.value, f.origin)
  return good(nearest(c, [dot3(off, f.x), dot3(off, f.y)]).t)
}

/** A share of a way, 0 to 1. */
export function shareOf(v: Value, ctx: OpContext): Outcome<number> {
  const t = ctx.read(v, 'number')
  return t >= 0 && t <= 1 ? good(t) : bad('fraction', 'The share of the way must lie from 0 to 1.')
}
