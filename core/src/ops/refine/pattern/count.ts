import { bad, good, type Motion, type Outcome } from '../../../math'
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
