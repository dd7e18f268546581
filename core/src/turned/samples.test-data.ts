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
