import { z } from 'zod'
import { bad, good, type Outcome } from '../../../math'
import { valueSchema } from '../../../profile'
import { chamferCorner, chamferFront } from '../../../turned'
import { isExact, sectionSize } from '../../exact'
import { defineOp } from '../../spec'
import type { OpContext } from '../../state'
import { marksOf, treatEdges } from './treat'
import { edgesFields, edgesInputs } from './which'

const inputs = z.object({
  ...edgesInputs,
  distance: valueSchema,
  second: valueSchema.optional(),
  angle: valueSchema.optional(),
})
type Inputs = z.infer<typeof inputs>

export const chamferOp = defineOp<Inputs>({
  kind: 'chamfer',
  version: 3,
  label: 'Chamfer',
  help: 'Bevels edges by a straight face.',
  stage: 'refine',
  inputs,
  fields: [
    ...edgesFields([
      { name: 'size', label: 'setback' },
      { name: 'until', label: 'second' },
    ]),
    {
      name: 'distance',
      label: 'Setback',
      help: 'From the edge along the first face.',
      type: 'value',
      dim: 'length',
      ranged: true,
    },
    {
      name: 'second',
      label: 'Second setback',
      help: 'Along the other face; the same when empty.',
      type: 'value',
      dim: 'length',
      optional: 'the same',
      when: (i) => i.angle === undefined,
    },
    {
      name: 'angle',
      label: 'Or an angle',
      help: 'Of the bevel to the first face, where the two stand square to each other.',
      type: 'value',
      dim: 'angle',
      optional: 'none',
      when: (i) => i.second === undefined,
    },
  ],
  start: ({ body }) => ({ body: body ?? '', edges: [], round: [], alike: 'no', distance: 1 }),
  evaluate({ distance, second, angle, ...which }, ctx) {
    const both = setbacks({ distance, second, angle }, ctx)
    if (!both.ok) return both
    const [d1, d2] = both.value
    return treatEdges(ctx, which, {
      word: 'bevel',
      corner: (b, c, name, { size, end }) => chamferCorner(b, c, size, end ?? size, name),
      amount: d1 === d2 ? { size: d1 } : { size: d1, end: d2 },
      own: (size, until) => {
        const end = until ?? (d2 / d1) * size
        return end === size ? { size } : { size, end }
      },
    })
  },
  cap: (input, { body, edges, round }, ctx) =>
    input === 'distance' && edges.length + round.length > 0 ? sectionSize(ctx, body) : null,
  marks: (_, { second, angle, ...which }, ctx) => {
    const end = (v: number) => {
      const both = setbacks({ distance: v, second, angle }, ctx)
      return both.ok ? both.value[1] : v
    }
    return marksOf(ctx, which, (c, v) => chamferFront(c, v, end(v)))
  },
  slow: ({ body }, ctx) => isExact(ctx, body),
})

/** Along the first face and along the second, mm. */
function setbacks(
  { distance, second, angle }: Pick<Inputs, 'distance' | 'second' | 'angle'>,
  ctx: OpContext,
): Outcome<[number, number]> {
  const d1 = ctx.read(distance, 'length')
  const lean = angle === undefined ? null : ctx.read(angle, 'angle')
  if (lean !== null && !(lean > 1e-3 && lean < Math.PI / 2 - 1e-3))
    return bad('angle', 'The angle of a bevel must lie between 0 and 90 deg.')
  const d2 =
    lean !== null ? d1 * Math.tan(lean) : second === undefined ? d1 : ctx.read(second, 'length')
  if (!(d1 > 0) || !(d2 > 0)) return bad('not-positive', 'The setback must be more than 0.')
  return good([d1, d2])
}
