import { z } from 'zod'
import type { Curve } from '../curve'
import { AXIS, ORIGIN } from './solver/names'
import {
  DIMENSIONS,
  type Dimensioned,
  dimensionSchema,
  RELATIONS,
  type Relation,
  relationSchema,
  shapeOfRefs,
} from './solver/schema'

/** A number in mm (or mm-valued expression over figures, such as `belly / 2`). */
export const valueSchema = z.union([z.number().finite(), z.string().min(1).max(500)])
export type Value = z.infer<typeof valueSchema>

/** Coordinates and sizes of a drawing reach this far at most, mm. */
export const DRAWING_REACH = 10_000

/** Turns a value into mm, rad or a plain number; what it throws passes through. */
export type Read = (v: Value, want: 'length' | 'angle' | 'number') => number

/** One drawn entity as a curve. */
export interface Drawn {
  id: string
  curve: Curve
  construction: boolean
}

const id = z
  .string()
  .regex(/^[A-Za-z][\w-]{0,31}$/, 'an id is a letter, then letters, digits, - or _')
const pointSchema = z.object({ x: valueSchema, y: valueSchema })

const handleSchema = z.discriminatedUnion('hold', [
  z.object({ hold: z.literal('auto') }),
  z.object({ hold: z.literal('level'), weight: z.number().positive().max(20).optional() }),
  z.object({ hold: z.literal('upright'), weight: z.number().positive().max(20).optional() }),
  z.object({ hold: z.literal('free'), d: z.tuple([z.number(), z.number()]) }),
])

/** Pieces repeated in a row or round a point; the copies follow the pieces. */
const patternSchema = z.discriminatedUnion('kind', [
  z.object({
    id,
    kind: z.literal('row'),
    entities: z.array(id).min(1).max(200),
    along: z.enum(['level', 'upright']),
    /** Width of one along the row, mm: counts in the extent. */
    size: valueSchema,
    /** Slots leave webs between them, ribs leave gaps. */
    of: z.enum(['ribs', 'slots']).optional(),
    // As many of these as settle the row; the rest is reckoned.
    count: valueSchema.optional(),
    pitch: valueSchema.optional(),
    gap: valueSchema.optional(),
    gapMost: valueSchema.optional(),
    length: valueSchema.optional(),
    head: valueSchema.optional(),
    tail: valueSchema.optional(),
    extent: valueSchema.optional(),
  }),
  z.object({
    id,
    kind: z.literal('ring'),
    entities: z.array(id).min(1).max(200),
    /** A point, or `origin`. */
    about: id,
    count: valueSchema,
    /** Angle from the first to the last; a whole turn spread evenly when left out. */
    extent: valueSchema.optional(),
  }),
])

/**
 * Where a projected piece comes from: a face of a body, the circle at the end or the widest place of a
 * face seen along the axis, or a piece of another profile.
 */
const sourceSchema = z.union([
  z.object({
    body: id,
    face: z.string().min(1).max(500),
    index: z.number().int().optional(),
    ring: z.enum(['end', 'widest']).optional(),
  }),
  /** An edge of a body that is not turned, by the faces that meet there. */
  z.object({
    body: id,
    edge: z.tuple([z.string().min(1).max(500), z.string().min(1).max(500)]),
    index: z.number().int().optional(),
    of: z.number().int().optional(),
    at: z
      .union([
        z.tuple([z.number(), z.number()]).readonly(),
        z.tuple([z.number(), z.number(), z.number()]).readonly(),
      ])
      .optional(),
    beside: z.array(z.string()).max(80).optional(),
    like: z.number().int().positive().optional(),
    rank: z.number().int().nonnegative().optional(),
    along: z.string().optional(),
  }),
  /** Where the plane of the drawing cuts a face of a body; `index` in the order along its x, then y. */
  z.object({
    body: id,
    section: z.string().min(1).max(500),
    index: z.number().int().optional(),
    of: z.number().int().optional(),
  }),
  z.object({ profile: id, piece: z.string().min(1).max(80) }),
])
export type Source = z.infer<typeof sourceSchema>

