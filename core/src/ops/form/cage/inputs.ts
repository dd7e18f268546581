import { z } from 'zod'
import type { Outcome, P3 } from '../../../math'
import type { TriMesh } from '../../../mesh'
import { type Value, valueSchema } from '../../../profile'
import type { Curve3 } from '../../../surface'
import { ontoInputs } from '../onto'

const count = (least: number, most: number) => z.number().int().min(least).max(most)

/** What a cage begins as; it stands on z = 0 about the z axis, or lies in that plane. */
export const cageStartSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('cylinder'),
    radius: valueSchema,
    height: valueSchema,
    columns: count(3, 96),
    bands: count(1, 96),
    floor: z.enum(['open', 'shut']).default('open'),
    lid: z.enum(['open', 'shut']).default('open'),
  }),
  z.object({
    kind: z.enum(['box', 'ball']),
    sx: valueSchema,
    sy: valueSchema,
    sz: valueSchema,
    across: count(1, 32),
    along: count(1, 32),
    up: count(1, 32),
  }),
  z.object({
    kind: z.literal('plane'),
    sx: valueSchema,
    sy: valueSchema,
    across: count(1, 64),
    along: count(1, 64),
  }),
  z.object({
    kind: z.literal('ring'),
    radius: valueSchema,
    size: valueSchema,
    columns: count(3, 96),
    around: count(3, 32),
  }),
  /** About z, through an outline beside the axis. */
  z.object({
    kind: z.literal('turned'),
    profile: z.string(),
    columns: count(3, 96),
    bands: count(1, 96),
  }),
  /** A profile's one area, carried along the normal of its plane. */
  z.object({
    kind: z.literal('carried'),
    profile: z.string(),
    height: valueSchema,
    columns: count(3, 96),
    bands: count(1, 96),
    floor: z.enum(['open', 'shut']).default('open'),
    lid: z.enum(['open', 'shut']).default('open'),
  }),
  /** A flat cage over a profile's one area. */
  z.object({ kind: z.literal('region'), profile: z.string(), columns: count(4, 96) }),
  /** Any points (mm) and the faces over them, by number from 0, running so that they look out. */
  z.object({
    kind: z.literal('given'),
    points: z
      .array(z.tuple([z.number().finite(), z.number().finite(), z.number().finite()]))
      .max(20_000),
    faces: z.array(z.array(z.number().int().min(0)).min(3).max(200)).max(20_000),
    /** Points are moved so that it has the symmetry it only nearly has. */
    alike: z.boolean().optional(),
  }),
])
export type CageStart = z.infer<typeof cageStartSchema>

/**
 * What an edit works on. A point `2.5`, a face `f2.5`, an edge `2.5~2.6`; `row 2`, `column 5`, `band 2` (the faces above row 2),
 * `all`.
 */
const on = z.array(z.string().min(1).max(200)).max(2000)
const common = { id: z.string().min(1).max(40), off: z.boolean().optional() }
const reach = valueSchema.default(0)
/** Whether points about what is new are moved so that the form stays, or it changes as new points make it. */
const form = z.enum(['changes', 'kept']).default('changes')
const about = z.enum(['own', 'axis']).default('own')

