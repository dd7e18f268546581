import {
  angle3,
  bad,
  dot3,
  good,
  norm3,
  type Outcome,
  type P3,
  placeAt,
  sub3,
  toSegment,
  unit3,
} from '../math'
import { Groups } from '../mesh'
import { type ExactPart, edgeLine, SHOWN } from './part'

/** How even the width of a face has to be to count as one width, as a share of it. */
const EVEN = 1e-3
/** How evenly its neighbours have to lean along each side, rad. */
const EVEN_LEAN = 1e-3

/**
 * The radius of the round, mm, that touches a flat face and the faces beside its two long sides, and the edges
 * of these: each side is a chain of edges that run on in one another. The width has to be even, and the faces
 * beyond each side lean alike all along it. Over an edge whose faces' normals are `a` apart a round of radius r
 * begins r tan(a/2) from the edge; those of both sides make up the width.
 */
export function fullRadius(
  p: ExactPart,
  face: number,
): Outcome<{ radius: number; sides: number[] }> {
  const at = [{ at: p.faces[face]!.middle }]
  const { flat, area } = p.faces[face]!
  if (!flat) return bad('not-flat', 'A round from side to side takes a flat face.', at)
  const chains = chainsRound(p, face).sort((a, b) => lengthOf(p, b.edges) - lengthOf(p, a.edges))
  const first = chains[0]
  const second = chains.slice(1).find((c) => !meet(first!, c))
  if (!first || !second)
    return bad('no-sides', 'This face has no two sides across from each other.', at)
  // Between two curves everywhere as far from each other lies the mean of their lengths times the width.
  const width = (2 * area) / (lengthOf(p, first.edges) + lengthOf(p, second.edges))
  const across = second.edges.flatMap((e) => segmentsOf(edgeLine(p, e)))
  // What the lines that show a curve may be off, beside the evenness.
  const slack = EVEN * width + (second.edges.every((e) => p.edges[e]!.straight) ? 0 : SHOWN.chord)
  const even = first.edges
    .flatMap((e) => edgeLine(p, e))
    .every((a) => Math.abs(Math.min(...across.map((s) => toSegment(...s, a))) - width) <= slack)
  if (!even)
    return bad('uneven', 'This face is not as wide everywhere; a full round needs one width.', at)
  const [one, other] = [turnOver(p, face, first.edges), turnOver(p, face, second.edges)]
  if (one === null || other === null)
    return bad(
      'uneven-lean',
      'The neighbours of this face do not fall away from it alike all along a side.',
      at,
    )
  const radius = width / (Math.tan(one / 2) + Math.tan(other / 2))
  return good({ radius, sides: [...first.edges, ...second.edges] })
}

/** The angle between the normals over the edges of a side, rad; null where it changes or the faces turn in. */
function turnOver(p: ExactPart, face: number, edges: readonly number[]): number | null {
  const up = p.faces[face]!.normal
  if (edges.some((e) => p.edges[e]!.bend !== 'out')) return null
  const angles = edges.flatMap((e) => {
    const beside = p.edges[e]!.faces.find((f) => f !== face)!
    const line = edgeLine(p, e)
    return [line[0]!, p.edges[e]!.middle, line.at(-1)!].map((at) =>
      angle3(normalAt(p, beside, at), up),
    )
  })
  const [first] = angles
  return angles.every((a) => Math.abs(a - first!) < EVEN_LEAN)
    ? angles.reduce((sum, a) => sum + a, 0) / angles.length
    : null
}

/** Edges round a face that run on in one another, and the ends of all of them. */
interface Chain {
  edges: number[]
  ends: End[]
}
/** An end of an edge, and the direction there away from it. */
interface End {
  at: P3
  away: P3
}

/** The edges round a face, those that run on in one another together. */
function chainsRound(p: ExactPart, face: number): Chain[] {
  const own = p.edges.flatMap((e, i) => (e.faces.length === 2 && e.faces.includes(face) ? [i] : []))
  const ends = own.map((e) => endsOf(edgeLine(p, e)))
  const groups = new Groups(own.length)
  for (const [i, a] of ends.entries())
    for (let j = i + 1; j < own.length; j++) if (runOn(a, ends[j]!)) groups.join(i, j)
  return groups
    .lists()
    .map((list) => ({ edges: list.map((i) => own[i]!), ends: list.flatMap((i) => ends[i]!) }))
}

function endsOf(pts: readonly P3[]): End[] {
  const n = pts.length
  const end = (i: number, j: number) => ({ at: pts[i]!, away: unit3(sub3(pts[i]!, pts[j]!)) })
  return n < 2 ? [] : [end(0, 1), end(n - 1, n - 2)]
}
const touching = (a: End, b: End): boolean => norm3(sub3(a.at, b.at)) < 1e-4
/** Lines that show a curve bend by no more than this at a place, as the cosine. */
const ON = Math.cos(2 * SHOWN.angle)
const runOn = (a: readonly End[], b: readonly End[]): boolean =>
  a.some((x) => b.some((y) => touching(x, y) && -dot3(x.away, y.away) > ON))
const meet = (a: Chain, b: Chain): boolean => a.ends.some((x) => b.ends.some((y) => touching(x, y)))

const lengthOf = (p: ExactPart, chain: readonly number[]): number =>
  chain.reduce((sum, e) => sum + p.edges[e]!.length, 0)

const segmentsOf = (pts: readonly P3[]): [P3, P3][] => pts.slice(1).map((b, i) => [pts[i]!, b])

/** The normal of a face at the vertex of its triangles nearest to a place. */
function normalAt({ shown }: ExactPart, face: number, at: P3): P3 {
  const { positions, normals, triangles, faceOf } = shown
  let [best, found] = [Number.POSITIVE_INFINITY, 0]
  for (let t = 0; t < faceOf.length; t++) {
    if (faceOf[t] !== face) continue
    for (let k = 0; k < 3; k++) {
      const v = triangles[3 * t + k]!
      const d = norm3(sub3(placeAt(positions, v), at))
      if (d < best) [best, found] = [d, v]
    }
  }
  return placeAt(normals, found)
}
