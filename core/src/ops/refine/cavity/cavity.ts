import { z } from 'zod'
import { type ExactPart, SHOWN } from '../../../exact'
import { bad, fixed, good, mm, type Outcome } from '../../../math'
import { inMaterial, MeshTree } from '../../../mesh'
import { valueSchema } from '../../../profile'
import { faceRefSchema } from '../../../refs'
import { turnedJob } from '../../../turned'
import { exactBody, isHeld, reshaped, sectionSize } from '../../exact'
import { pickExactFaces } from '../../pick'
import { defineOp } from '../../spec'
import { type OpContext, volumeWords } from '../../state'
import { type Asked, roomOf, turnedRoom } from './room'

const inputs = z.object({
  body: z.string(),
  wall: valueSchema,
  /** Under the room, along the axis; as thick as the wall where none is told. */
  under: valueSchema.optional(),
  open: z.array(faceRefSchema).max(1),
  x: valueSchema.default(0),
  y: valueSchema.default(0),
  /** Across a hole through the floor; 0 is none. */
  drain: valueSchema.default(0),
  /** Control points of its outline: few are calm, many come nearer the outside. */
  controls: valueSchema.default(12),
})

export const cavityOp = defineOp<z.infer<typeof inputs>>({
  kind: 'cavity',
  version: 1,
  label: 'Room',
  help: 'A smooth round room under a sculpted outside, as wide as the least wall allows; it is fitted anew when the outside changes.',
  stage: 'refine',
  inputs,
  fields: [
    { name: 'body', label: 'Body', help: 'The body that gets a room.', type: 'body' },
    {
      name: 'wall',
      label: 'Least wall',
      help: 'Nowhere is the outside nearer to the room.',
      type: 'value',
      dim: 'length',
      ranged: true,
    },
    {
      name: 'open',
      label: 'Open face',
      help: 'A flat face above or below, where the room opens.',
      type: 'faces',
    },
    {
      name: 'under',
      label: 'Floor',
      help: 'Thickness under the room; the wall’s where it is empty.',
      type: 'value',
      dim: 'length',
      optional: 'the wall’s',
    },
    {
      name: 'drain',
      label: 'Drain hole',
      help: 'Across the hole through the floor; 0 is none.',
      type: 'value',
      dim: 'length',
    },
    {
      name: 'x',
      label: 'Axis at x',
      help: 'Where its upright axis stands.',
      type: 'value',
      dim: 'length',
    },
    {
      name: 'y',
      label: 'Axis at y',
      help: 'Where its upright axis stands.',
      type: 'value',
      dim: 'length',
    },
    {
      name: 'controls',
      label: 'Control points',
      help: 'Of its outline: few are calm, many come nearer the outside.',
      type: 'value',
      dim: 'number',
    },
  ],
  start: ({ body }) => ({
    body: body ?? '',
    wall: 2,
    open: [],
    x: 0,
    y: 0,
    drain: 0,
    controls: 12,
  }),
  evaluate(input, ctx) {
    const target = exactBody(input.body, ctx)
    if (!target.ok) return target
    const { body, part } = target.value
    const held = isHeld(body, ctx)
    if (held) return held
    const asked = askedOf(input, part, ctx)
    if (!asked.ok) return asked
    const made = ctx.once('room', () => roomOf(asked.value))
    if (!made.ok) return made
    const { outline, wall, at } = made.value
    const tool = ctx.kernel(turnedJob(turnedRoom(asked.value, outline, ctx.op)))
    if (!tool.ok) return tool
    const cut = ctx.kernel({
      verb: 'combine',
      args: { op: ctx.op, how: 'cut' },
      on: [part.key, tool.value[0]!.key],
    })
    if (!cut.ok) return cut
    const now = cut.value[0]!
    const { volume } = part.measure
    return good({
      bodies: { [body.id]: reshaped(body, now) },
      tool: { how: 'cut', body: body.id, shapes: [tool.value[0]!], before: part },
      warnings: [],
      consequence: `least wall ${mm(wall, 3)} at height ${fixed(at[2], 1)}, to triangles within ${SHOWN.chord} mm; ${volumeWords(volume, now.measure.volume)}`,
    })
  },
  cap: (input, { body }, ctx) => (input === 'wall' ? sectionSize(ctx, body) : null),
  slow: () => true,
})

const upsideDown = (positions: Float32Array): Float32Array =>
  positions.map((v, i) => (i % 3 === 2 ? -v : v))

function askedOf(input: z.infer<typeof inputs>, part: ExactPart, ctx: OpContext): Outcome<Asked> {
  const length = (v: number | string) => ctx.read(v, 'length')
  const wall = length(input.wall)
  if (!(wall > 0)) return bad('not-positive', 'The wall must be more than 0.')
  const thick = input.under === undefined ? wall : length(input.under)
  if (!(thick >= wall)) return bad('thin-floor', 'The floor is at least as thick as the wall.')
  const drain = length(input.drain)
  if (!(drain >= 0)) return bad('not-positive', 'The drain hole is 0 or more across.')
  const points = ctx.read(input.controls, 'number')
  if (!(Number.isInteger(points) && points >= 4 && points <= 60))
    return bad('controls', 'The outline has 4 to 60 control points.')
  const picked = pickExactFaces(part, input.open, ctx, 'open')
  if (!picked.ok) return picked
  const face = picked.value.items[0]
  if (face === undefined) return bad('no-open', 'Choose the flat face where the room opens.')
  const { flat, normal, middle } = part.faces[face]!
  if (!flat || Math.abs(normal[2]) < 1 - 1e-9)
    return bad('not-level', 'The room opens through a flat face that looks straight up or down.', [
      { at: middle },
    ])
  const up = normal[2] > 0 ? 1 : -1
  const { min, max } = part.measure.bounds
  const [foot, rim] = up > 0 ? [min[2], middle[2]] : [-max[2], -middle[2]]
  const { positions, triangles, faceOf } = part.shown
  const others = Uint32Array.from(
    Array.from(faceOf.keys()).flatMap((t) =>
      faceOf[t] === face ? [] : [triangles[3 * t]!, triangles[3 * t + 1]!, triangles[3 * t + 2]!],
    ),
  )
  const centre = [length(input.x), length(input.y)] as const
  const [x, y, h] = [...centre, up * (foot + thick)]
  const upright = { positions, triangles: others }
  const tree = new MeshTree(upright)
  if (!inMaterial(upright, tree, x, y, h))
    return bad('no-room', 'The axis of the room does not stand in the material here.', [
      { at: [x, y, h] },
    ])
  return good({
    tree: up > 0 ? tree : new MeshTree({ positions: upsideDown(positions), triangles: others }),
    centre,
    up,
    foot,
    floor: foot + thick,
    rim,
    wall,
    drain,
    points,
    most: Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]),
  })
}