export const cageEditSchema = z.discriminatedUnion('kind', [
  z.object({
    ...common,
    kind: z.literal('move'),
    on,
    x: valueSchema.default(0),
    y: valueSchema.default(0),
    z: valueSchema.default(0),
    /** Along the normals, mm. */
    out: valueSchema.default(0),
    reach,
  }),
  z.object({
    ...common,
    kind: z.literal('size'),
    on,
    sx: valueSchema.default(1),
    sy: valueSchema.default(1),
    sz: valueSchema.default(1),
    about,
    reach,
  }),
  z.object({
    ...common,
    kind: z.literal('turn'),
    on,
    angle: valueSchema,
    way: z.enum(['x', 'y', 'z']).default('z'),
    about,
    reach,
  }),
  z.object({
    ...common,
    kind: z.literal('rows'),
    rows: z
      .array(
        z.object({
          row: z.string().min(1),
          /** Of what its radius was. */
          size: valueSchema.optional(),
          lift: valueSchema.optional(),
          /** Against the row below. */
          twist: valueSchema.optional(),
        }),
      )
      .max(200),
  }),
  z.object({
    ...common,
    kind: z.literal('extrude'),
    on,
    by: valueSchema,
    size: valueSchema.default(1),
    /** Whether faces side by side go together, those of each copy, or each by itself. */
    each: z.enum(['together', 'copy', 'face']).default('together'),
  }),
  z.object({
    ...common,
    kind: z.literal('loop'),
    on,
    share: valueSchema.default(0.5),
    /** On as far as there are quads, or over so many faces each way (`long`); over none it is a point on each edge. */
    runs: z.enum(['on', 'over']).default('on'),
    long: z.number().int().min(0).max(10_000).default(1),
    form,
  }),
  /** Edges become strips whose sides lie so far from where they were. */
  z.object({ ...common, kind: z.literal('bevel'), on, by: valueSchema, form }),
  z.object({ ...common, kind: z.literal('crease'), on, sharp: valueSchema.default(10) }),
  z.object({ ...common, kind: z.literal('corner'), on, sharp: valueSchema.default(10) }),
  z.object({ ...common, kind: z.literal('remove'), on }),
  z.object({
    ...common,
    kind: z.literal('fill'),
    on,
    how: z.enum(['shut', 'fan', 'grid']).default('grid'),
  }),
  z.object({
    ...common,
    kind: z.literal('bridge'),
    on,
    /** Rows of points between two runs of edges. */
    rows: z.number().int().min(0).max(50).default(0),
  }),
  z.object({ ...common, kind: z.literal('weld'), on }),
  z.object({ ...common, kind: z.literal('dissolve'), on }),
  z.object({ ...common, kind: z.literal('cut'), on, form }),
  z.object({
    ...common,
    kind: z.literal('rotate'),
    on,
    /** One corner on round the two faces beside it, seen from outside, or one back. */
    way: z.enum(['on', 'back']).default('on'),
  }),
  z.object({
    ...common,
    kind: z.literal('flat'),
    on,
    way: z.enum(['x', 'y', 'z']).default('z'),
    /** Where the plane lies along that way; through the middle of the points where none is told. */
    value: valueSchema.optional(),
  }),
  z.object({
    ...common,
    kind: z.literal('round'),
    on,
    spread: z.enum(['kept', 'even']).default('even'),
  }),
  /** Points onto a path. */
  z.object({
    ...common,
    kind: z.literal('along'),
    on,
    path: z.string(),
    spread: z.enum(['kept', 'even']).default('kept'),
  }),
  z.object({
    ...common,
    kind: z.literal('relax'),
    on,
    rounds: z.number().int().min(1).max(50).default(1),
  }),
  /** Every face as many as it has corners, the form as it is. */
  z.object({ ...common, kind: z.literal('finer') }),
  /** Onto a body. */
  z.object({
    ...common,
    kind: z.literal('lay'),
    on,
    body: z.string(),
    /** First straight along an axis, or to the nearest at once. */
    from: z.enum(['near', 'x', 'y', 'z']).default('near'),
    /** How far outside the body it is to lie, and how far it may be off, mm. */
    gap: valueSchema.default(0),
    within: valueSchema.default(0.05),
    /** The radius of a ball that rolls on the body: it lies over hollows this does not go into, mm; 0 into every one. */
    ball: valueSchema.default(0),
    /** How often the cage may be refined for that. */
    finer: z.number().int().min(0).max(3).default(2),
  }),
  /** An open cage made a wall. */
  z.object({
    ...common,
    kind: z.literal('thicken'),
    by: valueSchema,
    side: z.enum(['out', 'in']).default('out'),
  }),
  z.object({ ...common, kind: z.literal('free'), on }),
])
export type CageEdit = z.infer<typeof cageEditSchema>

export const cageInputs = z.object({
  start: cageStartSchema,
  /** How many turns about z map it onto itself, and which of x, y, z may change sign. */
  turns: z.number().int().min(1).max(96).default(1),
  mirrors: z
    .array(z.enum(['x', 'y', 'z']))
    .max(3)
    .default([]),
  edits: z.array(cageEditSchema).max(2000).default([]),
  /** Exact faces, or triangles of the cage refined so often. */
  as: z.enum(['exact', 'triangles']).default('exact'),
  level: z.enum(['1', '2', '3', '4']).default('2'),
  /** How often it is refined to be shown while it is pushed; by itself as its faces allow. */
  seen: z.enum(['auto', '1', '2', '3', '4']).default('auto'),
  /** How far the exact faces may be off the limit, mm. */
  within: valueSchema.default(0.01),
  meet: valueSchema.default(0.1),
  ...ontoInputs,
})
export type CageInputs = z.infer<typeof cageInputs>

/** Reads values as millimetres, radians and plain numbers. */
export interface Reads {
  /** The outline of a profile, from its lower end. */
  outline(profile: string): Outcome<Curve3[]>
  /** The border of a profile's one area, against the clock about its plane's normal. */
  region(profile: string): Outcome<{ outline: Curve3[]; normal: P3 }>
  /** The pieces of a path. */
  way(path: string): Outcome<{ pieces: Curve3[]; closed: boolean }>
  /** The triangles of a body within `chord` mm. */
  land(body: string, chord: number): Outcome<TriMesh>
  length(v: Value): number
  angle(v: Value): number
  number(v: Value): number
}
