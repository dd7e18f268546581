import { add3, cross3, dot3, norm3, type P3, scale3, sub3 } from '../math'
import { type ExactPart, edgeLine } from './part'

/** Lines that show an edge are single precision: at its ends the vertices themselves are taken. */
export function exactEnd({ vertices }: ExactPart, x: P3): P3 {
  for (const v of vertices) if (norm3(sub3(v.at, x)) < 1e-4) return v.at
  return x
}

/**
 * The place at a share of the way along an edge, from the end it starts at: exactly on straight ones and
 * parts of circles, by the line that shows it on others.
 */
export function alongEdge(p: ExactPart, edge: number, share: number): P3 {
  const { straight, circle } = p.edges[edge]!
  const places = edgeLine(p, edge)
  const [a, b] = [places[0]!, places[places.length - 1]!].map((x) => exactEnd(p, x)) as [P3, P3]
  if (straight) return add3(a, scale3(sub3(b, a), share))
  if (circle) {
    const from = sub3(a, circle.origin)
    const next = sub3(places[1]!, circle.origin)
    const dir = dot3(cross3(from, next), circle.dir) < 0 ? scale3(circle.dir, -1) : circle.dir
    const turn = share * (p.edges[edge]!.length / circle.radius)
    const across = cross3(dir, from)
    return add3(circle.origin, add3(scale3(from, Math.cos(turn)), scale3(across, Math.sin(turn))))
  }
  const lengths = places.slice(1).map((q, i) => norm3(sub3(q, places[i]!)))
  let rest = share * lengths.reduce((x, y) => x + y, 0)
  for (const [i, l] of lengths.entries()) {
    if (rest <= l || i === lengths.length - 1)
      return add3(places[i]!, scale3(sub3(places[i + 1]!, places[i]!), l > 0 ? rest / l : 0))
    rest -= l
  }
  return a
}
