import { startOf, tangentAt } from '../curve'
import { type P2, turn } from '../math'
import { AXIS, type Loop, type Seg } from '../profile'
import { bodyLoops, type TurnedBody } from './body'

/** A vertex of the half-section: an edge ring of the body where two faces meet. */
export interface Corner {
  loop: number
  /** Index of the piece that starts at the corner; the piece before it ends there. */
  seg: number
  at: P2
  before: Seg
  after: Seg
  /** Turn of the outline, rad: positive where the material is convex, 0 where faces run smooth. */
  turn: number
}

export function cornersOf(b: TurnedBody): Corner[] {
  return bodyLoops(b).flatMap((loop, li) => cornersOfLoop(loop, li))
}

function cornersOfLoop(loop: Loop, li: number): Corner[] {
  return loop.flatMap((after, si): Corner[] => {
    const before = loop[(si + loop.length - 1) % loop.length]!
    if (before.name === AXIS || after.name === AXIS) return []
    return [
      {
        loop: li,
        seg: si,
        at: startOf(after.curve),
        before,
        after,
        turn: turn(tangentAt(before.curve, 1), tangentAt(after.curve, 0)),
      },
    ]
  })
}

/** Smaller turns than this count as a smooth joint, rad. */
export const SMOOTH = 1e-3
export const isSharp = (c: Corner): boolean => Math.abs(c.turn) > SMOOTH
