import { z } from 'zod'
import type { ExactPart } from '../../../exact'
import {
  bad,
  type Diagnosis,
  fixed,
  good,
  mm,
  type Outcome,
  type P2,
  type Place,
} from '../../../math'
import { valueSchema } from '../../../profile'
import { type FaceRef, faceRefSchema } from '../../../refs'
import {
  faceSegs,
  shell,
  shellMarks,
  type TurnedBody,
  type WallReading,
  wallOver,
} from '../../../turned'
import { exactOf, isExact, reshaped, sectionSize, withShape } from '../../exact'
import { pickExactFaces, pickFaces } from '../../pick'
import { defineOp } from '../../spec'
import { type Body, type OpContext, type OpMade, volumeWords } from '../../state'
import { hollowTube } from './hollow'
import { hollowLeavingOut } from './leftout'
import { outwardParted } from './outward'
import { type OwnWall, ownWalls, withOwnWalls } from './ownwalls'
import { hollowSqueezed, type WithWall } from './squeezed'

const inputs = z.object({
  body: z.string(),
  wall: valueSchema,
  open: z.array(faceRefSchema).max(100),
  /** Faces with a wall of their own. */
  others: z
    .array(faceRefSchema.extend({ wall: valueSchema.optional() }))
    .max(100)
    .default([]),
  side: z.enum(['in', 'out']).default('in'),
  by: z.enum(['surfaces', 'triangles']).default('surfaces'),
})

export const shellOp = defineOp<z.infer<typeof inputs>>({
  kind: 'shell',
  version: 6,
  label: 'Shell',
  help: 'Hollows a body to an even wall; chosen faces stay open.',
  stage: 'refine',
  inputs,
  fields: [
    { name: 'body', label: 'Body', help: 'The body to hollow.', type: 'body' },
    {
      name: 'wall',
      label: 'Wall',
      help: 'Thickness, square to the faces.',
      type: 'value',
      dim: 'length',
      ranged: true,
    },
    {
      name: 'open',
      label: 'Open faces',
      help: 'Faces without a wall; none gives a closed hollow.',
      type: 'faces',
    },
    {
      name: 'others',
      label: 'Other walls',
      help: 'Faces whose wall is thicker or thinner than that of the rest, each by its own figure.',
      type: 'faces',
      own: [{ name: 'wall', label: 'Wall' }],
      when: (i) => i.side === 'in' && i.by === 'surfaces',
    },
    {
      name: 'side',
      label: 'Wall grows',
      help: 'Inward keeps the outside, outward keeps the inside.',
      type: 'choice',
      options: [
        { value: 'in', label: 'Inward' },
        { value: 'out', label: 'Outward' },
      ],
    },
    {
      name: 'by',
      label: 'As',
      help: 'Surfaces stay exact; triangles hollow what surfaces cannot, inward, within what their facets are off.',
      type: 'choice',
      options: [
        { value: 'surfaces', label: 'Surfaces' },
        { value: 'triangles', label: 'Triangles' },
      ],
    },
  ],
  start: ({ body }) => ({
    body: body ?? '',
    wall: 3,
    open: [],
    others: [],
    side: 'in' as const,
    by: 'surfaces' as const,
  }),
  evaluate({ body: id, wall, open, others, side, by }, ctx) {
    const body = ctx.body(id)
    if (!body) return bad('no-body', 'Choose a body; it must come earlier in the route.')
    const t = ctx.read(wall, 'length')
    if (!(t > 0)) return bad('not-positive', 'The wall must be more than 0.')
    if (by === 'triangles' || body.shape.kind === 'mesh')
      return shelledTriangles(body, t, open, side, ctx)
    const own = ownWalls(others, side, t, ctx)
    if (!own.ok) return own
    if (body.shape.kind !== 'turned')
      return shelledExact(body, body.shape, t, open, side, own.value, ctx)
    const before = body.shape.turned
    const picked = pickFaces(before, open, ctx, 'open')
    if (!picked.ok) return picked
    const faces = new Set(picked.value.items.map((f) => f.seg))
    const apart = pickFaces(before, others, ctx, 'others')
    if (!apart.ok) return apart
    const walls = new Map(apart.value.items.map((f, i) => [f.seg, own.value[i]!.wall]))
    const made = shell(before, t, faces, side, ctx.op, walls)
    if (!made.ok) return made
    const { body: turned, lost } = made.value
    const opened = new Set([...faces].map((f) => f.name))
    const least = Math.min(t, ...own.value.map((o) => o.wall))
    return good({
      bodies: { [body.id]: withShape(body, turned) },
      say: () => {
        const reading = wallMade(turned, ctx.op, opened)
        const found = [...picked.value.warnings, ...apart.value.warnings]
        const warnings = [...found, ...thinner(reading, least), ...unseen(lost)]
        return { warnings, consequence: inWords(reading, t) }
      },
    })
  },
  // Each trial on triangles takes seconds: what is too thick is told when it is asked for.
  cap: (input, { body, by }, ctx) =>
    input === 'wall' && by === 'surfaces' && ctx.body(body)?.shape.kind !== 'mesh'
      ? sectionSize(ctx, body)
      : null,
  slow: ({ body }, ctx) => isExact(ctx, body),
  marks: (_, { body: id, open, others, side }, ctx) => {
    const body = ctx.body(id)
    // With walls that differ nothing tells beforehand where the make-up changes.
    if (body?.shape.kind !== 'turned' || others.length > 0) return []
    const { turned } = body.shape
    const picked = pickFaces(turned, open, ctx, 'open')
    return picked.ok ? shellMarks(turned, new Set(picked.value.items.map((f) => f.seg)), side) : []
  },
})

