import { z } from 'zod'
import { type ExactPart, faceRef } from '../../exact'
import { bad, good, mm, type Outcome, type P3 } from '../../math'
import { valueSchema } from '../../profile'
import { type FaceRef, faceRefSchema } from '../../refs'
import { exactBody, ofTriangles, sectionSize, unsound } from '../exact'
import { pickExactFaces } from '../pick'
import { hollowTube } from '../refine/shell/hollow'
import { outwardParted } from '../refine/shell/outward'
import { defineOp } from '../spec'
import { type OpContext, type OpResult, volumeWords } from '../state'
import { only } from './prism'

const inputs = z.object({
  body: z.string(),
  faces: z.array(faceRefSchema).max(100),
  gap: valueSchema.default(0),
  wall: valueSchema.default(1),
  side: z.enum(['out', 'in']).default('out'),
})

export const coverOp = defineOp<z.infer<typeof inputs>>({
  kind: 'cover',
  version: 1,
  label: 'Cover',
  help: 'A body of its own along chosen faces: a wall on them, or at a gap off them.',
  stage: 'form',
  inputs,
  fields: [
    {
      name: 'body',
      label: 'Over',
      help: 'The body it goes over; that stays as it is.',
      type: 'body',
    },
    {
      name: 'faces',
      label: 'Faces',
      help: 'Those it covers; it ends where the faces beside them run on.',
      type: 'faces',
    },
    {
      name: 'gap',
      label: 'Gap',
      help: 'How far it stays off them; 0 touches.',
      type: 'value',
      dim: 'length',
      ranged: true,
    },
    {
      name: 'wall',
      label: 'Wall',
      help: 'Its thickness, square to the faces.',
      type: 'value',
      dim: 'length',
      ranged: true,
    },
    {
      name: 'side',
      label: 'Lies',
      help: 'Outside the material, or in the place of its outermost layer.',
      type: 'choice',
      options: [
        { value: 'out', label: 'over the faces' },
        { value: 'in', label: 'under the faces' },
      ],
    },
  ],
  start: ({ body }) => ({ body: body ?? '', faces: [], gap: 0, wall: 1, side: 'out' }),
  evaluate({ body: id, faces, gap, wall, side }, ctx): Outcome<OpResult> {
    const target = exactBody(id, ctx)
    if (!target.ok) return target
    const { body, part } = target.value
    const faceted = ofTriangles(body, 'a cover')
    if (faceted) return faceted
    if (faces.length === 0) return bad('no-faces', 'Pick the faces it covers.')
    const [g, t] = [ctx.read(gap, 'length'), ctx.read(wall, 'length')]
    if (!(t > 0)) return bad('not-positive', 'The wall must be more than 0.')
    if (!(g >= 0)) return bad('not-positive', 'The gap must not be less than 0.')
    const picked = pickExactFaces(part, faces, ctx, 'faces')
    if (!picked.ok) return picked
    const chosen = new Set(picked.value.items)
    const open = part.faces.flatMap((_, i) => (chosen.has(i) ? [] : [i]))
    const layer = (wall: number, op: string): Outcome<ExactPart> => {
      const own = side === 'in' ? hollowTube(part, new Set(open), wall, ctx) : null
      if (own?.ok) return own
      const made = only(
        ctx.kernel({ verb: 'shell', args: { op, open, wall, side }, on: [part.key] }),
      )
      const parted = made.ok || side === 'in' ? null : outwardParted(part, open, wall, op, ctx)
      return parted ?? made
    }
    const whole = layer(g + t, ctx.op)
    if (!whole.ok) return runsOn(part, chosen, faces, ctx.op) ?? whole
    const made = g > 0 ? lessGap(whole.value, layer(g, `${ctx.op}:gap`), ctx) : whole
    if (!made.ok) return made
    const { volume } = made.value.measure
    return good({
      bodies: { [ctx.op]: { id: ctx.op, name: '', shape: made.value } },
      warnings: [...picked.value.warnings, ...unsound('The cover', made.value)],
      consequence: `wall ${mm(t)}${g > 0 ? ` at ${mm(g)}` : ''}, ${volumeWords(0, volume)}`,
    })
  },
  cap: (input, { body, faces, gap, wall }, ctx) => {
    if (faces.length === 0) return null
    const most = sectionSize(ctx, body)
    const other = ctx.read(input === 'gap' ? wall : gap, 'length')
    return most === null ? null : Math.max(most - other, 0) || null
  },
  slow: () => true,
})

/** Where chosen faces run smoothly on into others, a cover has no edge to end at. */
function runsOn(
  part: ExactPart,
  chosen: ReadonlySet<number>,
  refs: readonly FaceRef[],
  op: string,
): Outcome<never> | null {
  const beyond = new Map<number, P3>()
  for (const e of part.edges) {
    const next = e.faces.find((f) => !chosen.has(f))
    if (e.bend !== 'smooth' || next === undefined || e.faces.every((f) => !chosen.has(f))) continue
    beyond.set(next, e.middle)
  }
  if (beyond.size === 0) return null
  const faces = [...refs, ...[...beyond.keys()].map((f) => faceRef(part, f))]
  return bad(
    'runs-on',
    `The chosen faces run smoothly on into ${beyond.size === 1 ? 'another' : `${beyond.size} others`} here: the cover has no edge to end at.`,
    [...beyond.values()].map((at) => ({ at })),
    [
      {
        label: beyond.size === 1 ? 'Cover that one too' : 'Cover those too',
        op,
        inputs: { faces },
      },
    ],
  )
}

/** What is left of a layer above the gap: it has to measure what both layers differ by. */
function lessGap(whole: ExactPart, gap: Outcome<ExactPart>, ctx: OpContext): Outcome<ExactPart> {
  if (!gap.ok) return gap
  const made = only(
    ctx.kernel({
      verb: 'combine',
      args: { op: ctx.op, how: 'cut' },
      on: [whole.key, gap.value.key],
    }),
  )
  if (!made.ok) return made
  const want = whole.measure.volume - gap.value.measure.volume
  if (Math.abs(made.value.measure.volume - want) > 1e-5 * whole.measure.volume)
    return bad(
      'not-right',
      'The gap does not lie within the cover all over, so the cover is not used. Choose the faces beside it too, or a smaller gap.',
    )
  return made
}
