import { z } from 'zod'
import { type ExactPart, wiresIn, wiresOf } from '../../../exact'
import type { How } from '../../../kernel'
import {
  add3,
  bad,
  cross3,
  type Diagnosis,
  dot3,
  good,
  mm,
  norm3,
  type Outcome,
  type P2,
  scale3,
} from '../../../math'
import {
  type Carrying,
  type ChainFinding,
  chainFindings,
  foldAlong,
  type Placed,
  sweptFaces,
  tightest,
} from '../../../path'
import { type Region, valueSchema } from '../../../profile'
import { length3, way3 } from '../../../surface'
import { exactBody } from '../../exact'
import { defineOp } from '../../spec'
import { type OpContext, type OpResult, type Path, volumeWords } from '../../state'
import { onto, ontoFields, ontoInputs } from '../onto'
import { only } from '../prism'
import { endOf, type NamedPatch, quilted, uncrossed } from '../quilted'
import { outlinePlaces, sectionCurves, sectionMoments } from '../section'
import { changing, otherSections } from './changing'
import { sectionOfSweep, sweepSectionFields, sweepSectionInputs } from './placed'
import { carryings, type Station, sweptVolume } from './way'

const stationSchema = z.object({
  /** Share of the way, 0 to 1. */
  fraction: valueSchema,
  width: valueSchema.default(1),
  height: valueSchema.default(1),
  turn: valueSchema.default(0),
  /** Another drawing for the section here, its 0, 0 on the path; where none is told it goes on as before. */
  profile: z.string().optional(),
})

const inputs = z.object({
  path: z.string(),
  ...sweepSectionInputs,
  ...ontoInputs,
  standing: z.enum(['even', 'upright', 'parallel']).default('even'),
  twist: valueSchema.default(0),
  scale: valueSchema.default(1),
  stations: z.array(stationSchema).max(60).default([]),
  corner: z.enum(['mitre', 'round']).default('mitre'),
})
export type SweepInputs = z.infer<typeof inputs>

