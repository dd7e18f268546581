import { bad, type Diagnosis, good, mm, type Outcome, rounded } from '../../../math'
import { chainFindings, mostRounding, tightest } from '../../../path'
import { length3 } from '../../../surface'
import { defineOp } from '../../spec'
import type { OpContext, OpResult } from '../../state'
import type { DatumContext } from '../datum'
import { fromPathToPath, jointOff } from './blend'
import { pathFields } from './fields'
import { alongEdges, alongProfile, type Drawn, roundHelix, throughStops } from './from'
import { type PathInputs, pathInputs } from './inputs'
import { meeting } from './meeting'
import { alongFace, betweenViews, mirrored, movedBeside, ontoFaces, refit } from './others'

export const pathOp = defineOp<PathInputs>({
  kind: 'path',
  version: 1,
  label: 'Path',
  help: 'A chain of lines, arcs and curves in space, for sections to be carried along.',
  stage: 'draw',
  inputs: pathInputs,
  fields: pathFields,
  start: ({ profile, body }) => ({
    how: 'stops',
    stops: [
      { x: 0, y: 0, z: 0, rel: false, by: 'line' },
      { x: 40, y: 0, z: 0, rel: true, by: 'line' },
    ],
    holds: [],
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
    faces: [],
    pull: 'nearest',
    others: [],
    distance: 5,
    side: 'left',
    lines: 'along',
    fraction: 0.5,
    count: 8,
    round: 0,
    join: 0.01,
  }),
  evaluate(input, ctx): Outcome<OpResult> {
    const datum: DatumContext = { ...ctx, warnings: [] }
    const made = MAKERS[input.how](input, datum)
    if (!made.ok) return made
    const { pieces, names, closed, stops, aside } = made.value
    const short = chainFindings(pieces, closed).find((f) => f.code === 'short')
    if (short)
      return bad('no-length', 'One of its pieces has shrunk to a place.', [{ at: short.at }])
    const length = pieces.reduce((sum, c) => sum + length3(c), 0)
    const { radius } = tightest(pieces)
    const bends = Number.isFinite(radius) ? `, least radius ${mm(radius, 2)}` : ''
    const { words } = made.value
    const meets = `${input.how === 'blend' ? blendWords(made.value) : ''}${words ? `, ${words}` : ''}`
    return good({
      paths: {
        [ctx.op]: {
          pieces,
          names,
          closed,
          ...(stops ? { stops } : {}),
          ...(aside ? { aside } : {}),
        },
      },
      warnings: [...datum.warnings, ...kinkWords(made.value, ctx)],
      consequence: `${closed ? 'closed, ' : ''}${mm(length, 2)} long${bends}${meets}`,
    })
  },
  cap(input, inputs, ctx) {
    if (input === 'distance') {
      const way = ctx.path(inputs.from ?? '')
      if (inputs.how !== 'beside' || !way) return null
      const { radius } = tightest(way.pieces)
      const length = way.pieces.reduce((sum, c) => sum + length3(c), 0)
      return Math.min(2 * radius, length)
    }
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
  views: betweenViews,
  onto: ontoFaces,
  line: alongFace,
  mirror: mirrored,
  refit,
  meeting,
  beside: movedBeside,
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
