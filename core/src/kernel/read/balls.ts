import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { add3, dot3, norm3, scale3, sub3 } from '../../math'
import type { Oc } from '../explore'
import type { KernelScope } from '../scope'
import type { Ball, BallSpot } from '../types'
import { feetOf } from './feet'

/** It mostly takes three or four steps until nothing reaches into a ball by more than this, mm. */
const [STEPS, SETTLED] = [12, 1e-6]

/**
 * The largest balls in the material, or out of it, that touch a face at some places and lie between it and other faces, as true surfaces
 * have them: the one through a place and the nearest of the others from its middle, again and again. Null where there is none.
 */
export const ballsOf = (
  oc: Oc,
  s: KernelScope,
  shape: TopoDS_Shape,
  spots: readonly BallSpot[],
): (Ball | null)[] =>
  spots.map(({ at, face, to, faces, side }) => {
    const foot = feetOf(oc, s, shape, [face], [at], undefined, true)[0]
    if (!foot?.out) return null
    const into = scale3(foot.out, side === 'in' ? -1 : 1)
    // As large as it is where `to` touches, at first.
    let q = feetOf(oc, s, shape, faces, [to])[0]?.at
    let rho = Number.POSITIVE_INFINITY
    for (let i = 0; q && i < STEPS; i++) {
      const w = sub3(q, foot.at)
      const deep = dot3(w, into)
      if (!(deep > 0)) return null
      const next = dot3(w, w) / (2 * deep)
      if (next > rho - SETTLED) break
      rho = next
      const middle = add3(foot.at, scale3(into, rho))
      const near = feetOf(oc, s, shape, faces, [middle])[0]?.at
      if (!near || norm3(sub3(near, middle)) > rho - SETTLED) break
      q = near
    }
    return q && Number.isFinite(rho) ? { at: foot.at, to: q, wall: 2 * rho } : null
  })
