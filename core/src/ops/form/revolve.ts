import { z } from 'zod'
import { startOf } from '../../curve'
import type { How } from '../../kernel'
import {
  bad,
  cross3,
  type Diagnosis,
  dot3,
  type Frame,
  good,
  type Outcome,
  type P2,
  type P3,
  POINT,
  scale3,
  sub3,
  toSpace,
} from '../../math'
import {
  combine,
  KEEP,
  liesLeft,
  type Region,
  segsOf,
  touchesItself,
  turningRegions,
  valueSchema,
} from '../../profile'
import { FULL_TURN, inFrameOf, sameTurn, type TurnedBody, turnedJob, volumeOf } from '../../turned'
import { datumAxis } from '../draw/datum'
import { asBefore } from '../exact'
import { defineOp } from '../spec'
import { type Body, type OpContext, type OpResult, type Profile, volumeChange } from '../state'
import { cellRefSchema, chosenAreas } from './chosen'
import { withProfileFixes } from './faults'
import { onto, ontoFields, ontoInputs } from './onto'

const inputs = z.object({
  profile: z.string().min(1),
  areas: z.array(cellRefSchema).max(200).default([]),
  ...ontoInputs,
  axis: z.string().optional(),
  angle: valueSchema.default(360),
  start: valueSchema.default(0),
})
type Inputs = z.infer<typeof inputs>

export const revolveOp = defineOp<Inputs>({
  kind: 'revolve',
  version: 4,
  label: 'Revolve',
  help: 'Turns the closed areas of a profile about its axis.',
  stage: 'form',
  inputs,
  fields: [
    { name: 'profile', label: 'Profile', help: 'What is turned.', type: 'profile' },
    {
      name: 'areas',
      label: 'Areas',
      help: 'Clicked on the Table, each by itself; where none is chosen, all that outlines and the axis enclose.',
      type: 'areas',
    },
    ...ontoFields,
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
    areas: [],
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
    const chosen = onlyAreas(shape.value, input.areas, ctx.op)
    if (!chosen.ok) return chosen
    const made = turnedFrom(
      { ...profile, shape: chosen.value.shape },
      ctx.op,
      ctx.read(input.angle, 'angle'),
      ctx.read(input.start, 'angle'),
    )
    if (!made.ok) return withProfileFixes(made.diagnosis, profile, input.profile)
    if (input.mode === 'new') {
      const body: Omit<Body, 'key'> = {
        id: ctx.op,
        name: '',
        shape: { kind: 'turned', turned: made.value },
      }
      const { regions } = made.value
      return good({
        bodies: { [ctx.op]: body },
        warnings: [
          ...chosen.value.warnings,
          ...looseParts('The body', regions, 1),
          ...selfTouch('The body', regions),
        ],
        consequence: volumeChange(null, made.value),
      })
    }
    const target = ctx.body(input.body ?? '')
    if (!target)
      return bad('no-body', 'Choose the body to act on; it must come earlier in the route.')
    const both = combined(target, made.value, input.mode, ctx)
    if (both.ok) both.value.warnings.unshift(...chosen.value.warnings)
    return both
  },
})

/** The drawing with nothing but the outlines of the chosen areas; as it is where none is chosen. */
function onlyAreas(
  shape: Profile['shape'],
  refs: Inputs['areas'],
  op: string,
): Outcome<{ shape: Profile['shape']; warnings: Diagnosis[] }> {
  if (refs.length === 0) return good({ shape, warnings: [] })
  const found = chosenAreas(shape, refs, '', op)
  if (!found.ok) return found
  const drawn = segsOf(found.value.areas).map(({ curve, name }) => ({
    id: name,
    curve,
    construction: false,
  }))
  return good({ shape: { ...shape, drawn }, warnings: found.value.warnings })
}

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
  // The axis of the body points up where it can, whichever way it was drawn.
  const drawn = p.shape.axis.dir
  const down = sub3(toSpace(p.frame, drawn[0], drawn[1]), p.frame.origin)[2] < -1e-9
  const dir: P2 = down ? [-drawn[0], -drawn[1]] : drawn
  const shape = { ...p.shape, axis: { ...p.shape.axis, dir } }
  const regions = turningRegions(shape, (entity) => `${op}:${entity}`)
  if (!regions.ok) return regions
  const { origin } = shape.axis
  const z = sub3(toSpace(p.frame, dir[0], dir[1]), p.frame.origin)
  const right = sub3(toSpace(p.frame, dir[1], -dir[0]), p.frame.origin)
  // The turn starts from where the profile is drawn, on either side of the axis.
  const x = liesLeft(shape) ? scale3(right, -1) : right
  const frame: Frame = {
    origin: toSpace(p.frame, origin[0], origin[1]),
    x,
    y: cross3(z, x),
    z,
  }
  const whole = angle > FULL_TURN - 1e-6
  const from = down ? -start - angle : start
  return good({
    frame,
    start: whole ? 0 : from,
    sweep: whole ? FULL_TURN : angle,
    regions: regions.value,
  })
}

