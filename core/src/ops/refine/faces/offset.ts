import { z } from 'zod'
import type { ExactPart } from '../../../exact'
import { bad, type Diagnosis, good, type Outcome } from '../../../math'
import { valueSchema } from '../../../profile'
import { faceRefSchema } from '../../../refs'
import { exactBody, ofTriangles, reshaped, sectionSize, unsound } from '../../exact'
import { pickExactFaces } from '../../pick'
import { defineOp } from '../../spec'
import { type OpResult, volumeWords } from '../../state'
import { between } from './between'

const inputs = z.object({
  body: z.string(),
  faces: z.array(faceRefSchema).max(50),
  way: z.enum(['out', 'in']).default('out'),
  distance: valueSchema,
})

export const offsetOp = defineOp<z.infer<typeof inputs>>({
  kind: 'offset',
  version: 1,
  label: 'Offset face',
  help: 'Moves faces along their normals; the faces beside them follow.',
  stage: 'refine',
  inputs,
  fields: [
    { name: 'body', label: 'Body', help: 'The body whose faces move.', type: 'body' },
    {
      name: 'faces',
      label: 'Faces',
      help: 'Flat ones, and round ones all round between flat ends.',
      type: 'faces',
    },
    {
      name: 'way',
      label: 'Which way',
      help: 'Out of the material makes more of it: a hole gets narrower.',
      type: 'choice',
      options: [
        { value: 'out', label: 'Out of the material' },
        { value: 'in', label: 'Into the material' },
      ],
    },
    {
      name: 'distance',
      label: 'By',
      help: 'How far they move.',
      type: 'value',
      dim: 'length',
      ranged: true,
    },
  ],
  start: ({ body }) => ({ body: body ?? '', faces: [], way: 'out', distance: 1 }),
  evaluate({ body: id, faces, way, distance }, ctx): Outcome<OpResult> {
    const target = exactBody(id, ctx)
    if (!target.ok) return target
    const { body, part } = target.value
    const faceted = ofTriangles(body, 'moving a face')
    if (faceted) return faceted
    if (faces.length === 0) return bad('no-faces', 'Pick the faces that move.')
    const by = ctx.read(distance, 'length')
    if (!(by > 0)) return bad('not-positive', 'The distance must be more than 0.')
    const how = way === 'out' ? 'join' : 'cut'
    const warnings: Diagnosis[] = []
    const shapes: ExactPart[] = []
    let now = part
    for (const ref of faces) {
      // What has moved stays where it is; the next is looked for on what there is then.
      const picked = pickExactFaces(now, [ref], ctx, 'faces')
      if (!picked.ok) return picked
      warnings.push(...picked.value.warnings)
      const tool = between(now, picked.value.items[0]!, way === 'out' ? by : -by, ctx)
      if (!tool.ok) return tool
      const made = ctx.kernel({
        verb: 'combine',
        args: { op: ctx.op, how },
        on: [now.key, tool.value.key],
      })
      if (!made.ok)
        return made.diagnosis.code === 'nothing-left'
          ? bad('nothing-left', `Nothing is left of ${body.name}.`)
          : made
      warnings.push(...runsInto(now, made.value[0]!, tool.value, way === 'out'))
      now = made.value[0]!
      shapes.push(tool.value)
    }
    return good({
      bodies: { [body.id]: reshaped(body, now) },
      tool: { how, body: body.id, shapes },
      warnings: [...warnings, ...unsound(body.name, now, part.measure.solids)],
      consequence: volumeWords(part.measure.volume, now.measure.volume),
    })
  },
  cap: (input, { body, faces }, ctx) =>
    input === 'distance' && faces.length > 0 ? sectionSize(ctx, body) : null,
  slow: () => true,
})

/** Tells where what is added lies in other material, or what is taken reaches past it. */
function runsInto(before: ExactPart, now: ExactPart, tool: ExactPart, out: boolean): Diagnosis[] {
  const change = Math.abs(now.measure.volume - before.measure.volume)
  if (change > tool.measure.volume * (1 - 1e-6)) return []
  return [
    {
      code: 'runs-into',
      message: out
        ? 'It runs into other parts of the body.'
        : 'It reaches past the material behind it.',
      places: [{ at: tool.measure.centroid }],
      fixes: [],
    },
  ]
}
