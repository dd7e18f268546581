import type { Curve } from '../curve'
import { line } from '../curve'
import type { Frame, P2 } from '../math'
import { enclosed } from '../profile'
import { FULL_TURN, type TurnedBody } from './body'

/** Frame of the front plane: section x outward, axis up. */
export const UPRIGHT_FRAME: Frame = { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] }

/** A closed polygon of section points as boundary pieces `e0`, `e1`, ...; on the axis `axis`. */
export const polygon = (points: P2[]): { curve: Curve; name: string }[] =>
  points.map((a, i) => {
    const b = points[(i + 1) % points.length]!
    return { curve: line(a, b), name: a[0] === 0 && b[0] === 0 ? 'axis' : `e${i}` }
  })

/** A whole turn of the areas the pieces enclose. */
export const turn = (
  segs: { curve: Curve; name: string }[],
  sweep = FULL_TURN,
  start = 0,
): TurnedBody => ({ frame: UPRIGHT_FRAME, start, sweep, regions: enclosed(segs) })

/** A solid rod: R 30, 60 high. */
export const ROD = turn(
  polygon([
    [0, 0],
    [30, 0],
    [30, 60],
    [0, 60],
  ]),
)

/** A pot whose lip turns in and down: outer R 40, wall 2, lip to r 25 with a skirt down to z 50. */
export const POT = turn(
  polygon([
    [0, 0],
    [40, 0],
    [40, 62],
    [25, 62],
    [25, 50],
    [27, 50],
    [27, 60],
    [38, 60],
    [38, 2],
    [0, 2],
  ]),
)
