import {
  after,
  bad,
  cross3,
  good,
  type Motion,
  norm3,
  type Outcome,
  type P3,
  scale3,
  shift,
  sub3,
  unit3,
} from '../../../math'
import { EvenFrames, type Moving } from '../../../path'
import { at3, Way } from '../../../surface'
import type { OpContext } from '../../state'
import { type Laid, spreadAlong } from './count'
import type { PatternInputs } from './inputs'

/** Along a path in space, from where it starts. */
export function alongWay(i: PatternInputs, ctx: OpContext): Outcome<Laid> {
  const path = ctx.path(i.way ?? '')
  if (!path) return bad('no-path', 'Choose the path they stand along.')
  const way = new Way(path.pieces)
  const spread = spreadAlong(i, way.length, path.closed, ctx)
  if (!spread.ok) return spread
  const frames = new EvenFrames(path.pieces, [0, 0, 1])
  const upright = i.follow === 'upright'
  const spots = spread.value.map((s): Moving | null => {
    const { curve, t } = way.at(s / way.length)
    return upright ? uprightAt(at3(path.pieces[curve]!, t)) : frames.at(curve, t)
  })
  const steep = spots.indexOf(null)
  if (steep >= 0) {
    const at = way.place(spread.value[steep]! / way.length)
    return bad('steep', 'The path runs straight up here: nothing says which way they look.', [
      { at },
    ])
  }
  const [first] = spots as Moving[]
  return good({
    all: (spots as Moving[]).map((spot) => {
      const along = shift(sub3(spot.at, first!.at))
      return i.follow === 'no' ? along : between(first!, spot)
    }),
  })
}

/** On a path: ahead in the level, and up. */
function uprightAt({ p, d1 }: { p: P3; d1: P3 }): Moving | null {
  const x = cross3(d1, [0, 0, 1])
  if (norm3(x) < 1e-3 * norm3(d1)) return null
  const side = unit3(x)
  return { at: p, t: cross3([0, 0, 1], side), x: side, y: [0, 0, 1] }
}

/** The motion that carries one frame into another. */
function between(a: Moving, b: Moving): Motion {
  const m = [0, 1, 2].map((r) =>
    [0, 1, 2].map((c) => b.t[r]! * a.t[c]! + b.x[r]! * a.x[c]! + b.y[r]! * a.y[c]!),
  ) as unknown as Motion['m']
  return after(shift(scale3(a.at, -1)), after({ m, t: [0, 0, 0] }, shift(b.at)))
}
