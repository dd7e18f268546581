import { arc, type Curve, fitSpline, line, pointAt } from '../../curve'
import { type ExactPart, edgeLine, edgeRef, exactEnd, realEdges, resolveEdge } from '../../exact'
import {
  add3,
  cross3,
  dist,
  dot3,
  type Frame,
  type P2,
  type P3,
  scale3,
  sub3,
  unit3,
} from '../../math'
import type { Source } from '../../profile'

/** Edges of one body that are projected at once, at most. */
export const MOST_EDGES = 300

type EdgeSource = Extract<Source, { edge: unknown }>

/**
 * An edge as it is seen on a plane: straight ones and circles square to the plane's normal exactly, others as
 * curves through places on them. Null for one that is seen end on.
 */
export function edgeOn(plane: Frame, p: ExactPart, edge: number): Curve | null {
  const flat = (x: P3): P2 => {
    const off = sub3(x, plane.origin)
    return [dot3(off, plane.x), dot3(off, plane.y)]
  }
  const { straight, circle } = p.edges[edge]!
  const places = edgeLine(p, edge)
  const [first, last] = [places[0]!, places[places.length - 1]!].map((x) =>
    flat(exactEnd(p, x)),
  ) as [P2, P2]
  if (straight) return dist(first, last) < 1e-6 ? null : line(first, last)
  if (circle && Math.abs(dot3(circle.dir, plane.z)) > 1 - 1e-9) {
    const c = flat(circle.origin)
    const angle = (x: P2) => Math.atan2(x[1] - c[1], x[0] - c[0])
    const mid = angle(flat(places[Math.floor(places.length / 2)]!))
    const from = angle(first)
    const closed = dist(first, last) < 1e-6
    const round = (a: number) => ((a % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI)
    const left = closed ? 2 * Math.PI : round(angle(last) - from)
    // The way round that passes the middle.
    const sweep = closed || round(mid - from) < left ? left : left - 2 * Math.PI
    return arc(c, circle.radius, from, sweep)
  }
  if (circle && dist(first, last) < 1e-6 && Math.abs(dot3(circle.dir, plane.z)) < 1e-9) {
    // A whole circle seen edge on is as wide as it is.
    const across = scale3(unit3(cross3(circle.dir, plane.z)), circle.radius)
    return line(flat(sub3(circle.origin, across)), flat(add3(circle.origin, across)))
  }
  const seen = places.map(flat)
  const kept = seen.filter((x, i) => i === 0 || dist(x, seen[i - 1]!) > 1e-6)
  if (kept.length < 2) return null
  const flatOn = alongLine(kept)
  if (flatOn) return line(...flatOn)
  return fitSpline(
    kept,
    kept.map(() => ({ hold: 'auto' })),
  )
}

/** The two ends of places that all lie on one straight line: a curve seen edge on; null where they do not. */
function alongLine(pts: readonly P2[]): [P2, P2] | null {
  const first = pts[0]!
  const far = pts.reduce((a, b) => (dist(first, b) > dist(first, a) ? b : a), first)
  const l = dist(first, far)
  const [ux, uy] = [(far[0] - first[0]) / l, (far[1] - first[1]) / l]
  const along = pts.map((p) => (p[0] - first[0]) * ux + (p[1] - first[1]) * uy)
  const off = pts.map((p) => Math.abs((p[0] - first[0]) * uy - (p[1] - first[1]) * ux))
  if (off.some((d) => d > 1e-4)) return null
  return [pts[along.indexOf(Math.min(...along))]!, pts[along.indexOf(Math.max(...along))]!]
}

/** The sharp edges of a body as they are seen on a plane, those that cover each other once. */
export function edgesOn(
  plane: Frame,
  body: string,
  p: ExactPart,
): { source: Source; curve: Curve }[] {
  const out: { source: Source; curve: Curve; ends: P2[] }[] = []
  for (const edge of realEdges(p)) {
    if (p.edges[edge]!.bend === 'smooth') continue
    const curve = edgeOn(plane, p, edge)
    if (!curve) continue
    const ends = [0, 0.5, 1].map((t) => pointAt(curve, t))
    const covers = (other: P2[]) =>
      [other, [...other].reverse()].some((o) => o.every((x, i) => dist(x, ends[i]!) < 1e-4))
    if (out.some((x) => covers(x.ends))) continue
    const source: EdgeSource = { body, ...edgeRef(p, edge) }
    out.push({ source, curve, ends })
  }
  return out
}

/** What a projected piece follows now, or why it follows nothing. */
export function followedEdge(
  plane: Frame,
  p: ExactPart,
  { body: _, ...ref }: EdgeSource,
): Curve | string {
  const found = resolveEdge(p, ref)
  if (found.state === 'lost') return 'The edge it is projected from is gone.'
  if (found.state === 'unclear')
    return `${found.candidates.length} edges are named alike now; choose it again.`
  return edgeOn(plane, p, found.item) ?? 'The edge is seen end on from this plane.'
}
