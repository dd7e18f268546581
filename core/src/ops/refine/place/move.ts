import { z } from 'zod'
import {
  bad,
  good,
  type Motion,
  mm,
  norm3,
  type Outcome,
  type P3,
  rounded,
  scaleFrom,
  shift,
  stretchFrom,
  turnAbout,
} from '../../../math'
import { valueSchema } from '../../../profile'
import { datumAxis, placeOf, placeSchema } from '../../draw/datum'
import { exactBody, reshaped } from '../../exact'
import { defineOp } from '../../spec'
import type { OpContext } from '../../state'

const inputs = z.object({
  body: z.string(),
  how: z.enum(['by', 'turn', 'scale', 'stretch']).default('by'),
  x: valueSchema.default(0),
  y: valueSchema.default(0),
  z: valueSchema.default(0),
  axis: z.string().optional(),
  turn: valueSchema.default(90),
  factor: valueSchema.default(1),
  sx: valueSchema.default(1),
  sy: valueSchema.default(1),
  sz: valueSchema.default(1),
  from: placeSchema.optional(),
  copy: z.enum(['no', 'yes']).default('no'),
})
type Inputs = z.infer<typeof inputs>

const coordinate = (name: 'x' | 'y' | 'z', label: string) => ({
  name,
  label,
  help: `Along ${name}.`,
  type: 'value' as const,
  dim: 'length' as const,
  when: (i: Readonly<Record<string, unknown>>) => i.how === 'by',
})

const factorOf = (name: 'sx' | 'sy' | 'sz', label: string) => ({
  name,
  label: `${label}, times`,
  help: '1.005 for half a per cent of shrinkage that way.',
  type: 'value' as const,
  dim: 'number' as const,
  when: (i: Readonly<Record<string, unknown>>) => i.how === 'stretch',
})

export const moveOp = defineOp<Inputs>({
  kind: 'move',
  version: 1,
  label: 'Move',
  help: 'A body elsewhere, turned, larger or smaller.',
  stage: 'refine',
  inputs,
  fields: [
    { name: 'body', label: 'Body', help: 'The body that is moved.', type: 'body' },
    {
      name: 'how',
      label: 'How',
      help: 'Along, about an axis, or by a factor.',
      type: 'choice',
      options: [
        { value: 'by', label: 'Along' },
        { value: 'turn', label: 'About an axis' },
        { value: 'scale', label: 'Larger or smaller' },
        { value: 'stretch', label: 'By a factor a direction, as triangles' },
      ],
    },
    coordinate('x', 'To the right'),
    coordinate('y', 'To the back'),
    coordinate('z', 'Up'),
    {
      name: 'axis',
      label: 'About',
      help: 'A datum axis; none for the upright one through the origin.',
      type: 'axis',
      none: 'the upright axis',
      when: (i) => i.how === 'turn',
    },
    {
      name: 'turn',
      label: 'Angle',
      help: 'Counter-clockwise as seen against the axis.',
      type: 'value',
      dim: 'angle',
      when: (i) => i.how === 'turn',
    },
    {
      name: 'factor',
      label: 'Factor',
      help: '1.005 for half a per cent of shrinkage.',
      type: 'value',
      dim: 'number',
      when: (i) => i.how === 'scale',
    },
    factorOf('sx', 'To the right'),
    factorOf('sy', 'To the back'),
    factorOf('sz', 'Up'),
    {
      name: 'from',
      label: 'From',
      help: 'The place that stays where it is.',
      type: 'place',
      when: (i) => i.how === 'scale' || i.how === 'stretch',
    },
    {
      name: 'copy',
      label: 'The body',
      help: 'Whether it stays where it was, too.',
      type: 'choice',
      options: [
        { value: 'no', label: 'goes there' },
        { value: 'yes', label: 'stays, a copy goes there' },
      ],
    },
  ],
  start: ({ body }) => ({
    body: body ?? '',
    how: 'by',
    x: 0,
    y: 0,
    z: 10,
    turn: 90,
    factor: 1,
    sx: 1,
    sy: 1,
    sz: 1,
    copy: 'no',
  }),
  evaluate(input, ctx) {
    const target = exactBody(input.body, ctx)
    if (!target.ok) return target
    const { body, part } = target.value
    const motion = motionOf(input, ctx)
    if (!motion.ok) return motion
    const copy = input.copy === 'yes'
    const made = ctx.kernel({
      verb: 'move',
      args: { motion: motion.value.motion, word: copy ? `${ctx.op}:copy` : null },
      on: [part.key],
      // Surfaces of the exact kernel take one factor only.
      ...(input.how === 'stretch' ? { triangles: true } : {}),
    })
    if (!made.ok) return made
    const now = made.value[0]!
    return good({
      bodies: copy
        ? { [ctx.op]: { id: ctx.op, name: `${body.name} copy`, shape: now } }
        : { [body.id]: reshaped(body, now) },
      warnings: [],
      consequence: motion.value.says,
    })
  },
})

const inReach = (factor: number): boolean => factor > 1e-3 && factor < 1e3
const FACTOR = bad('factor', 'The factor must lie between 0.001 and 1000.')

function motionOf(i: Inputs, ctx: OpContext): Outcome<{ motion: Motion; says: string }> {
  if (i.how === 'by') {
    const t: P3 = [ctx.read(i.x, 'length'), ctx.read(i.y, 'length'), ctx.read(i.z, 'length')]
    return good({ motion: shift(t), says: `by ${mm(norm3(t), 2)}` })
  }
  if (i.how === 'turn') {
    const axis = i.axis
      ? datumAxis(i.axis, ctx)
      : good({ origin: [0, 0, 0] as P3, dir: [0, 0, 1] as P3 })
    if (!axis.ok) return axis
    const angle = ctx.read(i.turn, 'angle')
    const says = `by ${rounded((angle * 180) / Math.PI, 2)} deg`
    return good({ motion: turnAbout(axis.value.origin, axis.value.dir, angle), says })
  }
  if (i.how === 'stretch') {
    const factors = [i.sx, i.sy, i.sz].map((v) => ctx.read(v, 'number')) as unknown as P3
    if (!factors.every(inReach)) return FACTOR
    const from = i.from ? placeOf(i.from, ctx) : good([0, 0, 0] as P3)
    if (!from.ok) return from
    const says = factors.map((f) => `${rounded(100 * f, 3)}`).join(' × ')
    return good({ motion: stretchFrom(from.value, factors), says: `${says} %` })
  }
  const factor = ctx.read(i.factor, 'number')
  if (!inReach(factor)) return FACTOR
  const from = i.from ? placeOf(i.from, ctx) : good([0, 0, 0] as P3)
  if (!from.ok) return from
  return good({ motion: scaleFrom(from.value, factor), says: `${rounded(100 * factor, 3)} %` })
}
