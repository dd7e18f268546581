import { type Curve, lengthOf, pointAt, subCurve, tangentAt } from '../../../curve'
import {
  after,
  bad,
  good,
  type Outcome,
  type P2,
  shift,
  sub3,
  toSpace,
  turnAbout,
} from '../../../math'
import { liveSegs, openChains, regionsOf, type Seg } from '../../../profile'
import type { OpContext } from '../../state'
import { type Laid, spreadAlong } from './count'
import type { PatternInputs } from './inputs'

/** Along the one line of a profile, from where it starts. */
export function alongCurve(i: PatternInputs, ctx: OpContext): Outcome<Laid> {
  const profile = ctx.profile(i.path ?? '')
  if (!profile) return bad('no-profile', 'Choose the profile whose line they stand along.')
  const line = lineOf(liveSegs(profile.shape, ''))
  if (!line.ok) return line
  const { chain, closed } = line.value
  const lengths = chain.map(lengthOf)
  const total = lengths.reduce((a, b) => a + b, 0)
  const spread = spreadAlong(i, total, closed, ctx)
  if (!spread.ok) return spread
  const { frame } = profile
  const at = (s: number) => {
    const { p, u } = spotAt(chain, lengths, s)
    return { at: toSpace(frame, p[0], p[1]), angle: Math.atan2(u[1], u[0]) }
  }
  const start = at(0)
  return good({
    all: spread.value.map((s) => {
      const spot = at(s)
      const along = shift(sub3(spot.at, start.at))
      return i.follow === 'yes'
        ? after(along, turnAbout(spot.at, frame.z, spot.angle - start.angle))
        : along
    }),
  })
}

/** The pieces of the one line there is, in order. */
function lineOf(segs: readonly Seg[]): Outcome<{ chain: Curve[]; closed: boolean }> {
  const open = openChains(segs)
  if (open.length === 1 && open[0]!.length === segs.length)
    return good({ chain: open[0]!.map((s) => s.curve), closed: false })
  const areas = open.length === 0 ? regionsOf(segs) : null
  const only = areas?.ok && areas.value.length === 1 && areas.value[0]!.holes.length === 0
  if (only) return good({ chain: areas.value[0]!.outer.map((s) => s.curve), closed: true })
  return bad('several-lines', 'The profile has to be one line, or one outline.')
}

/** The place at a length along a chain, and its direction there. */
function spotAt(chain: readonly Curve[], lengths: readonly number[], s: number): { p: P2; u: P2 } {
  let k = 0
  let rest = s
  while (k < chain.length - 1 && rest > lengths[k]!) rest -= lengths[k++]!
  const c = chain[k]!
  // Lines and arcs run evenly; of a spline the parameter is closed in on.
  let t = lengths[k]! > 0 ? Math.min(1, rest / lengths[k]!) : 0
  if (c.kind === 'spline') {
    let [low, high] = [0, 1]
    for (let j = 0; j < 60; j++) {
      t = (low + high) / 2
      if (lengthOf(subCurve(c, 0, t)) < rest) low = t
      else high = t
    }
  }
  return { p: pointAt(c, t), u: tangentAt(c, t) }
}
