import type { TextWay } from '../../letters'
import { bad, type Frame, good, mm, type Outcome, type P2 } from '../../math'
import { type Curve3, place3, reversed3, seenOn, Way, way3 } from '../../surface'
import type { OpContext } from '../state'

/** Along a path as it is seen square to the plane; `at` moves the words on along it and off it. */
export function pathWay(
  i: { path?: string | undefined; feet: 'in' | 'out'; align: TextWay['align'] },
  width: number,
  [on, off]: P2,
  frame: Frame,
  ctx: OpContext,
): Outcome<TextWay> {
  const path = ctx.path(i.path ?? '')
  if (!path) return bad('no-path', 'Choose the path the letters stand on.')
  const flat = (c: Curve3): Curve3 => seenOn(c, frame)
  const run = i.feet === 'in' ? path.pieces : [...path.pieces].reverse().map(reversed3)
  const way = new Way(run.map(flat))
  const { length } = way
  const begin = { start: 0, middle: length / 2, end: length }[i.align] + on
  const [from, to] = {
    start: [begin, begin + width],
    middle: [begin - width / 2, begin + width / 2],
    end: [begin - width, begin],
  }[i.align] as [number, number]
  if (width > length * (1 + 1e-9) || (!path.closed && (from < -1e-6 || to > length + 1e-6)))
    return bad(
      'too-long',
      `The text is ${mm(width)} long; from ${mm(from)} to ${mm(to)} it does not lie on the path of ${mm(length)}.`,
    )
  return good({
    along: 'curve',
    at: [0, 0],
    align: i.align,
    begin,
    on(at) {
      const share = path.closed ? (((at / length) % 1) + 1) % 1 : at / length
      const { curve, t } = way.at(share)
      const c = flat(run[curve]!)
      const [x, y] = place3(c, t)
      const [dx, dy] = way3(c, t)
      return { at: [x - dy * off, y + dx * off], heading: Math.atan2(dy, dx) }
    },
  })
}
