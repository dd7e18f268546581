import { bad, type Outcome } from '../../math'
import { AXIS, type Seg } from '../../profile'
import { bodyLoops, type TurnedBody } from '../body'
import { inward } from './inward'
import { outward } from './outward'
import type { ShellResult } from './result'

export { shellMarks } from './turnings'
export type { ShellResult }

/**
 * Hollows the body to walls of `t` mm, inward those in `own` to their own. Faces in `open` get no wall. `side` says whether the wall
 * grows inward from the faces or outward (then the faces become the inside). The cavity is all that
 * lies at least `t` from every kept face, so details smaller than the wall disappear cleanly.
 */
export function shell(
  b: TurnedBody,
  t: number,
  open: ReadonlySet<Seg>,
  side: 'in' | 'out',
  op: string,
  own: ReadonlyMap<Seg, number> = new Map(),
): Outcome<ShellResult> {
  const loops = bodyLoops(b)
  if (loops.flat().every((s) => s.name === AXIS || open.has(s))) {
    return bad('nothing-left', 'Every face is open, so there is no wall to make.')
  }
  return side === 'in' ? inward(b, loops, t, open, op, own) : outward(b, loops, t, open, op)
}
