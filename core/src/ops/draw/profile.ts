import { z } from 'zod'
import { bad, type Diagnosis, good } from '../../math'
import {
  DRAWING_REACH,
  type Drawing,
  drawingSchema,
  emptyDrawing,
  type HoldState,
  profileHealth,
  relationWords,
  shapeOf,
  type Value,
  withoutHold,
} from '../../profile'
import { ExpressionError } from '../../workpiece'
import { defineOp } from '../spec'
import { sourcesOf } from './project'

const inputs = z.object({
  plane: z.string().min(1),
  drawing: drawingSchema.default(emptyDrawing),
  use: z.enum(['turn', 'flat', 'open']).default('turn'),
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
  version: 2,
  label: 'Profile',
  help: 'Lines, arcs and curves on a plane.',
  stage: 'draw',
  inputs,
  fields: [
    { name: 'plane', label: 'On', help: 'The plane it is drawn on.', type: 'plane' },
    {
      name: 'use',
      label: 'For',
      help: 'What is turned has to stay on one side of the axis and meet it square.',
      type: 'choice',
      options: [
        { value: 'turn', label: 'Turning about its axis' },
        { value: 'flat', label: 'Carrying straight out' },
        { value: 'open', label: 'Free lines: they may cross and end' },
      ],
    },
    { name: 'drawing', label: 'Drawing', help: 'Drawn on the Drafting table.', type: 'drawing' },
  ],
  start: () => ({ plane: 'front', drawing: emptyDrawing(), use: 'turn' }),
  evaluate({ plane, drawing, use }, ctx) {
    const on = ctx.plane(plane)
    if (!on)
      return bad('no-plane', `The plane "${plane}" does not exist at this point of the route.`)
    const shape = shapeOf(
      drawing,
      (v, want) => within(v, want, ctx.read(v, want)),
      sourcesOf(drawing, on.frame, ctx),
    )
    const health = profileHealth(drawing, shape, use)
    const { conflict, unreached } = shape.hold
    const warnings = [
      ...(unreached ? [NOT_REACHED] : []),
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
      ...(conflict.length > 0 || unreached ? { failed: true } : {}),
      consequence:
        n === 0
          ? 'nothing drawn yet'
          : `${n} ${n === 1 ? 'piece' : 'pieces'}${health.length === 0 ? ', sound' : ''}${freedom(shape.hold)}`,
    })
  },
})

/** A value that a drawing can take; throws with a sentence otherwise. */
function within(v: Value, want: string, x: number): number {
  if (want !== 'length' || Math.abs(x) <= DRAWING_REACH) return x
  const said = typeof v === 'string' ? `"${v}"` : `${v} mm`
  throw new ExpressionError(
    `${said} is too far out: coordinates and sizes of a drawing reach ${DRAWING_REACH / 1000} m at most.`,
  )
}

/** ", fully held" or ", 3 freedoms left"; nothing for a drawing that holds nothing. */
const freedom = ({ freedoms, measures, conflict, unreached }: HoldState): string =>
  unreached || conflict.length > 0 || (freedoms > 0 && Object.keys(measures).length === 0)
    ? ''
    : freedoms === 0
      ? ', fully held'
      : `, ${freedoms} ${freedoms === 1 ? 'freedom' : 'freedoms'} left`

const NOT_REACHED: Diagnosis = {
  code: 'not-reached',
  message:
    'Not reached from here: no way was found from the drawing as it stands to all its dimensions, though nothing shows that they conflict. It stays as it was; drag it nearer to what it is to be, or change the dimensions in smaller steps.',
  places: [],
  fixes: [],
}

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
