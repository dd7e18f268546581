import { add3, norm3, type P3, placeAt, scale3 } from '../../math'
import { Interpolation } from '../band'
import { type Basis, greville, halved } from '../basis'
import { probesIn } from '../fit'
import { functionsAlong } from '../grid'

/**
 * What holds an end along a side, by u: how far it may be off, as a share of the most it is, and how often spans are halved for it at
 * most.
 */
export interface Field {
  of: (u: number) => P3
  share: number
  halvings: number
}

/** How the skin is held along a side, by u. What is held may jump where pieces of a section join: the mean of both is taken there. */
export function fieldOn(
  joints: readonly number[],
  of: (u: number) => P3,
  near: Omit<Field, 'of'>,
): Field {
  const mean = (u: number) => {
    if (!joints.some((x) => Math.abs(x - u) < BESIDE / 2)) return of(u)
    return scale3(add3(of(u - BESIDE), of(u + BESIDE)), 0.5)
  }
  return { of: mean, ...near }
}
const BESIDE = 1e-7

/** What is less counts as nothing, mm a unit of v or its square. */
const NONE = 1e-5
/** How slopes and bends are met. A bend may jump where pieces join, and met too closely there it would crease the skin all along. */
export const SLOPE = { share: 5e-4, halvings: 7 }
export const BEND = { share: 5e-3, halvings: 3 }

/** Poles along u of fields, over a basis whose spans are halved where they are off, as about joints where they turn off their way. */
export function heldOver(
  given: Basis,
  fields: readonly Field[],
): { basis: Basis; poles: Float64Array[] } {
  let basis = given
  for (let round = 0; ; round++) {
    const at = [...greville(basis)]
    const along = new Interpolation(basis, at)
    const poles = fields.map(({ of }) => {
      const x = Float64Array.from(at.flatMap((u) => of(u)))
      along.solve(x)
      return x
    })
    if (fields.every((f) => round >= f.halvings)) return { basis, poles }
    const { at: us, span } = probesIn(basis, null)
    const { first, values, w } = functionsAlong(basis, us)
    const worse = new Set<number>()
    for (const [i, { of, share, halvings }] of fields.entries()) {
      if (round >= halvings) continue
      const [goals, x] = [us.map(of), poles[i]!]
      const most = Math.max(NONE / share, ...goals.map(norm3))
      for (const [k, goal] of goals.entries()) {
        let off: P3 = scale3(goal, -1)
        for (let j = 0; j < w; j++)
          off = add3(off, scale3(placeAt(x, first[k]! + j), values[k * w + j]!))
        if (norm3(off) > share * most) worse.add(span[k]!)
      }
    }
    if (worse.size === 0) return { basis, poles }
    basis = halved(basis, worse)
  }
}
