import { z } from 'zod'
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
} from '../../../math'
import { valueSchema } from '../../../profile'
import { faceRefSchema } from '../../../refs'
import { sectionBounds, splitAt, type TurnedBody, volumeOf } from '../../../turned'
import { exactOf, isExact, isHeld, withShape } from '../../exact'
import { cellRefSchema } from '../../form/chosen'
import { defineOp } from '../../spec'
import type { Body, OpContext, OpMade } from '../../state'
import { alongFaces } from './byfaces'
import { partedBy } from './parting'
import { atPlanes, intoPieces, splitExact } from './parts'

const inputs = z.object({
  body: z.string(),
  /** Absent in files from before there were heights: then at the plane. */
  how: z.enum(['height', 'plane', 'tools', 'faces', 'loose']).default('plane'),
  height: valueSchema.optional(),
  plane: z.string().min(1).optional(),
  also: z.array(z.string().min(1)).max(100).default([]),
  profiles: z.array(z.string().min(1)).max(100).default([]),
  tools: z.array(z.string().min(1)).max(200).default([]),
  areas: z.array(cellRefSchema).max(200).default([]),
  holder: z.string().optional(),
  faces: z.array(faceRefSchema).max(50).default([]),
  reach: z.enum(['through', 'deep']).default('through'),
  deep: valueSchema.default(1),
  parts: z.enum(['tool', 'each']).default('tool'),
  stay: z.enum(['no', 'yes']).default('no'),
  keep: z.enum(['both', 'below', 'above']).default('both'),
})

type Inputs = z.infer<typeof inputs>

export const splitOp = defineOp<Inputs>({
  kind: 'split',
  version: 5,
  label: 'Split',
  help: 'Parts a body at planes, along what is drawn, or by other bodies.',
  stage: 'refine',
  inputs,
  fields: [
    { name: 'body', label: 'Body', help: 'The body to part.', type: 'body' },
    {
      name: 'how',
      label: 'Part',
      help: 'At a height typed here, at planes of the route, along profiles and text, by bodies, along faces, or where it is loose.',
      type: 'choice',
      options: [
        { value: 'height', label: 'At a height' },
        { value: 'plane', label: 'At planes' },
        { value: 'tools', label: 'Along outlines, by bodies' },
        { value: 'faces', label: 'Along faces' },
        { value: 'loose', label: 'Into its loose pieces' },
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
      when: (i) => i.how === 'plane',
    },
    {
      name: 'also',
      label: 'And at',
      help: 'More planes that part it in one go.',
      type: 'planes',
      when: (i) => i.how === 'plane',
    },
    {
      name: 'profiles',
      label: 'Along',
      help: 'Closed outlines and text part what lies in them; open curves part the body right through.',
      type: 'profiles',
      when: byTools,
    },
    {
      name: 'areas',
      label: 'Areas',
      help: 'Clicked on the Table, each a part of its own; where none is chosen, all that outlines enclose.',
      type: 'areas',
      when: (i) => byTools(i) && Array.isArray(i.profiles) && i.profiles.length === 1,
    },
    {
      name: 'holder',
      label: 'Of',
      help: 'The body whose faces it is parted along; itself, where flat faces run on through it.',
      type: 'body',
      when: (i) => i.how === 'faces',
    },
    {
      name: 'faces',
      label: 'Faces',
      help: 'Flat ones part on all of their plane, others as far as they go.',
      type: 'faces',
      of: 'holder',
      when: (i) => i.how === 'faces',
    },
    {
      name: 'tools',
      label: 'By',
      help: 'Bodies whose walls part it: what lies in each is a part.',
      type: 'bodies',
      when: byTools,
    },
    {
      name: 'reach',
      label: 'How deep',
      help: 'How far outlines go into the body from their plane.',
      type: 'choice',
      options: [
        { value: 'through', label: 'Right through' },
        { value: 'deep', label: 'A depth behind the plane' },
      ],
      when: byTools,
    },
    {
      name: 'deep',
      label: 'Depth',
      help: 'Behind the plane of the outlines.',
      type: 'value',
      dim: 'length',
      when: (i) => byTools(i) && i.reach === 'deep',
    },
    {
      name: 'parts',
      label: 'Makes',
      help: 'Whether what lies in one tool is one body, letters of a text together, say.',
      type: 'choice',
      options: [
        { value: 'tool', label: 'A part for each tool' },
        { value: 'each', label: 'A part for each loose piece' },
      ],
      when: byTools,
    },
    {
      name: 'stay',
      label: 'The bodies',
      help: 'Whether the bodies that part it stay.',
      type: 'choice',
      options: [
        { value: 'no', label: 'are used up' },
        { value: 'yes', label: 'stay' },
      ],
      when: byTools,
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
      when: (i) => i.how === 'height' || (i.how === 'plane' && !hasMore(i)),
    },
  ],
  start: ({ body, middle }) => ({
    body: body ?? '',
    how: 'height' as const,
    height: middle ?? 10,
    keep: 'both' as const,
    also: [],
    profiles: [],
    areas: [],
    ...(body ? { holder: body } : {}),
    faces: [],
    tools: [],
    reach: 'through' as const,
    deep: 1,
    parts: 'tool' as const,
    stay: 'no' as const,
  }),
  evaluate(input, ctx) {
    const { body: id, how, height, plane: planeId, keep } = input
    const body = ctx.body(id)
    if (!body) return bad('no-body', 'Choose a body; it must come earlier in the route.')
    const held = isHeld(body, ctx)
    if (held) return held
    if (how === 'tools') return byOutlines(input, body, ctx)
    if (how === 'faces') return alongFaces(body, input.holder ?? body.id, input.faces, ctx)
    if (how === 'loose') return intoPieces(body, ctx)
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
    if (how === 'plane' && input.also.length > 0) return atPlanes(body, plane, input.also, ctx)
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
    if (body.shape.kind !== 'turned') return Math.max(body.shape.measure.bounds.max[2], 0) || null
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

function byTools(i: Readonly<Record<string, unknown>>): boolean {
  return i.how === 'tools'
}
function hasMore(i: Readonly<Record<string, unknown>>): boolean {
  return Array.isArray(i.also) && i.also.length > 0
}

/** Along what is drawn and by other bodies. */
function byOutlines(i: Inputs, body: Body, ctx: OpContext): Outcome<OpMade> {
  const part = exactOf(body, ctx)
  if (!part.ok) return part
  const deep = i.reach === 'deep' ? ctx.read(i.deep, 'length') : null
  const bodies = [...new Set(i.tools)].filter((t) => t !== body.id)
  const tools = {
    profiles: [...new Set(i.profiles)],
    areas: i.areas,
    bodies,
    deep,
    each: i.parts === 'each',
    stay: i.stay === 'yes',
  }
  return partedBy(body, part.value, tools, ctx)
}

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
