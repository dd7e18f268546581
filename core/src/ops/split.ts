import { z } from 'zod'
import { bad, cross3, dot3, good, norm3, sub3 } from '../math'
import { splitAt, volumeOf } from '../turned'
import { withShape } from './rounding'
import { defineOp } from './spec'
import { sectionOf } from './state'

const inputs = z.object({
  body: z.string(),
  plane: z.string().min(1),
  keep: z.enum(['both', 'below', 'above']).default('both'),
})

export const splitOp = defineOp<z.infer<typeof inputs>>({
  kind: 'split',
  version: 1,
  label: 'Split',
  help: 'Parts a body at a plane across its axis.',
  stage: 'refine',
  inputs,
  fields: [
    { name: 'body', label: 'Body', help: 'The body to part.', type: 'body' },
    { name: 'plane', label: 'At', help: 'A plane square to the body’s axis.', type: 'plane' },
    {
      name: 'keep',
      label: 'Keep',
      help: 'Which parts go on.',
      type: 'choice',
      options: [
        { value: 'both', label: 'Both parts' },
        { value: 'below', label: 'The lower part' },
        { value: 'above', label: 'The upper part' },
      ],
    },
  ],
  start: ({ body }) => ({ body: body ?? '', plane: 'top', keep: 'both' as const }),
  evaluate({ body: id, plane: planeId, keep }, ctx) {
    const body = ctx.body(id)
    if (!body) return bad('no-body', 'Choose a body; it must come earlier in the route.')
    const plane = ctx.plane(planeId)
    if (!plane)
      return bad('no-plane', `The plane "${planeId}" does not exist at this point of the route.`)
    const section = sectionOf(body)
    if (!section.ok) return section
    const turned = section.value
    if (norm3(cross3(plane.frame.z, turned.frame.z)) > 1e-9) {
      return bad(
        'not-across',
        'A turned body is split across its axis; this plane is not square to it.',
      )
    }
    const z = dot3(sub3(plane.frame.origin, turned.frame.origin), turned.frame.z)
    const parts = splitAt(turned, z, `${ctx.op}:cut`)
    if (!parts.ok) return parts
    const { below, above } = parts.value
    const cm3 = (x: number) => `${(x / 1000).toFixed(1)} cm³`
    const bodies = {
      [body.id]: withShape(body, keep === 'above' ? above : below),
      ...(keep === 'both'
        ? {
            [ctx.op]: {
              id: ctx.op,
              name: `${body.name} upper`,
              shape: { kind: 'turned' as const, turned: above },
            },
          }
        : {}),
    }
    return good({
      bodies,
      warnings: [],
      consequence: `${cm3(volumeOf(below))} below, ${cm3(volumeOf(above))} above`,
    })
  },
})