/** The wall by the exact kernel: measured by its verb, which takes the first of several ways that is right. */
function shelledExact(
  body: Body,
  part: ExactPart,
  wall: number,
  open: readonly FaceRef[],
  side: 'in' | 'out',
  own: readonly OwnWall[],
  ctx: OpContext,
): Outcome<OpMade> {
  const picked = pickExactFaces(part, open, ctx, 'open')
  if (!picked.ok) return picked
  if (part.measure.solids > 1)
    return bad('several', 'The body has several loose parts; part it, and hollow each.')
  const made = hollowed(body.id, part, new Set(picked.value.items), wall, side, ctx)
  if (!made.ok) return side === 'in' ? orAsTriangles(made.diagnosis, ctx.op) : made
  const { thinnest, full } = made.value
  const set = withOwnWalls(part, made.value.part, wall, own, ctx)
  if (!set.ok) return set
  const { now, warnings } = set.value
  const walls = [wall, ...own.map((o) => o.wall), ...(thinnest ? [thinnest.wall] : [])]
  const [least, most] = [Math.min(...walls), Math.max(...walls)]
  return good({
    bodies: { [body.id]: reshaped(body, now) },
    warnings: [
      ...picked.value.warnings,
      ...warnings,
      ...(full ?? []),
      ...(thinnest ? [thinAt(thinnest.wall, wall, thinnest.at)] : []),
    ],
    consequence: `wall ${fixed(least, 2)}${most > least ? `–${fixed(most, 2)}` : ''} mm, ${volumeWords(part.measure.volume, now.measure.volume)}`,
  })
}

/**
 * The wall by surfaces: without details smaller than it, which are made again about it; behind our own, as lofts and sweeps make them, also where they were cut since, by ourselves; else
 * by the kernel, the first of its ways whose result measures right.
 */