/** A piece with a source follows it: its points are where the source puts them. */
const common = { id, construction: z.boolean().optional(), source: sourceSchema.optional() }
const entitySchema = z.discriminatedUnion('kind', [
  z.object({ ...common, kind: z.literal('line'), a: id, b: id }),
  /** Arc from a over `via` to b. */
  z.object({ ...common, kind: z.literal('arc'), a: id, via: id, b: id }),
  z.object({ ...common, kind: z.literal('circle'), c: id, radius: valueSchema }),
  /** Cubic spline through the points, a handle at each. */
  z.object({
    ...common,
    kind: z.literal('fit'),
    points: z.array(id).min(2).max(200),
    handles: z.array(handleSchema),
    /** What the curve does where no handle holds it: see `EndCondition`; natural when left out. */
    ends: z.enum(['natural', 'parabolic', 'periodic']).optional(),
  }),
  /** B-spline by control points. */
  z.object({
    ...common,
    kind: z.literal('poles'),
    points: z.array(id).min(2).max(2000),
    degree: z.number().int().min(1).max(5),
    /** Knots from 0 to 1, one for each point and degree + 1 more; evenly spaced when left out. */
    knots: z.array(z.number().min(0).max(1)).max(2010).optional(),
  }),
  /** Ellipse about c with the end of one half-axis and the other's share of it. */
  z.object({ ...common, kind: z.literal('ellipse'), c: id, end: id, ratio: z.number().positive() }),
  /**
   * Arc of an ellipse about c from a to b, which lie `sweep` (deg) of its parameter apart: a quarter
   * where the radii to a and b are conjugate, such as two half-axes. Past a half turn sin(sweep) must
   * not vanish, for then a and b say nothing about its breadth.
   */
  z.object({
    ...common,
    kind: z.literal('elliptic'),
    c: id,
    a: id,
    b: id,
    sweep: z
      .number()
      .min(1)
      .max(359)
      .refine((s) => Math.abs(s - 180) >= 1, 'the sweep of an elliptic arc cannot be a half turn'),
  }),
  /** The axis the profile is turned about; without one it is the upright through the origin. */
  z.object({ ...common, kind: z.literal('axis'), a: id, b: id }),
])

/** What is drawn on one plane. Points are shared: entities that name one point meet there. */
export const drawingSchema = z
  .object({
    points: z.record(id, pointSchema),
    entities: z.array(entitySchema).max(2000),
    /** What holds between points and pieces; ids are shared with the dimensions. */
    patterns: z.array(patternSchema).max(100).optional(),
    relations: z.array(relationSchema).max(2000).optional(),
    dimensions: z.array(dimensionSchema).max(2000).optional(),
  })
  .superRefine((d, ctx) => {
    checkHolds(d, ctx)
    const seen = new Set<string>()
    for (const [i, e] of d.entities.entries()) {
      if (seen.has(e.id))
        ctx.addIssue({
          code: 'custom',
          message: `the id "${e.id}" is used twice`,
          path: ['entities', i],
        })
      seen.add(e.id)
      for (const p of pointsOf(e)) {
        if (!(p in d.points))
          ctx.addIssue({
            code: 'custom',
            message: `"${e.id}" uses the point "${p}", which is not there`,
            path: ['entities', i],
          })
      }
      if (e.kind === 'poles' && e.knots && !clampedKnots(e.knots, e.points.length, e.degree))
        ctx.addIssue({
          code: 'custom',
          message: `"${e.id}" has knots that do not fit its points and degree`,
          path: ['entities', i],
        })
      if (e.kind === 'fit' && e.handles.length !== e.points.length)
        ctx.addIssue({
          code: 'custom',
          message: `"${e.id}" needs one handle for each point`,
          path: ['entities', i],
        })
    }
  })

