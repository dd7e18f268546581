import { z } from 'zod'
import { bad, type Diagnosis, good } from '../math'
import { drawingSchema, emptyDrawing, profileHealth, shapeOf } from '../profile'
import { defineOp } from './spec'

const inputs = z.object({ plane: z.string().min(1), drawing: drawingSchema })

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
    const shape = shapeOf(drawing, (v) => ctx.read(v, 'length'))
    const health = profileHealth(drawing, shape)
    const warnings = health.map(
      (f): Diagnosis => ({
        code: f.code,
        message: f.message,
        places: [{ at: f.at }],
        fixes: f.fix
          ? [{ label: f.fix.label, op: ctx.op, inputs: { drawing: f.fix.drawing } }]
          : [],
      }),
    )
    const n = shape.drawn.filter((d) => !d.construction).length
    return good({
      profiles: { [ctx.op]: { frame: on.frame, drawing, shape, health } },
      warnings,
      consequence:
        n === 0
          ? 'nothing drawn yet'
          : `${n} ${n === 1 ? 'piece' : 'pieces'}${health.length === 0 ? ', sound' : ''}`,
    })
  },
})