function hollowed(
  body: string,
  part: ExactPart,
  open: ReadonlySet<number>,
  wall: number,
  side: 'in' | 'out',
  ctx: OpContext,
): Outcome<WithWall & { full?: Diagnosis[] }> {
  const left =
    side === 'in'
      ? hollowLeavingOut(body, part, open, wall, ctx, (p, o) =>
          hollowed(body, p, o, wall, side, ctx),
        )
      : null
  if (left?.ok) return left
  const even = (made: Outcome<ExactPart>): Outcome<WithWall> =>
    made.ok ? good({ part: made.value, thinnest: null }) : made
  const tube = side === 'in' ? hollowTube(part, open, wall, ctx) : null
  const own = tube ? even(tube) : side === 'in' ? hollowSqueezed(body, part, open, wall, ctx) : null
  if (own && (own.ok || own.diagnosis.code === 'too-tight')) return own
  const made = ctx.kernel({
    verb: 'shell',
    args: { op: ctx.op, open: [...open], wall, side },
    on: [part.key],
  })
  if (made.ok) return good({ part: made.value[0]!, thinnest: null })
  const parted = side === 'out' ? outwardParted(part, [...open], wall, ctx.op, ctx) : null
  if (parted) return good({ part: parted.value, thinnest: null })
  // What only the kernel says of our own surfaces explains less than what it says of its own way.
  return own && own.diagnosis.code !== 'kernel' ? own : made
}

/** The same failure with another way as a fix. */
const orAsTriangles = (d: Diagnosis, op: string): Outcome<never> =>
  bad(d.code, d.message, d.places, [
    ...d.fixes,
    { label: 'Hollow it as triangles', op, inputs: { by: 'triangles' } },
  ])

/** The wall by distance on a grid: its verb measures that it is nowhere less than asked. */
function shelledTriangles(
  body: Body,
  wall: number,
  open: readonly FaceRef[],
  side: 'in' | 'out',
  ctx: OpContext,
): Outcome<OpMade> {
  const part = exactOf(body, ctx)
  if (!part.ok) return part
  const picked = pickExactFaces(part.value, open, ctx, 'open')
  if (!picked.ok) return picked
  const made = ctx.kernel({
    verb: 'shell',
    args: { op: ctx.op, open: [...new Set(picked.value.items)], wall, side },
    on: [part.value.key],
    triangles: true,
  })
  if (!made.ok) return made
  const now = made.value[0]!
  return good({
    bodies: { [body.id]: reshaped(body, now) },
    warnings: picked.value.warnings,
    consequence: `wall ${fixed(wall, 2)} mm at least, as triangles, ${volumeWords(part.value.measure.volume, now.measure.volume)}`,
  })
}

/** The wall as measured from the faces a shell made, mm; null where it made none that face a wall. */
function wallMade(turned: TurnedBody, op: string, open: ReadonlySet<string>): WallReading | null {
  const fresh = faceSegs(turned).filter((f) => f.name.startsWith(`${op}:wall(`))
  return wallOver(turned, fresh, 48, open)
}

/** Believed only once measured: no wall thinner than asked. */
function thinner(reading: WallReading | null, asked: number): Diagnosis[] {
  if (!reading || reading.min.wall >= asked - 5e-4) return []
  return [thinAt(reading.min.wall, asked, reading.min.at)]
}
const thinAt = (wall: number, asked: number, at: Place['at']): Diagnosis => ({
  code: 'thin-wall',
  message: `The wall measures ${mm(wall)} here, less than the ${mm(asked)} asked.`,
  places: [{ at }],
  fixes: [],
})

/** Details of the outside that the other side of the wall is too far off to show. */
function unseen(lost: readonly { name: string; at: P2 }[]): Diagnosis[] {
  if (lost.length === 0) return []
  const many = lost.length > 1
  return [
    {
      code: 'detail-lost',
      message: `${many ? `${lost.length} details are` : 'One detail is'} finer than the wall and ${many ? 'do' : 'does'} not show on the other side.`,
      places: lost.map((l) => ({ at: l.at, label: l.name })),
      fixes: [],
    },
  ]
}

function inWords(reading: WallReading | null, asked: number): string {
  if (!reading) return `wall ${mm(asked)}`
  const [least, most] = [reading.min.wall, reading.max.wall]
  const even = Math.abs(most - least) < 0.005
  return `wall ${fixed(least, 2)}${even ? '' : `–${fixed(most, 2)}`} mm`
}
