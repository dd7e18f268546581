import { bad, good, mm, type Outcome, type P3 } from '../../../math'
import { exactBody, reshaped } from '../../exact'
import { defineOp } from '../../spec'
import type { OpContext, OpMade, OpResult } from '../../state'
import { doneAgain, toolsOfOps, whatFields } from '../again'
import { type PatternInputs, patternInputs } from './inputs'
import { placesOf } from './places'
import { gapWords } from './spacing'

type Inputs = PatternInputs

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
  version: 2,
  label: 'Pattern',
  help: 'Copies of a body, or ops done again, in rows, round an axis, along a line or all over an area.',
  stage: 'refine',
  inputs: patternInputs,
  fields: [
    ...whatFields('repeated'),
    {
      name: 'how',
      label: 'Laid out',
      help: 'How the copies stand.',
      type: 'choice',
      options: [
        { value: 'row', label: 'In a row' },
        { value: 'grid', label: 'In rows' },
        { value: 'round', label: 'Round an axis' },
        { value: 'curve', label: 'Along a drawn line' },
        { value: 'way', label: 'Along a path' },
        { value: 'field', label: 'All over an area' },
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
    {
      name: 'path',
      label: 'Line',
      help: 'A profile of one line or outline; the body stands where it starts.',
      type: 'profile',
      when: at('curve'),
    },
    {
      name: 'way',
      label: 'Path',
      help: 'In space; the body stands where it starts.',
      type: 'path',
      when: at('way'),
    },
    {
      name: 'field',
      label: 'Area',
      help: 'A profile whose closed areas are filled; only whole pieces stand in it.',
      type: 'profile',
      when: at('field'),
    },
    {
      name: 'layout',
      label: 'Standing',
      help: 'How the pieces stand to each other.',
      type: 'choice',
      options: [
        { value: 'hex', label: 'each row between the last' },
        { value: 'square', label: 'in rows and columns' },
      ],
      when: at('field'),
    },
    {
      name: 'count',
      label: 'How many',
      help: 'With the first.',
      type: 'value',
      dim: 'number',
      when: at('row', 'grid', 'round', 'curve', 'way'),
    },
    {
      name: 'space',
      label: 'Spaced by',
      help: 'The way from each to the next, what stays free between them, or evenly over the line.',
      type: 'choice',
      options: [
        { value: 'pitch', label: 'Pitch' },
        { value: 'gap', label: 'Gap, measured between them' },
        { value: 'even', label: 'Evenly over all of the line' },
      ],
      when: at('row', 'curve', 'way'),
    },
    {
      name: 'pitch',
      label: 'Pitch',
      help: 'From each to the next; negative the other way.',
      type: 'value',
      dim: 'length',
      when: (i) => at('grid', 'field')(i) || (at('row', 'curve', 'way')(i) && i.space === 'pitch'),
    },
    {
      name: 'gap',
      label: 'Gap',
      help: 'The least distance between neighbours; 0 just touches.',
      type: 'value',
      dim: 'length',
      when: (i) => at('row')(i) && i.space === 'gap',
    },
    {
      name: 'follow',
      label: 'They turn',
      help: 'Whether the copies turn with the line.',
      type: 'choice',
      options: [
        { value: 'yes', label: 'with the line' },
        { value: 'no', label: 'not at all' },
      ],
      when: at('curve'),
    },
    {
      name: 'follow',
      label: 'They turn',
      help: 'Whether the copies turn with the path: as little as can be, keeping upright, or not.',
      type: 'choice',
      options: [
        { value: 'yes', label: 'with the path' },
        { value: 'upright', label: 'with it, but stay upright' },
        { value: 'no', label: 'not at all' },
      ],
      when: at('way'),
    },
    {
      name: 'margin',
      label: 'Clear by',
      help: 'What stays free to the edge of the area.',
      type: 'value',
      dim: 'length',
      when: at('field'),
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
      when: (i) => i.what !== 'ops',
    },
  ],
  start: ({ body }) => ({
    what: 'body',
    body: body ?? '',
    ops: [],
    how: 'row',
    along: 'x',
    count: 3,
    space: 'pitch',
    pitch: 20,
    gap: 0,
    follow: 'yes',
    layout: 'hex',
    margin: 0,
    across: 'y',
    count2: 2,
    pitch2: 20,
    turn: 360,
    skip: '',
    result: 'one',
  }),
  evaluate(input, ctx): Outcome<OpMade> {
    if (input.what === 'ops') return opsRepeated(input, ctx)
    const target = exactBody(input.body, ctx)
    if (!target.ok) return target
    const { body, part: given } = target.value
    const places = placesOf(input, given, ctx)
    if (!places.ok) return places
    const { motions, numbers, first } = places.value
    if (motions.length === 0) return bad('no-copies', 'All places but the first are left out.')
    const set = first
      ? ctx.kernel({ verb: 'move', args: { motion: first, word: null }, on: [given.key] })
      : good([given])
    if (!set.ok) return set
    const part = set.value[0]!
    const all = motions.length + 1
    const spaced = () => gapWords(part, motions[0]!)
    if (input.result === 'bodies') {
      const bodies: OpResult['bodies'] = first ? { [body.id]: reshaped(body, part) } : {}
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
      return good({
        bodies,
        say: () => ({ warnings: [], consequence: `${all} bodies${spaced()}` }),
      })
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
      say: () => ({
        warnings: [],
        consequence:
          solids === 1
            ? `${all} as one`
            : solids === apart
              ? `${all}, apart from each other${spaced()}`
              : `${all} in ${solids} parts`,
      }),
    })
  },
})

/** Ops done again at every place; the one that is there stands for the first. */
function opsRepeated(input: Inputs, ctx: OpContext): Outcome<OpMade> {
  const tools = toolsOfOps(input.ops, input.body, ctx)
  if (!tools.ok) return tools
  const places = placesOf(input, tools.value[0]!.parts[0]!, ctx)
  if (!places.ok) return places
  const { motions, numbers, first } = places.value
  if (motions.length === 0) return bad('no-copies', 'All places but the first are left out.')
  if (first && Math.hypot(...first.t) > 1e-3) return notAtFirst(first.t)
  return doneAgain(
    input.ops,
    input.body,
    motions.map((motion, i) => ({ motion, word: `${ctx.op}:copy${numbers[i]}` })),
    ctx,
  )
}

const notAtFirst = ([x, y, z]: P3): Outcome<never> =>
  bad(
    'not-at-first',
    `What is done again has to stand at the first place of the area already; it is ${mm(Math.hypot(x, y, z), 2)} away (${[x, y, z].map((v) => mm(v, 2)).join(', ')}).`,
  )
