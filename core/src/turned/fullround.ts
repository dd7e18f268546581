import { lengthOf } from '../curve'
import { bad, type Outcome } from '../math'
import type { Seg } from '../profile'
import { filletCorner, tangentCircle } from './blend'
import type { TurnedBody } from './body'
import { cornersOf, isSharp } from './corners'

/**
 * The piece `middle` and both its neighbours touched by one circle, which takes the place of all of `middle`.
 * Its radius is the one at which the circles of both corners touch it at one place: they are one circle then.
 * The two halves of the round are named by `name(corner's faces)`.
 */
export function fullRound(
  b: TurnedBody,
  middle: Seg,
  name: (before: Seg, after: Seg) => string,
): Outcome<TurnedBody> {
  const corners = cornersOf(b)
  const first = corners.find((c) => c.after === middle)
  const second = corners.find((c) => c.before === middle)
  const place = [{ at: (second ?? first)?.at ?? ([0, 0] as const) }]
  if (!first || !second || !isSharp(first) || !isSharp(second) || first.turn * second.turn < 0)
    return bad(
      'no-full-round',
      `The face ${middle.name} does not lie between two others that both turn the same way at its edges.`,
      place,
    )
  // Positive while the two circles leave something of the face between them.
  const between = (r: number): number => {
    const [p, q] = [tangentCircle(first, r), tangentCircle(second, r)]
    return p.ok && q.ok ? q.value.a - p.value.c : -1
  }
  let [low, high] = [0, lengthOf(middle.curve)]
  while (between(high) > 0 && high < 1e4) high *= 2
  for (let k = 0; k < 80; k++) {
    const r = (low + high) / 2
    if (between(r) > 0) low = r
    else high = r
  }
  const left = between(low)
  if (low === 0 || left * lengthOf(middle.curve) > 1e-6)
    return bad(
      'no-full-round',
      `No circle touches ${middle.name} and both its neighbours: one of them is used up first.`,
      place,
    )
  const one = filletCorner(b, first, low, name(first.before, first.after))
  if (!one.ok) return one
  const then = cornersOf(one.value).find(
    (c) => isSharp(c) && Math.hypot(c.at[0] - second.at[0], c.at[1] - second.at[1]) < 1e-6,
  )
  if (!then)
    return bad('no-full-round', `The face ${middle.name} is used up from one side alone.`, place)
  return filletCorner(one.value, then, low, name(second.before, second.after))
}
