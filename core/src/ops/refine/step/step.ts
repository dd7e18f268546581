import { z } from 'zod'
import type { ExactPart } from '../../../exact'
import { bad, type Diagnosis, good, mm, type Outcome } from '../../../math'
import { valueSchema } from '../../../profile'
import { faceRefSchema } from '../../../refs'
import { inFrameOf, sameTurn, type TurnedBody } from '../../../turned'
import {
  exactOf,
  isExact,
  isHeld,
  ofTriangles,
  reshaped,
  sectionSize,
  withShape,
} from '../../exact'
import { defineOp } from '../../spec'
import { type Body, type OpContext, type OpResult, volumeWords } from '../../state'
import type { Asked, Shop } from './asked'
import { exactShop } from './exact'
import { stepped } from './stepped'
import { turnedShop } from './turned'

const inputs = z.object({
  body: z.string(),
  into: z.string(),
  face: z.array(faceRefSchema).max(1).default([]),
  stand: z.enum(['opening', 'inner', 'outer']),
  height: valueSchema,
  wall: valueSchema,
  clearance: valueSchema,
})
type Inputs = z.infer<typeof inputs>

export const stepOp = defineOp<Inputs>({
  kind: 'step',
  version: 1,
  label: 'Centring step',
  help: 'A step on one body that centres it in another on which it lies, with a gap all round.',
  stage: 'refine',
  inputs,
  fields: [
    { name: 'body', label: 'Step on', help: 'The body that carries it: a lid, say.', type: 'body' },
    { name: 'into', label: 'Centred in', help: 'The body it lies on.', type: 'body' },
    {
      name: 'stand',
      label: 'It stands',
      help: 'In the opening it takes nothing from the other body; in its wall it takes the place of what is cut there.',
      type: 'choice',
      options: [
        { value: 'opening', label: 'In the opening' },
        { value: 'inner', label: 'In the wall, along the opening' },
        { value: 'outer', label: 'In the wall, along the outside' },
      ],
    },
    {
      name: 'height',
      label: 'Height',
      help: 'How far it goes into the other body.',
      type: 'value',
      dim: 'length',
      ranged: true,
    },
    {
      name: 'wall',
      label: 'Wall',
      help: 'Its own thickness.',
      type: 'value',
      dim: 'length',
      ranged: true,
    },
    {
      name: 'clearance',
      label: 'Clearance',
      help: 'The gap beside it, and under it where it stands in a wall.',
      type: 'value',
      dim: 'length',
      ranged: true,
    },
    {
      name: 'face',
      label: 'On',
      help: 'The flat face of the other body they touch in; it need not be picked where there is one only.',
      type: 'faces',
      of: 'into',
      most: 1,
    },
  ],
  start: ({ body }) => ({
    body: body ?? '',
    into: '',
    face: [],
    stand: 'opening',
    height: 3,
    wall: 1.2,
    clearance: 0.3,
  }),
  evaluate(input, ctx): Outcome<OpResult> {
    const [own, other] = [ctx.body(input.body), ctx.body(input.into)]
    if (!own || !other || own.id === other.id)
      return bad(
        'no-body',
        'Choose two bodies: the one with the step, and the one it is centred in.',
      )
    for (const b of [own, other]) {
      const not = isHeld(b, ctx) ?? ofTriangles(b, 'a centring step')
      if (not) return not
    }
    const asked: Asked = {
      stand: input.stand,
      height: ctx.read(input.height, 'length'),
      wall: ctx.read(input.wall, 'length'),
      clearance: ctx.read(input.clearance, 'length'),
    }
    if (!(asked.height > 0)) return bad('not-positive', 'The height must be more than 0.')
    if (!(asked.wall > 0)) return bad('not-positive', 'The wall must be more than 0.')
    if (!(asked.clearance >= 0)) return bad('not-positive', 'The clearance is 0 or more.')
    const pair = turnedPair(own, other)
    if (pair) {
      const shop = turnedShop(...pair, input.face, ctx)
      // Each goes on in the frame it had.
      const back = (b: Body, t: TurnedBody) =>
        withShape(b, b.shape.kind === 'turned' ? (inFrameOf(b.shape.turned.frame, t) ?? t) : t)
      return made(shop, asked, [own, other], back, ctx)
    }
    const parts = [exactOf(own, ctx), exactOf(other, ctx)] as const
    for (const p of parts) if (!p.ok) return p
    const [a, b] = parts.map((p) => (p.ok ? p.value : null)) as [ExactPart, ExactPart]
    return made(exactShop(a, b, input.face, ctx), asked, [own, other], reshaped, ctx)
  },
  cap: (_, { into }, ctx) => sectionSize(ctx, into),
  slow: ({ body, into }, ctx) => isExact(ctx, body) || isExact(ctx, into),
})

/** Turned bodies about one axis and of one turn, in one frame: a step on them is worked out in the half-section. */
function turnedPair(own: Body, other: Body): [TurnedBody, TurnedBody] | null {
  if (own.shape.kind !== 'turned' || other.shape.kind !== 'turned') return null
  const body = own.shape.turned
  const moved = inFrameOf(body.frame, other.shape.turned)
  return moved && sameTurn(body, moved) ? [body, moved] : null
}

function made<S>(
  shop: Outcome<{ shop: Shop<S>; warnings: Diagnosis[] }>,
  asked: Asked,
  [own, other]: [Body, Body],
  back: (b: Body, s: S) => Omit<Body, 'key'>,
  ctx: OpContext,
): Outcome<OpResult> {
  if (!shop.ok) return shop
  const { shop: work, warnings } = shop.value
  const done = stepped(work, asked, {
    op: ctx.op,
    own: own.name || own.id,
    other: other.name || other.id,
  })
  if (!done.ok) return done
  const { own: a, other: b, gap, left } = done.value
  const beside = left === null ? '' : `, ${mm(left)} of the wall beside it`
  return good({
    bodies: { [own.id]: back(own, a), ...(b === work.other ? {} : { [other.id]: back(other, b) }) },
    warnings,
    consequence: `gap ${mm(gap)} at least${beside}; ${volumeWords(work.volume(work.own), work.volume(a))}`,
  })
}
