import { z } from 'zod'
import { type ExactPart, SHOWN } from '../../../exact'
import { bad, type Diagnosis, fixed, good, mm, type Outcome, type P3 } from '../../../math'
import { inMaterial, MeshTree, withoutFace } from '../../../mesh'
import { valueSchema } from '../../../profile'
import { faceRefSchema } from '../../../refs'
import { turnedJob } from '../../../turned'
import { exactBody, isHeld, reshaped, sectionSize } from '../../exact'
import { only } from '../../form/prism'
import { pickExactFaces } from '../../pick'
import { defineOp } from '../../spec'
import { type OpContext, volumeWords } from '../../state'
import { rimOf } from './rim'
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
  /** How much is left of the outline of the open face, where the room follows that, and how far down. */
  rim: valueSchema.optional(),
  deep: valueSchema.default(4),
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
      name: 'rim',
      label: 'Rim',
      help: 'Where it opens it follows the outline of the open face, this far inside it.',
      type: 'value',
      dim: 'length',
      optional: 'round',
    },
    {
      name: 'deep',
      label: 'Rim depth',
      help: 'How far down it follows that outline.',
      type: 'value',
      dim: 'length',
      when: ({ rim }) => rim !== undefined,
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
    deep: 4,
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
    const room = only(ctx.kernel(turnedJob(turnedRoom(asked.value, outline, ctx.op))))
    if (!room.ok) return room
    const { rim } = asked.value
    const opens = rim && rimOf(part, { ...asked.value, ...rim }, ctx)
    if (opens && !opens.ok) return opens
    const tools = opens ? [room.value, opens.value.tool] : [room.value]
    const cut = only(
      ctx.kernel({
        verb: 'combine',
        args: { op: ctx.op, how: 'cut' },
        on: [part.key, ...tools.map((t) => t.key)],
      }),
    )
    if (!cut.ok) return cut
    const idle = opens && !cut.value.faces.some((f) => f.names.includes(`${ctx.op}:rim`))
    const beside = opens ? `; ${mm(opens.value.wall, 3)} beside its rim` : ''
    return good({
      bodies: { [body.id]: reshaped(body, cut.value) },
      tool: { how: 'cut', body: body.id, shapes: tools, before: part },
      warnings: idle ? [idleRim(opens.value.at)] : [],
      consequence: `least wall ${mm(wall, 3)} at height ${fixed(at[2], 1)}, to triangles within ${SHOWN.chord} mm${beside}; ${volumeWords(part.measure.volume, cut.value.measure.volume)}`,
    })
  },
  cap: (input, { body }, ctx) => (input === 'wall' ? sectionSize(ctx, body) : null),
  slow: () => true,
})

/** A body without its open face: whether a place lies in its material, and its triangles as they lie where the room opens upward. */
function outsideOf(part: ExactPart, face: number, up: 1 | -1) {
  const upright = withoutFace(part.shown, face)
  const tree = new MeshTree(upright)
  return {
    // A level ray meets no level face.
    holds: (at: P3) => inMaterial(upright, tree, ...at),
    tree: up > 0 ? tree : new MeshTree({ ...upright, positions: upsideDown(part.shown.positions) }),
  }
}

const upsideDown = (positions: Float32Array): Float32Array =>
  positions.map((v, i) => (i % 3 === 2 ? -v : v))

const idleRim = (at: P3): Diagnosis => ({
  code: 'rim-idle',
  message:
    'The rim takes nothing: the round room is as wide there. Make it narrower, or leave it out.',
  places: [{ at }],
  fixes: [],
})

/** What is asked of a room, with the number of its open face, its rim, and where its material is. */
type AskedRoom = Asked & {
  face: number
  rim: { wide: number; deep: number } | null
  holds: (at: P3) => boolean
}

function askedOf(
  input: z.infer<typeof inputs>,
  part: ExactPart,
  ctx: OpContext,
): Outcome<AskedRoom> {
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
  const [foot, top] = up > 0 ? [min[2], middle[2]] : [-max[2], -middle[2]]
  const outside = ctx.once('outside', () => outsideOf(part, face, up))
  const rim = input.rim === undefined ? null : { wide: length(input.rim), deep: length(input.deep) }
  if (rim && !(rim.wide >= wall))
    return bad('thin-rim', 'The rim is at least as wide as the least wall.')
  if (rim && !(rim.deep > 0 && rim.deep < top - foot - thick))
    return bad('rim-depth', 'The rim is more than 0 deep, and ends above the floor of the room.')
  const centre = [length(input.x), length(input.y)] as const
  const [x, y, h] = [...centre, up * (foot + thick)]
  if (!outside.holds([x, y, h]))
    return bad('no-room', 'The axis of the room does not stand in the material here.', [
      { at: [x, y, h] },
    ])
  return good({
    face,
    rim,
    holds: outside.holds,
    tree: outside.tree,
    centre,
    up,
    foot,
    floor: foot + thick,
    top,
    wall,
    drain,
    points,
    most: Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]),
  })
}
