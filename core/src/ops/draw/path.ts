import { bad, type Diagnosis, good, mm, type Outcome, rounded } from '../../math'
import { chainFindings, mostRounding, tightest } from '../../path'
import { length3 } from '../../surface'
import { defineOp } from '../spec'
import type { OpContext, OpResult } from '../state'
import { type DatumContext, when } from './datum'
import { fromPathToPath, jointOff } from './pathblend'
import { alongEdges, alongProfile, type Drawn, roundHelix, throughStops } from './pathfrom'
import { type PathInputs, pathInputs } from './pathinputs'

const sized =
  (what: string) =>
  (i: Readonly<Record<string, unknown>>): boolean =>
    i.how === 'helix' && String(i.by).includes(what)

export const pathOp = defineOp<PathInputs>({
  kind: 'path',
  version: 1,
  label: 'Path',
  help: 'A chain of lines, arcs and curves in space, for sections to be carried along.',
  stage: 'draw',
  inputs: pathInputs,
  fields: [
    {
      name: 'how',
      label: 'Runs',
      help: 'What it is made of.',
      type: 'choice',
      options: [
        { value: 'stops', label: 'through places' },
        { value: 'profile', label: 'along a drawing' },
        { value: 'edges', label: 'along edges of a body' },
        { value: 'helix', label: 'round an axis, as a helix' },
        { value: 'blend', label: 'from one path on into another' },
      ],
    },
    {
      name: 'stops',
      label: 'Places',
      help: 'Where it goes, and how it gets there.',
      type: 'stops',
      when: when('stops'),
    },
    {
      name: 'closed',
      label: 'Ends',
      help: 'Whether it goes back to where it starts.',
      type: 'choice',
      options: [
        { value: 'no', label: 'at the last place' },
        { value: 'yes', label: 'where it starts' },
      ],
      when: when('stops'),
    },
    {
      name: 'profile',
      label: 'Drawing',
      help: 'All of its pieces, put in order.',
      type: 'profile',
      when: when('profile'),
    },
    {
      name: 'body',
      label: 'Body',
      help: 'The body whose edges are picked; it may be put away later.',
      type: 'body',
      when: when('edges'),
    },
    {
      name: 'edges',
      label: 'Edges',
      help: 'In any order.',
      type: 'edges',
      when: when('edges'),
    },
    {
      name: 'grow',
      label: 'And',
      help: 'Whether edges that run on smoothly in those picked come too.',
      type: 'choice',
      options: [
        { value: 'no', label: 'no others' },
        { value: 'smooth', label: 'those that run on in them' },
      ],
      when: when('edges'),
    },
    {
      name: 'axis',
      label: 'Axis',
      help: 'What it winds round.',
      type: 'axis',
      none: 'Square to the plane',
      when: when('helix'),
    },
    {
      name: 'plane',
      label: 'From',
      help: 'It starts in this plane, on its x.',
      type: 'plane',
      when: (i) => i.how === 'helix' && !i.axis,
    },
    {
      name: 'by',
      label: 'Given by',
      help: 'Two of the three; the third follows.',
      type: 'choice',
      options: [
        { value: 'turns-height', label: 'turns and height' },
        { value: 'pitch-turns', label: 'pitch and turns' },
        { value: 'pitch-height', label: 'pitch and height' },
      ],
      when: when('helix'),
    },
    {
      name: 'radius',
      label: 'Radius',
      help: 'Where it starts.',
      type: 'value',
      dim: 'length',
      when: when('helix'),
    },
    {
      name: 'last',
      label: 'Radius at end',
      help: 'Another one makes it run on a cone, or as a flat spiral.',
      type: 'value',
      dim: 'length',
      optional: true,
      when: when('helix'),
    },
    {
      name: 'pitch',
      label: 'Pitch',
      help: 'Height of one turn.',
      type: 'value',
      dim: 'length',
      when: sized('pitch'),
    },
    {
      name: 'turns',
      label: 'Turns',
      help: 'They need not be whole.',
      type: 'value',
      dim: 'number',
      when: sized('turns'),
    },
    {
      name: 'height',
      label: 'Height',
      help: 'Along the axis; 0 lies flat.',
      type: 'value',
      dim: 'length',
      when: sized('height'),
    },
    {
      name: 'hand',
      label: 'Winds',
      help: 'As a common screw does, or the other way.',
      type: 'choice',
      options: [
        { value: 'right', label: 'right-handed' },
        { value: 'left', label: 'left-handed' },
      ],
      when: when('helix'),
    },
    {
      name: 'from',
      label: 'Leaves',
      help: 'The path it goes on from.',
      type: 'path',
      when: when('blend'),
    },
    {
      name: 'leaves',
      label: 'At its',
      help: 'Which end of it.',
      type: 'choice',
      options: [
        { value: 'end', label: 'end' },
        { value: 'start', label: 'start' },
      ],
      when: when('blend'),
    },
    {
      name: 'into',
      label: 'Goes on in',
      help: 'The path it runs into; the same one is closed by it.',
      type: 'path',
      when: when('blend'),
    },
    {
      name: 'reaches',
      label: 'At the',
      help: 'Which end of it is reached.',
      type: 'choice',
      options: [
        { value: 'start', label: 'start of that' },
        { value: 'end', label: 'end of that' },
      ],
      when: when('blend'),
    },
    {
      name: 'order',
      label: 'Meets both',
      help: 'In direction only (G1), in curvature too (G2), or also in how that changes (G3).',
      type: 'choice',
      options: [
        { value: 'direction', label: 'in direction' },
        { value: 'curvature', label: 'in curvature' },
        { value: 'change', label: 'in change of curvature' },
      ],
      when: when('blend'),
    },
    {
      name: 'leavePull',
      label: 'Keeps to first',
      help: 'How far it keeps the direction it leaves in; 1 is where its curvature changes least.',
      type: 'value',
      dim: 'number',
      when: when('blend'),
    },
    {
      name: 'reachPull',
      label: 'Keeps to second',
      help: 'The same where it arrives.',
      type: 'value',
      dim: 'number',
      when: when('blend'),
    },
    {
      name: 'keeps',
      label: 'Gives',
      help: 'Both paths and what lies between as one, or only that.',
      type: 'choice',
      options: [
        { value: 'all', label: 'one path of all three' },
        { value: 'blend', label: 'what lies between' },
      ],
      when: when('blend'),
    },
    {
      name: 'round',
      label: 'Corners',
      help: 'Radius between straight pieces that meet at an angle; 0 leaves them sharp.',
      type: 'value',
      dim: 'length',
      ranged: true,
      when: when('stops', 'profile', 'edges'),
    },
    {
      name: 'join',
      label: 'Join within',
      help: 'Ends that are nearer than this are made to meet, and it is told.',
      type: 'value',
      dim: 'length',
      when: when('profile', 'edges'),
    },
  ],
  start: ({ profile, body }) => ({
    how: 'stops',
    stops: [
      { x: 0, y: 0, z: 0, rel: false, by: 'line' },
      { x: 40, y: 0, z: 0, rel: true, by: 'line' },
    ],
    closed: 'no',
    ...(profile ? { profile } : {}),
    ...(body ? { body } : {}),
    edges: [],
    grow: 'no',
    plane: 'top',
    by: 'turns-height',
    radius: 20,
    pitch: 10,
    turns: 3,
    height: 30,
    hand: 'right',
    leaves: 'end',
    reaches: 'start',
    order: 'curvature',
    leavePull: 1,
    reachPull: 1,
    keeps: 'all',
    round: 0,
    join: 0.01,
  }),
  evaluate(input, ctx): Outcome<OpResult> {
    const datum: DatumContext = { ...ctx, warnings: [] }
    const made = MAKERS[input.how](input, datum)
    if (!made.ok) return made
    const { pieces, names, closed, stops } = made.value
    const short = chainFindings(pieces, closed).find((f) => f.code === 'short')
    if (short)
      return bad('no-length', 'One of its pieces has shrunk to a place.', [{ at: short.at }])
    const length = pieces.reduce((sum, c) => sum + length3(c), 0)
    const { radius } = tightest(pieces)
    const bends = Number.isFinite(radius) ? `, least radius ${mm(radius, 2)}` : ''
    const meets = input.how === 'blend' ? blendWords(made.value) : ''
    return good({
      paths: { [ctx.op]: { pieces, names, closed, ...(stops ? { stops } : {}) } },
      warnings: [...datum.warnings, ...kinkWords(made.value, ctx)],
      consequence: `${closed ? 'closed, ' : ''}${mm(length, 2)} long${bends}${meets}`,
    })
  },
  cap(input, inputs, ctx) {
    if (input !== 'round') return null
    const made = MAKERS[inputs.how]({ ...inputs, round: 0 }, { ...ctx, warnings: [] })
    return made.ok ? mostRounding(made.value.pieces, made.value.closed) : null
  },
})

