import { bad, good, type Outcome, type P3 } from '../../../math'
import { ordered } from '../../../path'
import { liveSegs } from '../../../profile'
import { type Curve3, end3, onFrame, place3, reversed3, start3 } from '../../../surface'
import type { OpContext } from '../../state'
import { closedAreas } from '../areas'

/** A plane through the z axis, heights of drawings along it. */
const UPRIGHT = { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 0, 1], z: [0, -1, 0] } as const
/** What lies this near to the axis is on it, mm. */
const ON_AXIS = 1e-6

/** The border of the only area of a profile, where it lies, and the normal of its plane. */
export function regionOf(id: string, ctx: OpContext): Outcome<{ outline: Curve3[]; normal: P3 }> {
  const profile = ctx.profile(id)
  if (!profile) return bad('no-profile', 'Choose the profile whose area it begins as.')
  const areas = closedAreas(profile.shape, '')
  if (!areas.ok) return areas
  const [area, more] = areas.value
  if (!area || more || area.holes.length > 0)
    return bad(
      'cage-area',
      `A cage begins as one area without holes; the profile has ${
        area && !more
          ? `${area.holes.length} ${area.holes.length === 1 ? 'hole' : 'holes'}`
          : `${areas.value.length} areas`
      }.`,
    )
  return good({
    outline: area.outer.map((s) => onFrame(s.curve, profile.frame)),
    normal: profile.frame.z,
  })
}

/** The pieces of a path that points are put onto. */
export function wayOf(id: string, ctx: OpContext): Outcome<{ pieces: Curve3[]; closed: boolean }> {
  const path = ctx.path(id)
  return path && path.pieces.length > 0
    ? good({ pieces: path.pieces, closed: path.closed })
    : bad('no-path', 'Choose the path it goes onto; it must come earlier in the route.')
}

/** The outline of a profile as it stands beside the axis, from its lower end; pieces on the axis left out. */
export function outlineOf(id: string, ctx: OpContext): Outcome<Curve3[]> {
  const profile = ctx.profile(id)
  if (!profile) return bad('no-profile', 'Choose the profile whose outline is turned.')
  const curves = liveSegs(profile.shape, '')
    .map((s) => onFrame(s.curve, UPRIGHT))
    .filter((c) => [0, 0.5, 1].some((t) => Math.abs(place3(c, t)[0]) > ON_AXIS))
  if (curves.length === 0) return bad('empty-profile', 'The profile has nothing beside the axis.')
  for (const c of curves)
    for (let k = 0; k <= 16; k++) {
      const at = place3(c, k / 16)
      if (at[0] < -ON_AXIS)
        return bad('left-of-axis', 'The outline crosses the axis here: draw it on one side.', [
          { at },
        ])
    }
  const { pieces, closed, apart, forks } = ordered(curves)
  if (apart.length > 0 || forks.length > 0 || closed)
    return bad(
      'no-chain',
      closed
        ? 'The outline closes beside the axis: a cage is turned from one that ends, or runs to the axis.'
        : `The outline is no one line: ${apart.length > 0 ? `${apart.length} of its pieces stand apart` : 'it forks'}.`,
      [{ at: closed ? start3(pieces[0]!) : (forks[0] ?? start3(curves[apart[0]!]!)) }],
    )
  const [low, high] = [start3(pieces[0]!), end3(pieces[pieces.length - 1]!)]
  const rises = high[2] > low[2] || (high[2] === low[2] && low[0] < high[0])
  return good(rises ? pieces : pieces.reverse().map(reversed3))
}
