import { type Curve, line } from '../curve'
import { dist, POINT } from '../math'
import type { Seg } from './arrangement'
import type { Shape } from './shape'

/**
 * The curves of a drawing that bound something, by `mark` and the id each is drawn with. A control polygon of degree 1 is so many
 * lines, named by their number: it has corners, as lines have.
 */
export const liveSegs = (shape: Shape, mark: string): Seg[] =>
  shape.drawn.flatMap((d) => {
    if (d.construction) return []
    const sides = sidesOf(d.curve)
    return sides.map((curve, k) => ({
      curve,
      name: mark + d.id + (sides.length > 1 ? `.${k + 1}` : ''),
    }))
  })

function sidesOf(c: Curve): Curve[] {
  if (c.kind !== 'spline' || c.degree > 1) return [c]
  return c.poles.slice(1).flatMap((b, i) => {
    const a = c.poles[i]!
    return dist(a, b) > POINT ? [line(a, b)] : []
  })
}
