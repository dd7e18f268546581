import { z } from 'zod'
import { type Placing, placeCurve, reverse, startOf } from '../curve'
import {
  bad,
  cross3,
  dot3,
  type Frame,
  good,
  norm3,
  type Outcome,
  type P3,
  POINT,
  sub3,
  toSpace,
} from '../math'
import {
  CUT,
  combine,
  JOIN,
  type Keep,
  type Loop,
  MEET,
  turningRegions,
  valueSchema,
} from '../profile'
import { FULL_TURN, isWhole, type TurnedBody, volumeOf } from '../turned'
import { datumAxis } from './datum'
import { defineOp } from './spec'
import {
  type Body,
  type OpContext,
  type OpResult,
  type Profile,
  sectionOf,
  volumeChange,
} from './state'

const inputs = z.object({
  profile: z.string().min(1),
  mode: z.enum(['new', 'join', 'cut', 'meet']),
  body: z.string().optional(),
  axis: z.string().optional(),
  angle: valueSchema.default(360),
  start: valueSchema.default(0),
})
type Inputs = z.infer<typeof inputs>

const KEEP: Record<'join' | 'cut' | 'meet', Keep> = { join: JOIN, cut: CUT, meet: MEET }

export const revolveOp = defineOp<Inputs>({
  kind: 'revolve',
  version: 1,
  label: 'Revolve',
  help: 'Turns the closed areas of a profile about its axis.',
  stage: 'form',
  inputs,
  fields: [
    { name: 'profile', label: 'Profile', help: 'What is turned.', type: 'profile' },
    {
      name: 'mode',
      label: 'Result',
      help: 'A new body, or how it acts on one that is there.',
      type: 'choice',
      options: [
        { value: 'new', label: 'A body of its own' },
        { value: 'join', label: 'Added to' },
        { value: 'cut', label: 'Taken from' },
        { value: 'meet', label: 'Only what both share with' },
      ],
    },
    { name: 'body', label: 'Body', help: 'The body it acts on.', type: 'body' },
    {
      name: 'axis',
      label: 'About',
      help: 'A datum axis in the drawing’s plane; none for the axis of the drawing.',
      type: 'axis',
      none: 'the drawing’s axis',
    },
    {
      name: 'angle',
      label: 'Turn',
      help: '360 deg for a whole turn.',
      type: 'value',
      dim: 'angle',
    },
    {
      name: 'start',
      label: 'Starting at',
      help: 'Angle from the drawing plane.',
      type: 'value',
      dim: 'angle',
    },
  ],
  start: ({ profile, body }) => ({
    profile: profile ?? '',
    mode: body ? 'join' : 'new',
    ...(body ? { body } : {}),
    angle: 360,
    start: 0,
  }),
  evaluate(input, ctx): Outcome<OpResult> {
    const profile = ctx.profile(input.profile)
    if (!profile)
      return bad('no-profile', 'Choose a profile to turn; it must come earlier in the route.')
    const shape = input.axis ? aboutDatum(profile, input.axis, ctx) : good(profile.shape)
    if (!shape.ok) return shape
    const made = turnedFrom(
      { ...profile, shape: shape.value },
      ctx.op,
      ctx.read(input.angle, 'angle'),
      ctx.read(input.start, 'angle'),
    )
    if (!made.ok) return made
    if (input.mode === 'new') {
      const body: Omit<Body, 'key'> = {
        id: ctx.op,
        name: '',
        shape: { kind: 'turned', turned: made.value },
      }
      return good({
        bodies: { [ctx.op]: body },
        warnings: [],
        consequence: volumeChange(null, made.value),
      })
    }
    const target = ctx.body(input.body ?? '')
    if (!target)
      return bad('no-body', 'Choose the body to act on; it must come earlier in the route.')
    return combined(target, made.value, input.mode, ctx.op)
  },
})

/** The drawing with a datum axis in its plane as its axis. */
function aboutDatum(p: Profile, id: string, ctx: OpContext): Outcome<Profile['shape']> {
  const axis = datumAxis(id, ctx)
  if (!axis.ok) return axis
  const off = sub3(axis.value.origin, p.frame.origin)
  const at = (v: P3): [number, number] => [dot3(v, p.frame.x), dot3(v, p.frame.y)]
  const dir = at(axis.value.dir)
  if (Math.abs(dot3(off, p.frame.z)) > POINT || Math.hypot(...dir) < 1 - 1e-12)
    return bad('off-plane', 'The datum axis does not lie in the plane of the drawing.')
  return good({ ...p.shape, axis: { origin: at(off), dir } })
}

