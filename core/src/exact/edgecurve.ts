import type { WireCurve } from '../kernel'
import { add3, cross3, dot3, norm3, type P3, scale3, sub3, unit3 } from '../math'
import { arcThrough3, type Curve3, polynomial3 } from '../surface'
import { type ExactPart, edgeLine } from './part'

/** The curve an edge runs on, in space; null for one that has shrunk to a place. */
export function edgeCurve(p: ExactPart, edge: number): Curve3 | null {
  const { straight, circle, curve } = p.edges[edge]!
  if (curve) return polynomial3(curve.degree, curve.knots, curve.poles, curve.weights)
  const line = edgeLine(p, edge)
  if (line.length < 2) return null
  const [a, b] = [cornerAt(p, edge, line[0]!), cornerAt(p, edge, line[line.length - 1]!)]
  if (straight) return { kind: 'line', a, b }
  if (!circle) return null
  const round = (at: P3): P3 => {
    const out = sub3(at, circle.origin)
    const flat = sub3(out, scale3(circle.dir, dot3(out, circle.dir)))
    return add3(circle.origin, scale3(unit3(flat), circle.radius))
  }
  if (norm3(sub3(a, b)) < 1e-6) {
    const x = unit3(sub3(round(a), circle.origin))
    const y = cross3(circle.dir, x)
    return { kind: 'arc', centre: circle.origin, x, y, radius: circle.radius, sweep: 2 * Math.PI }
  }
  return arcThrough3(a, round(line[line.length >> 1]!), b)
}

/** Lines that show edges are single precision: the corner of the edge's faces that is meant. */
function cornerAt(p: ExactPart, edge: number, at: P3): P3 {
  const faces = p.edges[edge]!.faces
  let [best, d] = [at, 1e-3]
  for (const v of p.vertices) {
    const off = norm3(sub3(v.at, at))
    if (off < d && faces.every((f) => v.faces.includes(f))) [best, d] = [v.at, off]
  }
  return best
}

/** A curve of the kernel as one of ours; null where it has no length. */
export const curveOfWire = (w: WireCurve): Curve3 | null =>
  w.kind === 'spline'
    ? polynomial3(w.degree, w.knots, w.poles, w.weights)
    : w.kind === 'line'
      ? w
      : arcThrough3(w.a, w.mid, w.b)
