import type { ExactPart } from '../../../exact'
import { bad, type Diagnosis, good, mm, type Outcome } from '../../../math'
import { type ChainFinding, chainFindings, foldAlong, tightest } from '../../../path'
import { length3 } from '../../../surface'
import { defineOp } from '../../spec'
import type { OpContext, OpResult, Path } from '../../state'
import { placed } from '../onto'
import { outlinePlaces } from '../section'
import { carried } from './carried'
import { changing, otherSections } from './changing'
import { type SweepInputs, sweepFields, sweepInputs } from './inputs'
import { isOpenPolyline, mitred } from './mitred'
import { isFlat, isRound, piped } from './piped'
import { sectionOfSweep } from './placed'
import { standingOf } from './standing'
import { carryings, type Station } from './way'

export const sweepOp = defineOp<SweepInputs>({
  kind: 'sweep',
  version: 1,
  label: 'Sweep',
  help: 'Carries a section along a path.',
  stage: 'form',
  inputs: sweepInputs,
  fields: sweepFields,
  start: ({ body, path }) => ({
    path: path ?? '',
    section: 'round',
    across: 4,
    bore: 0,
    wide: 9,
    high: 5,
    place: 'start',
    areas: [],
    mode: 'new',
    ...(body ? { body } : {}),
    standing: 'even',
    faces: [],
    sized: 'no',
    turn: 0,
    twist: 0,
    scale: 1,
    stations: [],
    corner: 'mitre',
  }),
  evaluate(input, ctx): Outcome<OpResult> {
    const swept = sweptPart(input, ctx)
    if (!swept.ok) return swept
    const { part, warnings } = swept.value
    return placed(part, input, ctx, { warnings })
  },
  slow: () => true,
  cap(input, { path }, ctx) {
    if (input === 'scale') return 20
    const way = ctx.path(path)
    if (!way) return null
    const length = way.pieces.reduce((sum, c) => sum + length3(c), 0)
    return Math.min(2 * tightest(way.pieces).radius, length)
  },
})

interface Swept {
  part: ExactPart
  warnings: Diagnosis[]
}

function sweptPart(input: SweepInputs, ctx: OpContext): Outcome<Swept> {
  const path = ctx.path(input.path)
  if (!path)
    return bad('no-path', 'Choose the path it is carried along; it must come earlier in the route.')
  const found = chainFindings(path.pieces, path.closed)
  const gap = found.find((f) => f.code === 'gap')
  const kinks = found.filter((f) => f.code === 'kink')
  if (gap) return bad('gap', `The path has a gap of ${mm(gap.size, 3)} here.`, [{ at: gap.at }])
  const stood = standingOf(input, path, ctx)
  if (!stood.ok) return stood
  const { standing, first } = stood.value
  const section = sectionOfSweep(input, path, first, ctx)
  if (!section.ok) return section
  const { region, start } = section.value
  const stations = stationsOf(input, path, ctx)
  if (!stations.ok) return stations
  const ways = carryings(path, start, standing, stations.value)
  if (!ways.ok) return ways
  const other = otherSections(input, region, stations.value, path, ctx)
  if (!other.ok) return other
  const outline = [region, ...other.value].flatMap(outlinePlaces)
  const fold = foldAlong(outline, ways.value)
  if (fold)
    return bad(
      'folds',
      `The section reaches ${mm(fold.reach, 2)} towards the inside where the path bends with a radius of ${mm(fold.radius, 2)}: it would fold over.`,
      [{ at: fold.at }],
    )
  const reach = Math.max(...outline.map((p) => Math.hypot(...p)))
  const plain = stations.value.length === 0 && standing === 'even'
  const kinked = kinks.length > 0
  // Along free curves our own surfaces are nearer and much faster than the kernel's.
  const simple = kinked || path.pieces.every((c) => c.kind !== 'spline')
  const made =
    plain && simple && (isRound(region) || isFlat(path, reach))
      ? piped(input, path, region, start, ways.value, kinks, reach, ctx)
      : plain && input.corner === 'mitre' && isOpenPolyline(path)
        ? mitred(path, region, start, ctx)
        : kinked
          ? kinkRefused(kinks, input)
          : other.value.length > 0
            ? changing(path, other.value, stations.value, ways.value, ctx)
            : carried(path, region, ways.value, reach, ctx)
  return made.ok ? good({ part: made.value, warnings: section.value.warnings }) : made
}

function stationsOf(input: SweepInputs, path: Path, ctx: OpContext): Outcome<Station[]> {
  const twist = ctx.read(input.twist, 'angle')
  const scale = ctx.read(input.scale, 'number')
  if (!(scale > 0)) return bad('not-positive', 'The size at the end must be more than 0.')
  const given = input.stations.map((s) => ({
    at: ctx.read(s.fraction, 'number'),
    w: ctx.read(s.width, 'number'),
    h: ctx.read(s.height, 'number'),
    turn: ctx.read(s.turn, 'angle'),
    profile: s.profile,
  }))
  if (given.some((s) => !(s.at >= 0 && s.at <= 1)))
    return bad('off-path', 'Stations stand at shares of the way from 0 to 1.')
  if (given.some((s) => !(s.w > 0 && s.h > 0)))
    return bad('not-positive', 'The width and height of a station must be more than 0.')
  given.sort((a, b) => a.at - b.at)
  const twice = given.findIndex((s, i) => i > 0 && s.at - given[i - 1]!.at < 1e-6)
  if (twice > 0) return bad('twice', `Two stations stand at ${given[twice]!.at}.`)
  if (twist === 0 && scale === 1 && given.length === 0) return good([])
  const base = given.length > 0 ? given : [{ at: 0, w: 1, h: 1, turn: 0, profile: undefined }]
  const ends = [...base]
  if (ends[0]!.at > 0) ends.unshift({ ...ends[0]!, at: 0 })
  if (ends[ends.length - 1]!.at < 1) ends.push({ ...ends[ends.length - 1]!, at: 1 })
  const all = ends.map((s) => {
    const f = 1 + (scale - 1) * s.at
    return { at: s.at, w: s.w * f, h: s.h * f, turn: s.turn + twist * s.at, profile: s.profile }
  })
  const [first, last] = [all[0]!, all[all.length - 1]!]
  const turns = Math.abs(Math.sin((last.turn - first.turn) / 2))
  if (
    path.closed &&
    (Math.abs(first.w - last.w) + Math.abs(first.h - last.h) > 1e-9 || turns > 1e-9)
  )
    return bad(
      'does-not-close',
      'The path comes back to where it starts: size and turn have to be there what they were at first.',
    )
  return good(all)
}

function kinkRefused(kinks: readonly ChainFinding[], input: SweepInputs): Outcome<never> {
  return bad(
    'kinked',
    'A section that turns or changes on the way takes a smooth path; this one has a kink here.',
    kinks.map((k) => ({ at: k.at })),
    [{ label: 'Go to the path', op: input.path, inputs: {}, go: true as const }],
  )
}
