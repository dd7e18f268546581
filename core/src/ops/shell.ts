import { z } from 'zod'
import { reverse } from '../curve'
import { bad, type Diagnosis, good, mm } from '../math'
import { valueSchema } from '../profile'
import { faceRefSchema, faceSegs, shell, volumeOf, wallOver } from '../turned'
import { pickFaces } from './pick'
import { sectionSize, withShape } from './rounding'
import { defineOp } from './spec'
import { sectionOf } from './state'

const inputs = z.object({
  body: z.string(),
  wall: valueSchema,
  open: z.array(faceRefSchema).max(100),
  side: z.enum(['in', 'out']).default('in'),
})

export const shellOp = defineOp<z.infer<typeof inputs>>({
  kind: 'shell',
  version: 1,
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
      name: 'side',
      label: 'Wall grows',
      help: 'Inward keeps the outside, outward keeps the inside.',
      type: 'choice',
      options: [
        { value: 'in', label: 'Inward' },
        { value: 'out', label: 'Outward' },
      ],
    },
  ],
  start: ({ body }) => ({ body: body ?? '', wall: 3, open: [], side: 'in' as const }),
  evaluate({ body: id, wall, open, side }, ctx) {
    const body = ctx.body(id)
    if (!body) return bad('no-body', 'Choose a body; it must come earlier in the route.')
    const t = ctx.read(wall, 'length')
    if (!(t > 0)) return bad('not-positive', 'The wall must be more than 0.')
    const section = sectionOf(body)
    if (!section.ok) return section
    const before = section.value
    const picked = pickFaces(before, open, ctx.op, 'open')
    if (!picked.ok) return picked
    const faces = new Set(picked.value.items.map((f) => f.seg))
    const made = shell(before, t, faces, side, ctx.op)
    if (!made.ok) return made
    const { body: turned, lost } = made.value
    // Believed only once measured: hollowed at all, and no wall thinner than asked.
    const [was, is] = [volumeOf(before), volumeOf(turned)]
    if (side === 'in' && !(is < was * (1 - 1e-9))) {
      return bad('not-hollow', 'The result has not become hollow.')
    }
    const warnings: Diagnosis[] = [...picked.value.warnings]
    // Read from the faces the shell made, which run with the material on their left.
    const fresh = faceSegs(turned)
      .filter((f) => f.name.startsWith(`${ctx.op}:wall(`))
      .map((f) => ({ ...f, curve: reverse(f.curve) }))
    const reading = wallOver(turned, fresh, 48, new Set([...faces].map((f) => f.name)))
    if (reading && reading.min.wall < t - 5e-4) {
      warnings.push({
        code: 'thin-wall',
        message: `The wall measures ${mm(reading.min.wall)} here, less than the ${mm(t)} asked.`,
        places: [{ at: reading.min.at }],
        fixes: [],
      })
    }
    if (lost.length > 0) {
      warnings.push({
        code: 'detail-lost',
        message: `${lost.length === 1 ? 'One detail is' : `${lost.length} details are`} finer than the wall and ${lost.length === 1 ? 'does' : 'do'} not show on the other side.`,
        places: lost.map((l) => ({ at: l.at, label: l.name })),
        fixes: [],
      })
    }
    const span = reading
      ? Math.abs(reading.max.wall - reading.min.wall) < 0.005
        ? `wall ${reading.min.wall.toFixed(2)} mm`
        : `wall ${reading.min.wall.toFixed(2)}–${reading.max.wall.toFixed(2)} mm`
      : `wall ${mm(t)}`
    return good({ bodies: { [body.id]: withShape(body, turned) }, warnings, consequence: span })
  },
  cap: (input, { body }, ctx) => (input === 'wall' ? sectionSize(ctx, body) : null),
})
