import { z } from 'zod'
import { bad, good } from '../../../math'
import { valueSchema } from '../../../profile'
import { faceRefSchema } from '../../../refs'
import { exactBody, ofTriangles, reshaped } from '../../exact'
import { pickExactFaces } from '../../pick'
import { defineOp } from '../../spec'
import { volumeWords } from '../../state'

const inputs = z.object({
  body: z.string(),
  faces: z.array(faceRefSchema).max(200),
  plane: z.string().min(1),
  angle: valueSchema,
})

export const draftOp = defineOp<z.infer<typeof inputs>>({
  kind: 'draft',
  version: 1,
  label: 'Draft',
  help: 'Leans faces so that the piece leaves its mould; they stay as wide where the plane meets them.',
  stage: 'refine',
  inputs,
  fields: [
    { name: 'body', label: 'Body', help: 'The body whose faces lean.', type: 'body' },
    { name: 'faces', label: 'Faces', help: 'The faces that lean.', type: 'faces' },
    {
      name: 'plane',
      label: 'From',
      help: 'Where the faces stay as they are; the piece is drawn out along its normal.',
      type: 'plane',
    },
    {
      name: 'angle',
      label: 'Angle',
      help: 'In, on the side the plane looks to.',
      type: 'value',
      dim: 'angle',
      ranged: true,
    },
  ],
  start: ({ body }) => ({ body: body ?? '', faces: [], plane: 'top', angle: '2 deg' }),
  evaluate({ body: id, faces, plane: planeId, angle }, ctx) {
    const target = exactBody(id, ctx)
    if (!target.ok) return target
    const { body, part } = target.value
    const faceted = ofTriangles(body, 'a draft')
    if (faceted) return faceted
    if (faces.length === 0) return bad('no-faces', 'Choose the faces that lean.')
    const picked = pickExactFaces(part, faces, ctx, 'faces')
    if (!picked.ok) return picked
    const plane = ctx.plane(planeId)
    if (!plane) return bad('no-plane', 'Choose the plane where the faces stay as they are.')
    const tilt = ctx.read(angle, 'angle')
    if (Math.abs(tilt) < 1e-9) return bad('not-positive', 'An angle of 0 leans nothing.')
    const free = picked.value.items.map((i) => part.faces[i]!).find((f) => f.kind === 'free')
    if (free)
      return bad('no-draft', 'A face swept from a free curve takes no draft.', [
        { at: free.middle },
      ])
    const made = ctx.kernel({
      verb: 'draft',
      args: { op: ctx.op, faces: picked.value.items, plane: plane.frame, angle: tilt },
      on: [part.key],
    })
    if (!made.ok)
      return bad(
        'no-draft',
        `The faces cannot lean so far: ${made.diagnosis.message} Lean them before their edges are rounded.`,
        picked.value.items.map((i) => ({ at: part.faces[i]!.middle })),
      )
    const now = made.value[0]!
    return good({
      bodies: { [body.id]: reshaped(body, now) },
      warnings: picked.value.warnings,
      consequence: volumeWords(part.measure.volume, now.measure.volume),
    })
  },
  cap: (input, { faces }) => (input === 'angle' && faces.length > 0 ? Math.PI / 4 : null),
  slow: () => true,
})
