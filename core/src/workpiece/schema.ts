import { z } from 'zod'
import { RESERVED } from './expression'
import { fileSchema } from './files'
import { idSchema } from './id'
import { materialSchema, PROCESSES, printerSchema, processSchema } from './tables'

export const FORMAT = 'ivory-lathe'
export const VERSION = 1

export { idSchema } from './id'

export const figureSchema = z.object({
  name: z
    .string()
    .regex(/^[A-Za-z_]\w{0,39}$/, 'a figure’s name is a letter, then letters, digits or _')
    .refine((n) => !RESERVED.has(n), 'this word is a unit or a function'),
  expr: z.string().min(1).max(500),
  note: z.string().max(500).optional(),
  /** Span of its slider, in the figure's own unit (mm, deg, ml or plain). */
  min: z.number().finite().optional(),
  max: z.number().finite().optional(),
})
export type Figure = z.infer<typeof figureSchema>

/** One step of the route. `inputs` is checked by the op itself when it runs. */
export const opSchema = z.object({
  id: idSchema,
  number: z.number().int().min(1).max(1_000_000),
  kind: z.string().min(1).max(40),
  name: z.string().min(1).max(80),
  suppressed: z.boolean().optional(),
  /** What a person has to say of it. */
  note: z.string().max(500).optional(),
  inputs: z.record(z.string(), z.unknown()),
})
export type Op = z.infer<typeof opSchema>

export const limitsSchema = z.object({ min: z.number().optional(), max: z.number().optional() })
export type Limits = z.infer<typeof limitsSchema>

/** What the brief can set a target for, with the unit its numbers are in. */
export const TARGETS = {
  capacity: 'ml',
  wall: 'mm',
  mass: 'g',
  height: 'mm',
  width: 'mm',
  tipping: 'deg',
  rib: 'mm',
  gap: 'mm',
} as const
export type Target = keyof typeof TARGETS

export const briefSchema = z.object({
  purpose: z.string().max(2000).default(''),
  process: z.enum(PROCESSES).optional(),
  material: z.string().max(40).optional(),
  /** Width of one printed line, mm. */
  line: z.number().positive().max(20).optional(),
  /** As they were when they were chosen from tables. */
  printer: printerSchema.optional(),
  limits: processSchema.optional(),
  targets: z
    .object({
      capacity: limitsSchema.optional(),
      wall: limitsSchema.optional(),
      mass: limitsSchema.optional(),
      height: limitsSchema.optional(),
      width: limitsSchema.optional(),
      tipping: limitsSchema.optional(),
      rib: limitsSchema.optional(),
      gap: limitsSchema.optional(),
    })
    .default({}),
})
export type Brief = z.infer<typeof briefSchema>

export const gaugeSchema = z.object({
  id: idSchema,
  kind: z.string().min(1).max(40),
  /** Body id; the first body when left out. */
  body: idSchema.optional(),
  /** Own limits; without them the brief's target of the same kind counts. */
  limits: limitsSchema.optional(),
  params: z.record(z.string(), z.union([z.number(), z.string()])).default({}),
})
export type GaugeDoc = z.infer<typeof gaugeSchema>

/** A note on a face, or on the edge between two, by their names; `at` tells which place of it, mm. */
export const noteSchema = z.object({
  id: idSchema,
  body: idSchema,
  faces: z.array(z.string().min(1).max(2000)).min(1).max(2),
  at: z.tuple([z.number().finite(), z.number().finite(), z.number().finite()]),
  text: z.string().max(500).default(''),
})
export type NoteDoc = z.infer<typeof noteSchema>

/** Ops and figures taken over from a proof of another workpiece: which here is which there. */
export const linkSchema = z.object({
  workpiece: z.string().min(1).max(64),
  name: z.string().max(120),
  proof: z.string().min(1).max(64),
  /** When the proof was kept, ms since 1970. */
  made: z.number(),
  ops: z.record(idSchema, idSchema),
  figures: z.record(z.string(), z.string()),
})
export type LinkDoc = z.infer<typeof linkSchema>

export const workpieceSchema = z
  .object({
    format: z.literal(FORMAT),
    version: z.literal(VERSION),
    id: z.string().min(1).max(64),
    name: z.string().min(1).max(120),
    unit: z.enum(['mm', 'in']).default('mm'),
    figures: z.array(figureSchema).max(1000).default([]),
    route: z.array(opSchema).max(1000).default([]),
    brief: briefSchema.default({ purpose: '', targets: {} }),
    gauges: z.array(gaugeSchema).max(200).default([]),
    links: z.array(linkSchema).max(50).default([]),
    /** Materials of one's own that the brief or a body is of. */
    materials: z.array(materialSchema).max(500).default([]),
    notes: z.array(noteSchema).max(200).default([]),
    bodies: z
      .record(
        idSchema,
        z.object({
          name: z.string().max(80).optional(),
          color: z
            .string()
            .regex(/^#[0-9a-fA-F]{6}$/)
            .optional(),
          material: z.string().max(40).optional(),
          /** Not shown, and not in the section. */
          hidden: z.boolean().optional(),
          /** Out of section, gauges and release too; ops may still refer to it. */
          away: z.boolean().optional(),
          /** What it will hold, a lamp or a hand: never cut, never released, measured against. */
          content: z.boolean().optional(),
          /** How the Stage shows it; when absent shaded, content seen through. */
          look: z.enum(['shaded', 'clear', 'edges']).optional(),
        }),
      )
      .default({}),
    /** Files the route brings in, by id. */
    files: z.record(idSchema, fileSchema).optional(),
    /** The route is shown up to and including this op; all of it when absent. */
    rolledTo: idSchema.optional(),
    log: z
      .array(z.object({ at: z.string(), text: z.string().max(500) }))
      .max(1000)
      .default([]),
  })
  .superRefine((w, ctx) => {
    const twice = (what: string, ids: string[], path: string) => {
      for (const [i, id] of ids.entries()) {
        if (ids.indexOf(id) !== i) {
          ctx.addIssue({
            code: 'custom',
            message: `${what} "${id}" is there twice`,
            path: [path, i],
          })
        }
      }
    }
    twice(
      'the figure',
      w.figures.map((f) => f.name),
      'figures',
    )
    twice(
      'the op id',
      w.route.map((o) => o.id),
      'route',
    )
    twice(
      'the gauge id',
      w.gauges.map((g) => g.id),
      'gauges',
    )
  })
export type Workpiece = z.infer<typeof workpieceSchema>
