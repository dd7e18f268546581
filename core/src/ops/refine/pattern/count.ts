import { bad, good, type Motion, mm, type Outcome } from '../../../math'
import type { OpContext } from '../../state'
import { MOST, type PatternInputs } from './inputs'

/** A motion for every place, the first among them; and where the first goes. */
export interface Laid {
  all: Motion[]
  first?: Motion
}

/** How many copies are asked for, a whole number that a pattern takes. */
export function countOf(i: PatternInputs, ctx: OpContext): Outcome<number> {
  const n = whole(ctx.read(i.count, 'number'), 'How many')
  return n.ok && n.value > MOST ? tooMany(n.value) : n
}

export const tooMany = (n: number) =>
  bad('too-many', `${n} copies are more than the ${MOST} that a pattern takes.`)

/** A whole number of 1 or more; `what` begins the sentence where it is none. */
export function whole(x: number, what: string): Outcome<number> {
  const n = Math.round(x)
  return Math.abs(x - n) < 1e-9 && n >= 1
    ? good(n)
    : bad('count', `${what} must be a whole number of 1 or more.`)
}

/** How far along a line of some length, mm, each of them stands: by pitch, or evenly over all of it. */
export function spreadAlong(
  i: PatternInputs,
  total: number,
  closed: boolean,
  ctx: OpContext,
): Outcome<number[]> {
  const count = countOf(i, ctx)
  if (!count.ok) return count
  const n = count.value
  if (i.space === 'gap')
    return bad(
      'no-gap',
      'Along a line they are spaced by pitch or evenly.',
      [],
      [{ label: 'Evenly over all of the line', op: ctx.op, inputs: { space: 'even' } }],
    )
  const even = i.space === 'even'
  const pitch = even ? total / (closed ? n : Math.max(1, n - 1)) : ctx.read(i.pitch, 'length')
  const reach = Math.abs(pitch) * (closed ? n : n - 1)
  if (reach > total * (1 + 1e-9))
    return bad(
      'too-long',
      `${n} at ${mm(pitch)} need ${mm(reach, 1)} of line; it has ${mm(total, 1)}.`,
    )
  if (pitch < 0 && !closed)
    return bad(
      'backwards',
      'Nothing goes on before the start of an open line: the pitch is more than 0.',
    )
  return good(
    Array.from({ length: n }, (_, k) =>
      closed ? (((k * pitch) % total) + total) % total : Math.min(k * pitch, total * (1 - 1e-12)),
    ),
  )
}