function turnedFrom(p: Profile, op: string, angle: number, start: number): Outcome<TurnedBody> {
  if (!(angle > 1e-4) || angle > FULL_TURN + 1e-9) {
    return bad('angle', 'The turn must be more than 0 and at most 360 deg.')
  }
  const regions = turningRegions(p.shape, (entity) => `${op}:${entity}`)
  if (!regions.ok) return regions
  const { origin, dir } = p.shape.axis
  const z = sub3(toSpace(p.frame, dir[0], dir[1]), p.frame.origin)
  const x = sub3(toSpace(p.frame, dir[1], -dir[0]), p.frame.origin)
  const frame: Frame = {
    origin: toSpace(p.frame, origin[0], origin[1]),
    x,
    y: cross3(z, x),
    z,
  }
  const whole = angle > FULL_TURN - 1e-6
  return good({
    frame,
    start: whole ? 0 : start,
    sweep: whole ? FULL_TURN : angle,
    regions: regions.value,
  })
}

/** Bodies about one axis are combined in the half-section; others cannot be, so far. */
function combined(
  target: Body,
  tool: TurnedBody,
  mode: 'join' | 'cut' | 'meet',
  op: string,
): Outcome<OpResult> {
  const section = sectionOf(target)
  if (!section.ok) return section
  const body = section.value
  const moved = inFrameOf(body.frame, tool)
  if (!moved) {
    return bad(
      'other-axis',
      `The profile’s axis is not the axis of ${target.name}. Draw on the same axis, or turn it as a body of its own.`,
    )
  }
  const sameSweep =
    (isWhole(body) && isWhole(moved)) ||
    (Math.abs(body.start - moved.start) < 1e-9 && Math.abs(body.sweep - moved.sweep) < 1e-9)
  if (!sameSweep) {
    return bad(
      'other-turn',
      `${target.name} is turned by ${degrees(body)}, this profile by ${degrees(moved)}. Use the same turn, or make it a body of its own.`,
      [],
      [
        {
          label: `Turn by ${degrees(body)}`,
          op,
          inputs: { angle: (body.sweep * 180) / Math.PI, start: (body.start * 180) / Math.PI },
        },
      ],
    )
  }
  const regions = combine(body.regions, moved.regions, KEEP[mode])
  if (regions.length === 0) return bad('nothing-left', `Nothing is left of ${target.name}.`)
  const turned = { ...body, regions }
  const warnings = []
  const change = volumeOf(turned) - volumeOf(body)
  if (Math.abs(change) < 1e-6 * volumeOf(body)) {
    const why = mode === 'join' ? 'it lies wholly inside' : 'it does not touch'
    warnings.push({
      code: 'no-change',
      message: `The body is as before: ${why} ${target.name}.`,
      places: [],
      fixes: [],
    })
  }
  if (regions.length > body.regions.length) {
    warnings.push({
      code: 'loose-parts',
      message: `${target.name} now has ${regions.length} parts that do not touch.`,
      places: regions.slice(1).map((r) => ({ at: startOf(r.outer[0]!.curve) })),
      fixes: [],
    })
  }
  return good({
    bodies: {
      [target.id]: { id: target.id, name: target.name, shape: { kind: 'turned', turned } },
    },
    warnings,
    consequence: volumeChange(body, turned),
  })
}

const degrees = (b: TurnedBody): string => `${Number(((b.sweep * 180) / Math.PI).toFixed(3))} deg`

/** The body written in another frame about the same axis; null when the axes differ. */
function inFrameOf(to: Frame, b: TurnedBody): TurnedBody | null {
  const from = b.frame
  const along = dot3(to.z, from.z)
  const off = sub3(from.origin, to.origin)
  const dz = dot3(off, to.z)
  const aside = norm3(sub3(off, [to.z[0] * dz, to.z[1] * dz, to.z[2] * dz]))
  if (Math.abs(along) < 1 - 1e-12 || aside > 1e-6) return null
  const flipped = along < 0
  if (!isWhole(b) && (flipped || dot3(to.x, from.x) < 1 - 1e-12)) return null
  const placing: Placing = { origin: [0, dz], x: [1, 0], y: [0, flipped ? -1 : 1] }
  const put = (loop: Loop): Loop =>
    flipped
      ? loop.map((s) => ({ ...s, curve: reverse(placeCurve(s.curve, placing)) })).reverse()
      : loop.map((s) => ({ ...s, curve: placeCurve(s.curve, placing) }))
  return {
    ...b,
    frame: to,
    regions: b.regions.map((r) => ({ outer: put(r.outer), holes: r.holes.map(put) })),
  }
}
