import { z } from 'zod'
import type { ExactPart } from '../../exact'
import { bad, type Diagnosis, good } from '../../math'
import { exactBody, isHeld, loose, unchanged, unsound, usedUp } from '../exact'
import { defineOp } from '../spec'
import { volumeWords } from '../state'
import { numbered } from './split/parts'

const inputs = z.object({
  how: z.enum(['join', 'cut', 'meet']),
  body: z.string(),
  tools: z.array(z.string().min(1)).max(200),
  keep: z.enum(['no', 'yes']).default('no'),
  by: z.enum(['surfaces', 'triangles']).default('surfaces'),
  pieces: z.enum(['told', 'one', 'several']).default('told'),
})

export const combineOp = defineOp<z.infer<typeof inputs>>({
  kind: 'combine',
  version: 1,
  label: 'Combine',
  help: 'Joins bodies, cuts one by others, or keeps what they share.',
  stage: 'refine',
  inputs,
  fields: [
    {
      name: 'how',
      label: 'How',
      help: 'What becomes of the body.',
      type: 'choice',
      options: [
        { value: 'join', label: 'Add the others to it' },
        { value: 'cut', label: 'Take the others from it' },
        { value: 'meet', label: 'Keep what it shares with them' },
      ],
    },
    { name: 'body', label: 'Body', help: 'The body that is changed.', type: 'body' },
    { name: 'tools', label: 'Others', help: 'The bodies that act on it.', type: 'bodies' },
    {
      name: 'keep',
      label: 'The others',
      help: 'Whether they stay as bodies.',
      type: 'choice',
      options: [
        { value: 'no', label: 'are used up' },
        { value: 'yes', label: 'stay' },
      ],
    },
    {
      name: 'pieces',
      label: 'Loose pieces',
      help: 'What becomes of pieces that do not hang together.',
      type: 'choice',
      options: [
        { value: 'told', label: 'are told' },
        { value: 'one', label: 'are meant, as one body' },
        { value: 'several', label: 'become bodies' },
      ],
    },
    {
      name: 'by',
      label: 'Worked by',
      help: 'Surfaces stay exact; triangles close where surfaces fail or cross too often, and leave as STL, 3MF or OBJ only.',
      type: 'choice',
      options: [
        { value: 'surfaces', label: 'Surfaces' },
        { value: 'triangles', label: 'Triangles' },
      ],
    },
  ],
  start: ({ body }) => ({
    how: 'join',
    body: body ?? '',
    tools: [],
    keep: 'no',
    by: 'surfaces',
    pieces: 'told',
  }),
  evaluate({ how, body: id, tools, keep, by, pieces }, ctx) {
    const target = exactBody(id, ctx)
    if (!target.ok) return target
    const { body, part } = target.value
    const held = isHeld(body, ctx)
    if (held) return held
    const others = [...new Set(tools)].filter((t) => t !== id)
    if (others.length === 0) return bad('no-tools', 'Choose the bodies that act on it.')
    const parts: ExactPart[] = []
    for (const t of others) {
      const other = exactBody(t, ctx)
      if (!other.ok) return other
      parts.push(other.value.part)
    }
    const made = ctx.kernel({
      verb: 'combine',
      args: { op: ctx.op, how },
      on: [part.key, ...parts.map((p) => p.key)],
      ...(by === 'triangles' ? { triangles: true } : {}),
    })
    if (!made.ok)
      return made.diagnosis.code === 'nothing-left'
        ? bad('nothing-left', `Nothing is left of ${body.name}.`)
        : made
    const now = made.value[0]!
    const apart = pieces === 'several' && now.measure.solids > 1 ? loose(now, ctx) : good([now])
    if (!apart.ok) return apart
    return good({
      bodies: {
        ...numbered(body, apart.value, ctx.op).bodies,
        ...(keep === 'no' ? usedUp(others, ctx) : {}),
      },
      ...(how === 'meet' ? {} : { tool: { how, body: body.id, shapes: parts, before: part } }),
      warnings: [
        ...unchanged(body.name, how, part, now, parts),
        ...(how === 'cut' ? missing(others, parts, now) : []),
        ...(pieces === 'told' ? unsound(body.name, now, part.measure.solids) : []),
      ],
      consequence: volumeWords(part.measure.volume, now.measure.volume),
    })
  },
})

/** Tools that left no face in what they cut: told by the names of the faces that are there. */
function missing(ids: readonly string[], parts: readonly ExactPart[], now: ExactPart): Diagnosis[] {
  const there = new Set(now.faces.flatMap((f) => f.names))
  const without = parts.flatMap((p, i) =>
    p.faces.some((f) => f.names.some((n) => there.has(n))) ? [] : [i],
  )
  if (without.length === 0) return []
  const one = without.length === 1
  return [
    {
      code: 'left-nothing',
      message: `${without.length} of ${ids.length} ${one ? 'leaves' : 'leave'} nothing in the body: ${one ? 'it does' : 'they do'} not reach it, or the kernel lost ${one ? 'it' : 'them'}.`,
      places: without.map((i) => ({ at: parts[i]!.measure.centroid, label: ids[i]! })),
      fixes: [],
    },
  ]
}
