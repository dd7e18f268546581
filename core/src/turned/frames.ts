import { type Placing, placeCurve, reverse } from '../curve'
import { dot3, type Frame, norm3, sub3 } from '../math'
import type { Loop } from '../profile'
import { isWhole, type TurnedBody } from './body'

/** Whether two bodies in one frame are swept by the same turn, so that their half-sections can be combined. */
export const sameTurn = (a: TurnedBody, b: TurnedBody): boolean =>
  (isWhole(a) && isWhole(b)) ||
  (Math.abs(a.start - b.start) < 1e-9 && Math.abs(a.sweep - b.sweep) < 1e-9)

/** The body written in another frame about the same axis; null when the axes differ. */
export function inFrameOf(to: Frame, b: TurnedBody): TurnedBody | null {
  const from = b.frame
  const along = dot3(to.z, from.z)
  const off = sub3(from.origin, to.origin)
  const dz = dot3(off, to.z)
  const aside = norm3(sub3(off, [to.z[0] * dz, to.z[1] * dz, to.z[2] * dz]))
  if (Math.abs(along) < 1 - 1e-12 || aside > 1e-6) return null
  const flipped = along < 0
  if (!isWhole(b) && (flipped || dot3(to.x, from.x) < 1 - 1e-12)) return null
  const placing: Placing = { origin: [0, dz], x: [1, 0], y: [0, flipped ? -1 : 1] }
  const put = (loop: Loop): Loop =>
    flipped
      ? loop.map((s) => ({ ...s, curve: reverse(placeCurve(s.curve, placing)) })).reverse()
      : loop.map((s) => ({ ...s, curve: placeCurve(s.curve, placing) }))
  return {
    ...b,
    frame: to,
    regions: b.regions.map((r) => ({ outer: put(r.outer), holes: r.holes.map(put) })),
  }
}
