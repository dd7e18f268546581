import { z } from 'zod'
import { type ExactPart, faceName } from '../../../exact'
import { bad, dot3, type Frame, good, type Outcome, scale3, sub3 } from '../../../math'
import { valueSchema } from '../../../profile'
import { faceRefSchema } from '../../../refs'
import { exactBody, ofTriangles, reshaped } from '../../exact'
import { only } from '../../form/prism'
import { pickExactFaces } from '../../pick'
import { defineOp } from '../../spec'
import { type OpContext, type OpResult, volumeWords } from '../../state'

const inputs = z.object({
  body: z.string(),
  faces: z.array(faceRefSchema).max(200),
  plane: z.string().min(1),
  angle: valueSchema,
  sides: z.enum(['one', 'both']).default('one'),
})

export const draftOp = defineOp<z.infer<typeof inputs>>({
  kind: 'draft',
  version: 2,
  label: 'Draft',
  help: 'Leans faces so that the piece leaves its mould; they stay as wide where the plane meets them.',
  stage: 'refine',
  inputs,
  fields: [
    { name: 'body', label: 'Body', help: 'The body whose faces lean.', type: 'body' },
    { name: 'faces', label: 'Faces', help: 'The faces that lean.', type: 'faces' },
    {
      name: 'plane',
      label: 'From',
      help: 'Where the faces stay as they are; the piece is drawn out along its normal.',
      type: 'plane',
    },
    {
      name: 'angle',
      label: 'Angle',
      help: 'In, on the side the plane looks to.',
      type: 'value',
      dim: 'angle',
      ranged: true,
    },
    {
      name: 'sides',
      label: 'Drawn',
      help: 'One way, or both ways from the plane, which is then where the mould parts.',
      type: 'choice',
      options: [
        { value: 'one', label: 'one way' },
        { value: 'both', label: 'both ways from the plane' },
      ],
    },
  ],
  start: ({ body }) => ({
    body: body ?? '',
    faces: [],
    plane: 'top',
    angle: '2 deg',
    sides: 'one',
  }),
  evaluate({ body: id, faces, plane: planeId, angle, sides }, ctx): Outcome<OpResult> {
    const target = exactBody(id, ctx)
    if (!target.ok) return target
    const { body, part } = target.value
    const faceted = ofTriangles(body, 'a draft')
    if (faceted) return faceted
    if (faces.length === 0) return bad('no-faces', 'Choose the faces that lean.')
    const picked = pickExactFaces(part, faces, ctx, 'faces')
    if (!picked.ok) return picked
    const plane = ctx.plane(planeId)
    if (!plane) return bad('no-plane', 'Choose the plane where the faces stay as they are.')
    const tilt = ctx.read(angle, 'angle')
    if (Math.abs(tilt) < 1e-9) return bad('not-positive', 'An angle of 0 leans nothing.')
    const free = picked.value.items.map((i) => part.faces[i]!).find((f) => f.kind === 'free')
    if (free)
      return bad('no-draft', 'A face swept from a free curve takes no draft.', [
        { at: free.middle },
      ])
    const level = picked.value.items
      .map((i) => part.faces[i]!)
      .find((f) => f.kind === 'plane' && Math.abs(dot3(f.normal, plane.frame.z)) > 1 - LEVEL)
    if (level)
      return bad(
        'no-draft',
        'This face lies along the plane it would lean from: choose another plane, or leave it out.',
        [{ at: level.middle }],
      )
    const made =
      sides === 'both'
        ? bothWays(part, picked.value.items, plane.frame, tilt, ctx)
        : leaned(part, picked.value.items, plane.frame, tilt, ctx)
    if (!made.ok)
      return bad(
        'no-draft',
        `The faces cannot lean so far: ${made.diagnosis.message} Lean them before their edges are rounded.`,
        picked.value.items.map((i) => ({ at: part.faces[i]!.middle })),
      )
    const now = made.value
    return good({
      bodies: { [body.id]: reshaped(body, now) },
      warnings: picked.value.warnings,
      consequence: volumeWords(part.measure.volume, now.measure.volume),
    })
  },
  cap: (input, { faces }) => (input === 'angle' && faces.length > 0 ? 45 : null),
  slow: () => true,
})

/** A flat face nearer along the plane than this (1 - cosine of the angle) does not lean from it. */
const LEVEL = 1e-9

/** Some faces of a part leaning in from a plane. */
const leaned = (
  part: ExactPart,
  faces: number[],
  plane: Frame,
  angle: number,
  ctx: OpContext,
): Outcome<ExactPart> =>
  only(ctx.kernel({ verb: 'draft', args: { op: ctx.op, faces, plane, angle }, on: [part.key] }))

/** The part parted at the plane, the faces leaning in away from it on both sides, and joined again. */
function bothWays(
  part: ExactPart,
  faces: readonly number[],
  plane: Frame,
  angle: number,
  ctx: OpContext,
): Outcome<ExactPart> {
  const parts = ctx.kernel({ verb: 'part', args: { op: ctx.op, planes: [plane] }, on: [part.key] })
  if (!parts.ok)
    return parts.diagnosis.code === 'misses'
      ? bad('misses', 'The plane does not go through the body, so there is only one way.')
      : parts
  const names = new Set(faces.map((i) => faceName(part, i)))
  const behind: Frame = { ...plane, y: scale3(plane.y, -1), z: scale3(plane.z, -1) }
  const halves: string[] = []
  for (const half of parts.value) {
    const own = half.faces.flatMap((f, i) => (f.names.some((n) => names.has(n)) ? [i] : []))
    const front = dot3(sub3(half.measure.centroid, plane.origin), plane.z) > 0
    const made = own.length > 0 ? leaned(half, own, front ? plane : behind, angle, ctx) : good(half)
    if (!made.ok) return made
    halves.push(made.value.key)
  }
  return only(ctx.kernel({ verb: 'combine', args: { op: ctx.op, how: 'join' }, on: halves }))
}
