import { good, type Outcome } from '../../math'
import { type Cage, neighbours } from '../layout'
import { CageSkinner, levelsFor } from '../limit/skin'
import { tableOf } from '../limit/table'
import { laidOnto, layOf, type Reached } from './lay'

/** How often the form before is refined to be followed, its quads at most, and how many steps from a new point others may move. */
const [FINE, QUADS, ABOUT] = [4, 60_000, 2]
/** A place counts that the moving points have this share in. */
const TOUCHED = 1e-3

/**
 * A cage with points more than one before, moved so that its limit keeps the form that one had: new points and those about them go by
 * least squares onto the limit before. Tells how far the limit lies off it there.
 */
export function formKept(before: Cage, after: Cage): Outcome<{ cage: Cage; reached: Reached }> {
  const [was, now] = [tableOf(before), tableOf(after)]
  if (!was.ok) return was
  if (!now.ok) return now
  const mesh = new CageSkinner(was.value, levelsFor(was.value, QUADS, FINE)).skin(before)
  const there = new Set(before.layout.points)
  let moves = new Set(after.layout.points.flatMap((name, p) => (there.has(name) ? [] : [p])))
  const beside = neighbours(after)
  for (let k = 0; k < ABOUT; k++) moves = new Set([...moves].flatMap((p) => [p, ...beside[p]!]))
  const at = laidOnto(after, now.value, mesh, 0, moves, TOUCHED)
  const cage = { layout: after.layout, at }
  const reached = layOf(cage, now.value, mesh, 0, new Set(after.layout.points.keys()))!
  return good({ cage, reached })
}