export const sweepOp = defineOp<SweepInputs>({
  kind: 'sweep',
  version: 1,
  label: 'Sweep',
  help: 'Carries a section along a path.',
  stage: 'form',
  inputs,
  fields: [
    { name: 'path', label: 'Path', help: 'What it is carried along.', type: 'path' },
    ...sweepSectionFields,
    ...ontoFields,
    {
      name: 'standing',
      label: 'Stands',
      help: 'How it is turned on the way: as little as can be, with its up side up, or parallel to itself.',
      type: 'choice',
      options: [
        { value: 'even', label: 'square, turning least' },
        { value: 'upright', label: 'square, upright' },
        { value: 'parallel', label: 'parallel to itself' },
      ],
    },
    {
      name: 'turn',
      label: 'Turned',
      help: 'About the path, all along.',
      type: 'value',
      dim: 'angle',
    },
    {
      name: 'twist',
      label: 'Twist',
      help: 'How much more it is turned where the path ends.',
      type: 'value',
      dim: 'angle',
    },
    {
      name: 'scale',
      label: 'Size at end',
      help: 'As a factor; it grows or shrinks evenly on the way.',
      type: 'value',
      dim: 'number',
      ranged: true,
    },
    {
      name: 'stations',
      label: 'Stations',
      help: 'Places along the path where it is wider, higher or turned; it runs on smoothly between them.',
      type: 'stations',
    },
    {
      name: 'corner',
      label: 'Kinks',
      help: 'What happens where the path has a kink.',
      type: 'choice',
      options: [
        { value: 'mitre', label: 'are mitred' },
        { value: 'round', label: 'are turned round outside' },
      ],
    },
  ],
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
    if (input.mode === 'new')
      return good({
        bodies: { [ctx.op]: { id: ctx.op, name: '', shape: part } },
        warnings,
        consequence: volumeWords(0, part.measure.volume),
      })
    const target = exactBody(input.body ?? '', ctx)
    if (!target.ok) return target
    const made = onto(target.value.body, part, input.mode as How, ctx)
    if (made.ok) made.value.warnings.unshift(...warnings)
    return made
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
  const section = sectionOfSweep(input, path, ctx)
  if (!section.ok) return section
  const { region, start } = section.value
  const stations = stationsOf(input, path, ctx)
  if (!stations.ok) return stations
  const ways = carryings(path, start, input.standing, stations.value)
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
  const plain = stations.value.length === 0 && input.standing === 'even'
  const kinked = kinks.length > 0
  // Along free curves our own surfaces are nearer and much faster than the kernel's.
  const simple = kinked || path.pieces.every((c) => c.kind !== 'spline')
  const made =
    plain && simple && (isRound(region) || isFlat(path, reach))
      ? piped(input, path, region, start, ways.value, kinks, reach, ctx)
      : kinked
        ? kinkRefused(kinks, input)
        : other.value.length > 0
          ? changing(path, other.value, stations.value, ways.value, ctx)
          : ourOwn(path, region, ways.value, reach, ctx)
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

/** Whether a section is one circle about the path, which nothing can turn. */
const isRound = (r: Region): boolean =>
  [r.outer, ...r.holes].every((loop) =>
    loop.every(({ curve: c }) => c.kind === 'arc' && Math.hypot(...c.c) < 1e-9),
  )

/** Whether a path stays in one plane, to what matters at the reach of the section. */
function isFlat(path: Path, reach: number): boolean {
  const tangents = path.pieces.flatMap((c) => [0, 0.2, 0.4, 0.6, 0.8, 1].map((t) => way3(c, t)))
  const t0 = tangents[0]!
  const off = tangents.map((t) => cross3(t0, t)).sort((a, b) => norm3(b) - norm3(a))[0]!
  const size = norm3(off)
  if (size < 1e-9) return true
  const n = scale3(off, 1 / size)
  return tangents.every((t) => Math.abs(dot3(t, n)) * (reach + 1) < 1e-7)
}

/** By the kernel's own sweep: straight pieces and arcs give true planes, cylinders and rings. */
function piped(
  input: SweepInputs,
  path: Path,
  region: Region,
  start: Placed,
  ways: readonly Carrying[],
  kinks: readonly ChainFinding[],
  reach: number,
  ctx: OpContext,
): Outcome<ExactPart> {
  const put = ([x, y]: P2) => add3(start.at, add3(scale3(start.x, x), scale3(start.y, y)))
  const loops = [region.outer, ...region.holes]
  const outline = loops.map((l) => l.flatMap((s) => wiresOf(s.curve, put)))
  const names = loops.flatMap((l) => l.flatMap((s) => wiresOf(s.curve, put).map(() => s.name)))
  const wires = path.pieces.map(wiresIn)
  const along = wires.flatMap((w, i) => w.map(() => path.names[i]!))
  const { area, centroid } = sectionMoments(loops.map(sectionCurves))
  const volume = sweptVolume(path, ways, kinks, Math.abs(area), centroid, reach, input.corner)
  const made = only(
    ctx.kernel({
      verb: 'pipe',
      args: { op: ctx.op, outline, names, path: wires.flat(), along, corner: input.corner, volume },
      on: [],
    }),
  )
  return made.ok ? uncrossed(made.value) : made
}

function kinkRefused(kinks: readonly ChainFinding[], input: SweepInputs): Outcome<never> {
  return bad(
    'kinked',
    'A section that turns or changes on the way takes a smooth path; this one has a kink here.',
    kinks.map((k) => ({ at: k.at })),
    [{ label: 'Go to the path', op: input.path, inputs: {}, go: true as const }],
  )
}

/** By surfaces of our own along frames that turn least. */
function ourOwn(
  path: Path,
  region: Region,
  ways: readonly Carrying[],
  reach: number,
  ctx: OpContext,
): Outcome<ExactPart> {
  const loops = [region.outer, ...region.holes].map(sectionCurves)
  const faces = sweptFaces(loops.flat(), ways, reach)
  const word = (f: { section: string; along: string }) =>
    path.pieces.length === 1 ? f.section : `${f.section}@${f.along}`
  const patches = faces.map((f): NamedPatch => ({ patch: f.patch, names: [word(f)] }))
  const per = loops.reduce((n, l) => n + l.length, 0)
  const rows = (first: number) => {
    let at = first
    return loops.map((l) => {
      at += l.length
      return patches.slice(at - l.length, at).map((p) => p.patch)
    })
  }
  const ends = path.closed
    ? []
    : [
        endOf(rows(0), false, [`${ctx.op}:start`]),
        endOf(rows(patches.length - per), true, [`${ctx.op}:end`]),
      ]
  return quilted(patches, ends, ctx)
}