/** Bodies about one axis and of one turn are combined in the half-section; others by the exact kernel. */
function combined(target: Body, tool: TurnedBody, mode: How, ctx: OpContext): Outcome<OpResult> {
  const body = target.shape.kind === 'turned' ? target.shape.turned : null
  const moved = body && inFrameOf(body.frame, tool)
  if (!body || !moved) return combinedExact(target, tool, mode, ctx)
  if (!sameTurn(body, moved)) return combinedExact(target, tool, mode, ctx)
  const regions = combine(body.regions, moved.regions, KEEP[mode])
  if (regions.length === 0) return bad('nothing-left', `Nothing is left of ${target.name}.`)
  const turned = { ...body, regions }
  const warnings: Diagnosis[] = []
  // Looked at twice only where the volume does not tell.
  const same = Math.abs(volumeOf(turned) - volumeOf(body)) < 1e-6 * volumeOf(body)
  if (same && changing(body, moved, mode).length === 0)
    warnings.push(asBefore(target.name, mode, `does not reach into ${target.name}`))
  warnings.push(...looseParts(target.name, regions, body.regions.length))
  warnings.push(...selfTouch(target.name, regions))
  return good({
    bodies: {
      [target.id]: { id: target.id, name: target.name, shape: { kind: 'turned', turned } },
    },
    ...(mode === 'meet'
      ? {}
      : { tool: { how: mode, body: target.id, shapes: [{ kind: 'turned', turned: tool }] } }),
    warnings,
    consequence: volumeChange(body, turned),
  })
}

/** What a combination adds to a body's half-section or takes away from it. */
const changing = (body: TurnedBody, tool: TurnedBody, mode: How): Region[] =>
  mode === 'join'
    ? combine(tool.regions, body.regions, KEEP.cut)
    : combine(body.regions, tool.regions, mode === 'cut' ? KEEP.meet : KEEP.cut)

/** Tells of loose parts where there are more than `expected`. */
const looseParts = (name: string, regions: readonly Region[], expected: number): Diagnosis[] =>
  regions.length <= expected
    ? []
    : [
        {
          code: 'loose-parts',
          message: `${name} now has ${regions.length} parts that do not hang together.`,
          places: regions.map((r) => ({ at: startOf(r.outer[0]!.curve) })),
          fixes: [],
        },
      ]

/** Tells of places where the body touches itself. */
function selfTouch(name: string, regions: readonly Region[]): Diagnosis[] {
  const places = touchesItself(regions)
  if (places.length === 0) return []
  return [
    {
      code: 'touches-itself',
      message: `${name} touches itself at ${places.length === 1 ? 'a ring' : `${places.length} rings`}, where it has no thickness: it is no sound solid there.`,
      places: places.map((at) => ({ at })),
      fixes: [],
    },
  ]
}

/** The same as solids: about different axes, by different turns, or with a body that is not turned. */
function combinedExact(target: Body, tool: TurnedBody, how: How, ctx: OpContext) {
  const lifted = ctx.kernel(turnedJob(tool))
  return lifted.ok ? onto(target, lifted.value[0]!, how, ctx) : lifted
}