const MAKERS: Record<PathInputs['how'], (i: PathInputs, ctx: DatumContext) => Outcome<Drawn>> = {
  stops: throughStops,
  profile: alongProfile,
  edges: alongEdges,
  helix: roundHelix,
  blend: fromPathToPath,
}

/** How a blend was measured to meet what it joins: the worse of its two joints. */
function blendWords({ pieces, names, closed }: Drawn): string {
  const k = names.indexOf('blend')
  const next = pieces[k + 1] ?? (closed ? pieces[0] : undefined)
  if (pieces.length === 1 || !next) return ''
  const joints = [jointOff(pieces[k - 1]!, pieces[k]!), jointOff(pieces[k]!, next)]
  const angle = (180 / Math.PI) * Math.max(...joints.map((j) => j.angle))
  const bend = 100 * Math.max(...joints.map((j) => j.bend))
  return `, joints within ${rounded(angle, 3)}° and ${rounded(bend, 1)} % of curvature`
}

/** Kinks with their angles; between straight pieces a rounding is offered, the largest up to 5 mm that fits. */
function kinkWords({ pieces, closed }: Drawn, ctx: OpContext): Diagnosis[] {
  const kinks = chainFindings(pieces, closed).filter((f) => f.code === 'kink')
  if (kinks.length === 0) return []
  const most = mostRounding(pieces, closed)
  const radius = most === null ? 0 : Math.floor(Math.min(5, most) * 100) / 100
  const angles = kinks.map((k) => `${((k.size * 180) / Math.PI).toFixed(1)}°`)
  return [
    {
      code: 'kink',
      message: `${kinks.length === 1 ? 'A kink' : `${kinks.length} kinks`} of ${angles.join(', ')}: a sweep is mitred there.`,
      places: kinks.map((k) => ({ at: k.at })),
      fixes:
        radius > 0
          ? [{ label: `Round the corners by ${radius} mm`, op: ctx.op, inputs: { round: radius } }]
          : [],
    },
  ]
}
