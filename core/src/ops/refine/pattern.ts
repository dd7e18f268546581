import { z } from 'zod'
import type { Motion } from '../../kernel'
import { bad, good, type Outcome, type P3, scale3 } from '../../math'
import { valueSchema } from '../../profile'
import { datumAxis } from '../draw/datum'
import { exactBody, reshaped } from '../exact'
import { shift, turnAbout } from '../motions'
import { defineOp } from '../spec'
import type { OpContext, OpResult } from '../state'

const direction = z.enum(['x', 'y', 'z', 'axis'])
const inputs = z.object({
  body: z.string(),
  how: z.enum(['row', 'grid', 'round']).default('row'),
  along: direction.default('x'),
  axis: z.string().optional(),
  count: valueSchema.default(3),
  pitch: valueSchema.default(20),
  across: z.enum(['x', 'y', 'z']).default('y'),
  count2: valueSchema.default(2),
  pitch2: valueSchema.default(20),
  turn: valueSchema.default(360),
  skip: z.string().max(400).default(''),
  result: z.enum(['one', 'bodies', 'triangles']).default('one'),
})
type Inputs = z.infer<typeof inputs>

/** Copies at most. */
const MOST = 400

const at =
  (...hows: Inputs['how'][]) =>
  (i: Readonly<Record<string, unknown>>) =>
    hows.includes(i.how as Inputs['how'])
const WAYS = [
  { value: 'x', label: 'To the right' },
  { value: 'y', label: 'To the back' },
  { value: 'z', label: 'Up' },
]

export const patternOp = defineOp<Inputs>({
  kind: 'pattern',
  version: 1,
  label: 'Pattern',
  help: 'Copies of a body in a row, in rows, or round an axis.',
  stage: 'refine',
  inputs,
  fields: [
    { name: 'body', label: 'Body', help: 'The body that is repeated.', type: 'body' },
    {
      name: 'how',
      label: 'Laid out',
      help: 'How the copies stand.',
      type: 'choice',
      options: [
        { value: 'row', label: 'In a row' },
        { value: 'grid', label: 'In rows' },
        { value: 'round', label: 'Round an axis' },
      ],
    },
    {
      name: 'along',
      label: 'Along',
      help: 'The direction of a row.',
      type: 'choice',
      options: [...WAYS, { value: 'axis', label: 'A datum axis' }],
      when: at('row', 'grid'),
    },
    {
      name: 'axis',
      label: 'Axis',
      help: 'The datum axis it runs along or round; none for the upright one through the origin.',
      type: 'axis',
      none: 'the upright axis',
      when: (i) => i.how === 'round' || i.along === 'axis',
    },
    { name: 'count', label: 'How many', help: 'With the first.', type: 'value', dim: 'number' },
    {
      name: 'pitch',
      label: 'Pitch',
      help: 'From each to the next; negative the other way.',
      type: 'value',
      dim: 'length',
      when: at('row', 'grid'),
    },
    {
      name: 'across',
      label: 'Rows go',
      help: 'The direction from row to row.',
      type: 'choice',
      options: WAYS,
      when: at('grid'),
    },
    {
      name: 'count2',
      label: 'Rows',
      help: 'How many, with the first.',
      type: 'value',
      dim: 'number',
      when: at('grid'),
    },
    {
      name: 'pitch2',
      label: 'Row pitch',
      help: 'From each row to the next.',
      type: 'value',
      dim: 'length',
      when: at('grid'),
    },
    {
      name: 'turn',
      label: 'Over',
      help: '360 deg spreads them evenly all round; less has one at each end.',
      type: 'value',
      dim: 'angle',
      when: at('round'),
    },
    {
      name: 'skip',
      label: 'Left out',
      help: 'Numbers of single places, counted from 1 at the first: 3, 5-7.',
      type: 'text',
    },
    {
      name: 'result',
      label: 'Result',
      help: 'Copies that touch become one; or each a body of its own. Many that cross each other are joined as triangles, which the exact kernel cannot do.',
      type: 'choice',
      options: [
        { value: 'one', label: 'One body' },
        { value: 'bodies', label: 'A body each' },
        { value: 'triangles', label: 'One body of triangles' },
      ],
    },
  ],
  start: ({ body }) => ({
    body: body ?? '',
    how: 'row',
    along: 'x',
    count: 3,
    pitch: 20,
    across: 'y',
    count2: 2,
    pitch2: 20,
    turn: 360,
    skip: '',
    result: 'one',
  }),
  evaluate(input, ctx): Outcome<OpResult> {
    const target = exactBody(input.body, ctx)
    if (!target.ok) return target
    const { body, part } = target.value
    const places = placesOf(input, ctx)
    if (!places.ok) return places
    const { motions, numbers } = places.value
    if (motions.length === 0) return bad('no-copies', 'All places but the first are left out.')
    const all = motions.length + 1
    if (input.result === 'bodies') {
      const bodies: OpResult['bodies'] = {}
      for (const [i, motion] of motions.entries()) {
        const made = ctx.kernel({
          verb: 'move',
          args: { motion, word: `${ctx.op}:copy${numbers[i]}` },
          on: [part.key],
        })
        if (!made.ok) return made
        const id = `${ctx.op}-${numbers[i]}`
        bodies[id] = { id, name: `${body.name} ${numbers[i]}`, shape: made.value[0]! }
      }
      return good({ bodies, warnings: [], consequence: `${all} bodies` })
    }
    const made = ctx.kernel({
      verb: 'pattern',
      args: { op: ctx.op, motions, numbers },
      on: [part.key],
      ...(input.result === 'triangles' ? { triangles: true } : {}),
    })
    if (!made.ok) return made
    const now = made.value[0]!
    const { solids } = now.measure
    const apart = part.measure.solids * all
    return good({
      bodies: { [body.id]: reshaped(body, now) },
      warnings: [],
      consequence:
        solids === 1
          ? `${all} as one`
          : solids === apart
            ? `${all}, apart from each other`
            : `${all} in ${solids} parts`,
    })
  },
})

