import { bad, good, type Motion, type Outcome, type P3, undone } from '../../../math'
import { centred, chainFindings, moved3, nearestShares, straightened } from '../../../path'
import {
  type Curve3,
  type Patch,
  type Ring,
  reversed3,
  ringOf,
  type Side,
  sidePoles,
} from '../../../surface'
import type { OpContext } from '../../state'

/** A path past all sections, and where each stands on it. */
export interface Centre {
  pieces: readonly Curve3[]
  /** Shares of its length, rising. */
  shares: readonly number[]
  /** What brings each section to where it would stand if the path were straight. */
  straight: readonly Motion[]
}

/** The centre line of sections by their middles; refused where it is broken or goes past them in another order. */
export function centreOf(id: string, middles: readonly P3[], ctx: OpContext): Outcome<Centre> {
  const path = ctx.path(id)
  if (!path) return bad('no-path', 'The centre line does not exist at this point of the route.')
  if (path.closed)
    return bad(
      'closed-centre',
      'The centre line is closed: it has to run from the first section to the last.',
    )
  const fault = chainFindings(path.pieces, false).find((f) => f.code !== 'short')
  if (fault)
    return bad(
      fault.code,
      fault.code === 'gap'
        ? 'The centre line has a gap here.'
        : 'The centre line has a kink here; round it, so that the skin can follow.',
      [{ at: fault.at }],
      [{ label: 'Go to the centre line', op: id, inputs: {}, go: true as const }],
    )
  let pieces = path.pieces
  let shares = nearestShares(pieces, middles)
  if (shares[0]! > shares[shares.length - 1]!) {
    pieces = [...pieces].reverse().map(reversed3)
    shares = nearestShares(pieces, middles)
  }
  const back = shares.findIndex((s, i) => i > 0 && !(s > shares[i - 1]! + 1e-6))
  if (back > 0)
    return bad(
      'doubles-back',
      `The centre line does not come past section ${back + 1} after section ${back}: it ends before it, or the sections stand in another order.`,
      [{ at: middles[back]! }],
    )
  return good({ pieces, shares, straight: straightened(pieces, shares) })
}

/** A section under a motion. */
export const movedRing = ({ curves, names, closed }: Ring, by: Motion): Ring =>
  ringOf({ curves: curves.map((c) => moved3(c, by)), names, closed })

/** The same back where it stands. */
export const putBack = (r: Ring, by: Motion): Ring => movedRing(r, undone(by))

/** The skin through sections along their centre line, and where it meets them in v. */
export function alongCentre(
  { pieces, shares }: Centre,
  sides: readonly Side[],
): { patches: Patch[]; params: number[] } {
  const [from, to] = [shares[0]!, shares[shares.length - 1]!]
  return {
    patches: centred(
      sides.map((s) => sidePoles(s)),
      pieces,
      shares,
    ),
    params: shares.map((s) => (s - from) / (to - from)),
  }
}
