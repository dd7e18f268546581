import { z } from 'zod'
import { bad, good, mm, toSpace } from '../math'
import { valueSchema } from '../profile'
import { defineOp } from './spec'

const inputs = z.object({ from: z.string().min(1), offset: valueSchema })

export const planeOp = defineOp<z.infer<typeof inputs>>({
  kind: 'plane',
  version: 1,
  label: 'Datum plane',
  help: 'A plane to draw on or split at, at a distance from another.',
  stage: 'draw',
  inputs,
  fields: [
    { name: 'from', label: 'From', help: 'The plane to start from.', type: 'plane' },
    {
      name: 'offset',
      label: 'Distance',
      help: 'Along the plane’s normal; negative to the other side.',
      type: 'value',
      dim: 'length',
    },
  ],
  start: () => ({ from: 'top', offset: 50 }),
  evaluate({ from, offset }, ctx) {
    const base = ctx.plane(from)
    if (!base)
      return bad('no-plane', `The plane "${from}" does not exist at this point of the route.`)
    const d = ctx.read(offset, 'length')
    const frame = { ...base.frame, origin: toSpace(base.frame, 0, 0, d) }
    return good({
      planes: { [ctx.op]: { frame } },
      warnings: [],
      consequence: `${mm(d)} from ${from}`,
    })
  },
})
