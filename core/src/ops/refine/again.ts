import type { ExactPart } from '../../exact'
import { bad, type Diagnosis, good, type Motion, moved, type Outcome, type P3 } from '../../math'
import { exactBody, exactShape, reshaped, unsound } from '../exact'
import type { Field } from '../spec'
import { type OpContext, type OpResult, volumeWords } from '../state'

/** Where an op is done again, and the word its faces there are told by. */
export interface Again {
  motion: Motion
  word: string
}

/** Whether a body or ops are `done` ("repeated"), and which. */
export const whatFields = (done: string): Field[] => [
  {
    name: 'what',
    label: 'Of',
    help: `Whether a body is ${done}, or what ops added to it or took from it.`,
    type: 'choice',
    options: [
      { value: 'body', label: 'A body' },
      { value: 'ops', label: 'Ops, done again' },
    ],
  },
  {
    name: 'body',
    label: 'Body',
    help: `The body that is ${done}, or that the ops worked on.`,
    type: 'body',
  },
  {
    name: 'ops',
    label: 'Ops',
    help: 'What they added or took is added or taken again at every place.',
    type: 'ops',
    when: (i) => i.what === 'ops',
  },
]

/** What the ops added to the body or took from it, in their order. */
export function toolsOfOps(
  ops: readonly string[],
  body: string,
  ctx: OpContext,
): Outcome<{ how: 'join' | 'cut'; parts: ExactPart[] }[]> {
  if (ops.length === 0) return bad('no-ops', 'Choose the ops that are done again.')
  const out: { how: 'join' | 'cut'; parts: ExactPart[] }[] = []
  for (const id of ops) {
    const tool = ctx.tool(id)
    if (!tool || tool.how === 'round')
      return bad(
        'no-tool',
        `The op "${id}" neither adds to a body nor takes from it at this point of the route, so it cannot be done again. Roundings are repeated by "the same edge of every copy".`,
      )
    if (tool.body !== body)
      return bad('other-body', `The op "${id}" works on another body: "${tool.body}".`)
    const parts: ExactPart[] = []
    for (const shape of tool.shapes) {
      const part = exactShape(shape, ctx)
      if (!part.ok) return part
      parts.push(part.value)
    }
    out.push({ how: tool.how, parts })
  }
  return good(out)
}

/**
 * Ops done again elsewhere on the body they worked on. What every copy left is counted by the names of its
 * faces; where some left nothing the op stands as failed, with their places.
 */
export function doneAgain(
  ops: readonly string[],
  bodyId: string,
  places: readonly Again[],
  ctx: OpContext,
): Outcome<OpResult> {
  const target = exactBody(bodyId, ctx)
  if (!target.ok) return target
  const { body, part: before } = target.value
  const tools = toolsOfOps(ops, body.id, ctx)
  if (!tools.ok) return tools
  let now = before
  const added: ExactPart[] = []
  for (const { how, parts } of tools.value) {
    const copies: ExactPart[] = []
    for (const { motion, word } of places)
      for (const part of parts) {
        const made = ctx.kernel({ verb: 'move', args: { motion, word }, on: [part.key] })
        if (!made.ok) return made
        copies.push(made.value[0]!)
      }
    const made = ctx.kernel({
      verb: 'combine',
      args: { op: ctx.op, how },
      on: [now.key, ...copies.map((c) => c.key)],
    })
    if (!made.ok) return made
    now = made.value[0]!
    added.push(...copies)
  }
  const names = now.faces.flatMap((f) => f.names)
  const lost = places.filter(({ word }) => !names.some((n) => n.includes(`${word}(`)))
  const { how } = tools.value[0]!
  const middle = tools.value[0]!.parts[0]!.measure.centroid
  return good({
    bodies: { [body.id]: reshaped(body, now) },
    // Done again in their turn where all of them add, or all take.
    ...(tools.value.every((t) => t.how === how)
      ? { tool: { how, body: body.id, shapes: added } }
      : {}),
    ...(lost.length > 0 ? { failed: true } : {}),
    warnings: [
      ...leftNothing(
        lost.map((x) => moved(x.motion, middle)),
        places.length,
        body.name,
      ),
      ...unsound(body.name, now, before.measure.solids),
    ],
    consequence: `${places.length + 1} times, ${volumeWords(before.measure.volume, now.measure.volume)}`,
  })
}

function leftNothing(lost: P3[], all: number, body: string): Diagnosis[] {
  if (lost.length === 0) return []
  return [
    {
      code: 'left-nothing',
      message: `${lost.length} of ${all} copies ${lost.length === 1 ? 'leaves' : 'leave'} nothing in ${body || 'the body'}: it is not there where they are done again.`,
      places: lost.map((at) => ({ at })),
      fixes: [],
    },
  ]
}