/** Where the copies go, and their numbers counted from 1 at the first place. */
function placesOf(i: Inputs, ctx: OpContext): Outcome<{ motions: Motion[]; numbers: number[] }> {
  const skip = numbersIn(i.skip)
  if (!skip) return bad('skip', `"${i.skip}" is no list of numbers such as 3, 5-7.`)
  const axis =
    i.how !== 'round' && i.along !== 'axis'
      ? null
      : i.axis
        ? datumAxis(i.axis, ctx)
        : good({ origin: [0, 0, 0] as P3, dir: [0, 0, 1] as P3 })
  if (axis && !axis.ok) return axis
  const count = whole(ctx.read(i.count, 'number'), 'How many')
  if (!count.ok) return count
  const rows = i.how === 'grid' ? whole(ctx.read(i.count2, 'number'), 'Rows') : good(1)
  if (!rows.ok) return rows
  const total = count.value * rows.value
  if (total > MOST)
    return bad('too-many', `${total} copies are more than the ${MOST} that a pattern takes.`)
  const place = (k: number, row: number): Motion => {
    if (i.how === 'round') {
      const { origin, dir } = axis!.value
      const sweep = ctx.read(i.turn, 'angle')
      const round = Math.abs(Math.abs(sweep) - 2 * Math.PI) < 1e-9
      return turnAbout(origin, dir, (sweep * k) / (round ? count.value : count.value - 1))
    }
    const u = scale3(axis ? axis.value.dir : WAY[i.along as 'x'], k * ctx.read(i.pitch, 'length'))
    const v = scale3(WAY[i.across], row === 0 ? 0 : row * ctx.read(i.pitch2, 'length'))
    return shift([u[0] + v[0], u[1] + v[1], u[2] + v[2]])
  }
  const motions: Motion[] = []
  const numbers: number[] = []
  for (let row = 0; row < rows.value; row++) {
    for (let k = 0; k < count.value; k++) {
      const number = row * count.value + k + 1
      if (number === 1 || skip.has(number)) continue
      motions.push(place(k, row))
      numbers.push(number)
    }
  }
  const still = motions.find((m) => isStill(m))
  if (still) return bad('in-place', 'Copies would lie in one another: the pitch is 0.')
  return good({ motions, numbers })
}

const WAY: Record<'x' | 'y' | 'z', P3> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] }

const isStill = ({ m, t }: Motion): boolean =>
  Math.hypot(...t) < 1e-9 && m.every((row, i) => Math.abs(row[i]! - 1) < 1e-12)

function whole(x: number, what: string): Outcome<number> {
  const n = Math.round(x)
  return Math.abs(x - n) < 1e-9 && n >= 1
    ? good(n)
    : bad('count', `${what} must be a whole number of 1 or more.`)
}

/** The numbers of a list such as "3, 5-7"; null where it is none. */
function numbersIn(text: string): Set<number> | null {
  const out = new Set<number>()
  for (const item of text.split(/[\s,;]+/).filter(Boolean)) {
    const m = /^(\d{1,4})(?:-(\d{1,4}))?$/.exec(item)
    if (!m) return null
    const [from, to] = [Number(m[1]), Number(m[2] ?? m[1])]
    for (let n = from; n <= to; n++) out.add(n)
  }
  return out
}