/** Relations and dimensions must have ids of their own and name what is there. */
function checkHolds(
  d: {
    points: Record<string, unknown>
    entities: { id: string }[]
    relations?: Relation[] | undefined
    dimensions?: Dimensioned[] | undefined
  },
  ctx: z.RefinementCtx,
) {
  const seen = new Set<string>()
  const listed = (['relations', 'dimensions'] as const).flatMap((list) =>
    (d[list] ?? []).map((r: Relation | Dimensioned, i) => ({ r, path: [list, i] })),
  )
  for (const { r, path } of listed) {
    const say = (message: string) => ctx.addIssue({ code: 'custom', message, path })
    if (seen.has(r.id)) say(`the id "${r.id}" is used by two relations or dimensions`)
    seen.add(r.id)
    for (const p of r.points)
      if (!(p in d.points) && p !== ORIGIN)
        say(`"${r.id}" names the point "${p}", which is not there`)
    for (const e of r.entities)
      if (e !== AXIS && !d.entities.some((x) => x.id === e))
        say(`"${r.id}" names the piece "${e}", which is not there`)
    const { needs } = 'value' in r ? DIMENSIONS[r.kind] : RELATIONS[r.kind]
    if (!(needs as readonly string[]).includes(shapeOfRefs(r)))
      say(`"${r.id}" (${r.kind}) does not fit what it names`)
  }
}

export type Drawing = z.infer<typeof drawingSchema>
export type Pattern = z.infer<typeof patternSchema>
export type Entity = Drawing['entities'][number]
export type DrawnPoint = z.infer<typeof pointSchema>

export const emptyDrawing = (): Drawing => ({ points: {}, entities: [] })

/** Ids of the points an entity hangs on, in drawing order. */
export function pointsOf(e: Entity): string[] {
  if (e.kind === 'circle') return [e.c]
  if (e.kind === 'ellipse') return [e.c, e.end]
  if (e.kind === 'elliptic') return [e.c, e.a, e.b]
  if (e.kind === 'fit' || e.kind === 'poles') return e.points
  if (e.kind === 'arc') return [e.a, e.via, e.b]
  return [e.a, e.b]
}

/** Rising knots, equal or well apart, that are full at both ends. */
const clampedKnots = (knots: number[], n: number, degree: number): boolean =>
  knots.length === n + degree + 1 &&
  knots.every((k, i) => i === 0 || k === knots[i - 1] || k - knots[i - 1]! >= 1e-6) &&
  knots[degree] === 0 &&
  knots[n] === 1

/** The two end points of an open entity; null for one that closes on itself. */
export function endsOf(e: Entity): [string, string] | null {
  if (e.kind === 'circle' || e.kind === 'ellipse') return null
  if (e.kind === 'elliptic') return [e.a, e.b]
  if (e.kind === 'fit' && e.ends === 'periodic') return null
  const p = pointsOf(e)
  return [p[0]!, p[p.length - 1]!]
}

/** Without points nothing hangs on, and without relations and dimensions of what is gone. */
export function pruned(d: Drawing): Drawing {
  const used = new Set(d.entities.flatMap(pointsOf))
  const there = new Set(d.entities.map((e) => e.id))
  const stands = (r: { points: string[]; entities: string[] }) =>
    r.points.every((p) => used.has(p) || p === ORIGIN) &&
    r.entities.every((e) => there.has(e) || e === AXIS)
  return {
    ...d,
    points: Object.fromEntries(Object.entries(d.points).filter(([id]) => used.has(id))),
    ...(d.patterns ? { patterns: patternsOf(d, there) } : {}),
    ...(d.relations ? { relations: d.relations.filter(stands) } : {}),
    ...(d.dimensions ? { dimensions: d.dimensions.filter(stands) } : {}),
  }
}

/** Patterns without the pieces that are gone; those left with none are dropped. */
const patternsOf = (d: Drawing, there: ReadonlySet<string>): Pattern[] =>
  (d.patterns ?? []).flatMap((p) => {
    const entities = p.entities.filter((e) => there.has(e))
    return entities.length > 0 ? [{ ...p, entities }] : []
  })

/** A piece under another name, on other points. */
export function renamed(e: Entity, id: string, point: (p: string) => string): Entity {
  switch (e.kind) {
    case 'line':
    case 'axis':
      return { ...e, id, a: point(e.a), b: point(e.b) }
    case 'arc':
      return { ...e, id, a: point(e.a), via: point(e.via), b: point(e.b) }
    case 'circle':
      return { ...e, id, c: point(e.c) }
    case 'ellipse':
      return { ...e, id, c: point(e.c), end: point(e.end) }
    case 'elliptic':
      return { ...e, id, c: point(e.c), a: point(e.a), b: point(e.b) }
    case 'fit':
    case 'poles':
      return { ...e, id, points: e.points.map(point) }
  }
}
