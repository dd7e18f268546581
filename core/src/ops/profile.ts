import { z } from 'zod'
import { bad, type Diagnosis, good } from '../math'
import {
  type Drawing,
  drawingSchema,
  emptyDrawing,
  type HoldState,
  profileHealth,
  relationWords,
  shapeOf,
  withoutHold,
} from '../profile'
import { sourcesOf } from './project'
import { defineOp } from './spec'

const inputs = z.object({
  plane: z.string().min(1),
  drawing: drawingSchema,
  /** A picture to trace: a kept file, its lower left corner and width in mm. It changes no geometry. */
  picture: z
    .object({
      file: z.string(),
      x: z.number().finite(),
      y: z.number().finite(),
      width: z.number().positive().finite(),
      opacity: z.number().min(0).max(1),
      locked: z.boolean().optional(),
    })
    .optional(),
})

export const profileOp = defineOp<z.infer<typeof inputs>>({
  kind: 'profile',
  version: 1,
  label: 'Profile',
  help: 'Lines, arcs and curves on a plane, for turning.',
  stage: 'draw',
  inputs,
  fields: [
    { name: 'plane', label: 'On', help: 'The plane it is drawn on.', type: 'plane' },
    { name: 'drawing', label: 'Drawing', help: 'Drawn on the Drafting table.', type: 'drawing' },
  ],
  start: () => ({ plane: 'front', drawing: emptyDrawing() }),
  evaluate({ plane, drawing }, ctx) {
    const on = ctx.plane(plane)
    if (!on)
      return bad('no-plane', `The plane "${plane}" does not exist at this point of the route.`)
    const shape = shapeOf(
      drawing,
      (v, want) => ctx.read(v, want),
      sourcesOf(drawing, on.frame, ctx),
    )
    const health = profileHealth(drawing, shape)
    const { conflict } = shape.hold
    const warnings = [
      ...(conflict.length > 0 ? [conflictOf(ctx.op, drawing, conflict)] : []),
      ...shape.hold.unfit.map((u) => released(ctx.op, drawing, u)),
      ...health.map(
        (f): Diagnosis => ({
          code: f.code,
          message: f.message,
          places: [{ at: f.at }],
          fixes: f.fix
            ? [{ label: f.fix.label, op: ctx.op, inputs: { drawing: f.fix.drawing } }]
            : [],
        }),
      ),
    ]
    const n = shape.drawn.filter((d) => !d.construction).length
    return good({
      profiles: { [ctx.op]: { frame: on.frame, drawing, shape, health } },
      warnings,
      ...(conflict.length > 0 ? { failed: true } : {}),
      consequence:
        n === 0
          ? 'nothing drawn yet'
          : `${n} ${n === 1 ? 'piece' : 'pieces'}${health.length === 0 ? ', sound' : ''}${freedom(shape.hold)}`,
    })
  },
})

/** ", fully held" or ", 3 freedoms left"; nothing for a drawing that holds nothing. */
const freedom = ({ freedoms, measures, conflict }: HoldState): string =>
  conflict.length > 0 || (freedoms > 0 && Object.keys(measures).length === 0)
    ? ''
    : freedoms === 0
      ? ', fully held'
      : `, ${freedoms} ${freedoms === 1 ? 'freedom' : 'freedoms'} left`

const conflictOf = (op: string, drawing: Drawing, ids: string[]): Diagnosis => ({
  code: 'conflict',
  message: `These cannot hold together: ${ids.map((id) => relationWords(drawing, id)).join('; ')}. The drawing stays as it was.`,
  places: [],
  fixes: ids.map((id) => ({
    label: `Release ${relationWords(drawing, id)}`,
    op,
    inputs: { drawing: withoutHold(drawing, id) },
  })),
})

const released = (
  op: string,
  drawing: Drawing,
  { id, message }: { id: string; message: string },
): Diagnosis => ({
  code: 'unfit',
  message: `${relationWords(drawing, id)}: ${message}`,
  places: [],
  fixes: [{ label: 'Release it', op, inputs: { drawing: withoutHold(drawing, id) } }],
})
