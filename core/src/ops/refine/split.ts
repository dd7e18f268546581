import { z } from 'zod'
import type { ExactPart } from '../../exact'
import {
  bad,
  cross3,
  dot3,
  type Frame,
  fixed,
  good,
  norm3,
  type Outcome,
  sub3,
  toSpace,
} from '../../math'
import { valueSchema } from '../../profile'
import { sectionBounds, splitAt, type TurnedBody, volumeOf } from '../../turned'
import { exactOf } from '../exact'
import { defineOp } from '../spec'
import type { Body, OpContext, OpMade, OpResult } from '../state'
import { isExact, withShape } from './rounding'

const inputs = z.object({
  body: z.string(),
  /** Absent in files from before there were heights: then at the plane. */
  how: z.enum(['height', 'plane']).default('plane'),
  height: valueSchema.optional(),
  plane: z.string().min(1).optional(),
  keep: z.enum(['both', 'below', 'above']).default('both'),
})

export const splitOp = defineOp<z.infer<typeof inputs>>({
  kind: 'split',
  version: 3,
  label: 'Split',
  help: 'Parts a body at a plane.',
  stage: 'refine',
  inputs,
  fields: [
    { name: 'body', label: 'Body', help: 'The body to part.', type: 'body' },
    {
      name: 'how',
      label: 'Part',
      help: 'At a height typed here, or at a plane that stands in the route.',
      type: 'choice',
      options: [
        { value: 'height', label: 'At a height' },
        { value: 'plane', label: 'At a plane' },
      ],
    },
    {
      name: 'height',
      label: 'Height',
      help: 'Along the axis of a turned body from where its drawing has 0, else up from the level plane.',
      type: 'value',
      dim: 'length',
      ranged: true,
      when: (i) => i.how === 'height',
    },
    {
      name: 'plane',
      label: 'At',
      help: 'Any plane that goes through the body.',
      type: 'plane',
      when: (i) => i.how !== 'height',
    },
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
  start: ({ body, middle }) => ({
    body: body ?? '',
    how: 'height' as const,
    height: middle ?? 10,
    keep: 'both' as const,
  }),
  evaluate({ body: id, how, height, plane: planeId, keep }, ctx) {
    const body = ctx.body(id)
    if (!body) return bad('no-body', 'Choose a body; it must come earlier in the route.')
    if (how === 'height' && height === undefined)
      return bad('no-height', 'Type the height to part it at.')
    const turned = body.shape.kind === 'turned' ? body.shape.turned : null
    const plane =
      how === 'height'
        ? levelPlane(ctx.read(height!, 'length'), turned)
        : ctx.plane(planeId ?? '')?.frame
    if (!plane)
      return bad(
        'no-plane',
        `The plane "${planeId ?? ''}" does not exist at this point of the route.`,
      )
    const at = turned && heightOf(plane, turned)
    if (!turned || at === null) return splitExact(body, plane, keep, ctx)
    const parts = splitAt(turned, at, `${ctx.op}:cut`)
    if (!parts.ok) return parts
    const { below, above } = parts.value
    const cm3 = (x: number) => `${fixed(x / 1000, 1)} cm³`
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
  cap: (input, { body: id, how }, ctx) => {
    const body = ctx.body(id)
    if (input !== 'height' || how !== 'height' || !body) return null
    if (body.shape.kind === 'exact') return Math.max(body.shape.measure.bounds.max[2], 0) || null
    return Math.max(sectionBounds(body.shape.turned).max[1] * 1.05, 0) || null
  },
  slow: ({ body }, ctx) => isExact(ctx, body),
  marks: (_, { body: id }, ctx) => {
    const body = ctx.body(id)
    if (body?.shape.kind !== 'turned') return []
    const { min, max } = sectionBounds(body.shape.turned)
    return [min[1], max[1]]
  },
})

/** Height along a body's axis at which a plane crosses it squarely; null where it does not. */
function heightOf(plane: Frame, b: TurnedBody): number | null {
  if (norm3(cross3(plane.z, b.frame.z)) > 1e-9) return null
  return dot3(sub3(plane.origin, b.frame.origin), b.frame.z)
}

/** The plane across a turned body's axis, or level in space, at a height. */
function levelPlane(height: number, b: TurnedBody | null): Frame {
  const f: Frame = b?.frame ?? { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] }
  return { ...f, origin: toSpace(f, 0, 0, height) }
}

/** By the exact kernel: along any plane. What lies in front of it is the upper part. */
function splitExact(
  body: Body,
  plane: Frame,
  keep: 'both' | 'below' | 'above',
  ctx: OpContext,
): Outcome<OpMade> {
  const part = exactOf(body, ctx)
  if (!part.ok) return part
  const made = ctx.kernel({
    verb: 'part',
    args: { op: ctx.op, planes: [plane] },
    on: [part.value.key],
  })
  if (!made.ok)
    return made.diagnosis.code === 'misses'
      ? bad('misses', `The plane does not go through ${body.name}.`)
      : made
  const front = (p: ExactPart) => dot3(sub3(p.measure.centroid, plane.origin), plane.z) > 0
  const below = made.value.filter((p) => !front(p))
  const above = made.value.filter(front)
  const kept = keep === 'both' ? [...below, ...above] : keep === 'below' ? below : above
  const cm3 = (list: ExactPart[]) =>
    `${fixed(list.reduce((v, p) => v + p.measure.volume, 0) / 1000, 1)} cm³`
  const bodies: OpResult['bodies'] = {}
  for (const [i, p] of kept.entries()) {
    const id = i === 0 ? body.id : i === 1 ? ctx.op : `${ctx.op}-${i}`
    const name =
      i === 0 ? body.name : `${body.name} ${front(p) ? 'upper' : 'lower'}${i > 1 ? ` ${i}` : ''}`
    bodies[id] = { id, name, shape: p }
  }
  return good({
    bodies,
    warnings: [],
    consequence: `${cm3(below)} below, ${cm3(above)} above`,
  })
}
