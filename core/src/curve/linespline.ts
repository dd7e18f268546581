import { cross, norm, sub } from '../math'
import { pointAt } from './curve'
import { signChanges } from './signs'
import { spansOf } from './spline'
import type { Line, Spline } from './types'

/**
 * Where a spline crosses the whole line through `l`, as parameters on both: every crossing, by halving its
 * Bezier pieces until their heights over the line change sign at most once (variation diminishing). Where it
 * only touches, nothing is told.
 */
export function lineSpline(l: Line, c: Spline): { t: number; s: number }[] {
  const d = sub(l.b, l.a)
  const n = norm(d)
  if (n === 0) return []
  const roots: number[] = []
  for (const { t0, t1, ctrl } of spansOf(c))
    signChanges(
      ctrl.map((p) => cross(d, sub(p, l.a)) / n),
      t0,
      t1,
      roots,
    )
  return roots.map((s) => {
    const w = sub(pointAt(c, s), l.a)
    return { t: (w[0] * d[0] + w[1] * d[1]) / (n * n), s }
  })
}
