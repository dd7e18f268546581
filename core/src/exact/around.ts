import { add3, dot3, norm3, type P3, placeAt, scale3, sub3 } from '../math'
import { Groups } from '../mesh'
import type { ExactPart } from './part'

/** Edges of a face whose neighbours are listed at most. */
const MOST = 24

/** The name a face goes by: the first of those it bears, in the order of the alphabet where there are several. */
const word = (p: ExactPart, face: number): string => [...p.faces[face]!.names].sort()[0] ?? '?'

interface Around {
  /** Corners at the first and last place of the line that shows each edge; null where it closes on itself. */
  ends: ([number, number] | null)[]
  /** Edges at each face and at each corner. */
  edgesOfFace: number[][]
  edgesOfVertex: number[][]
  /** The edges that are one with each, itself among them: a seam that only runs through parts them. */
  whole: number[][]
}
/** Found once for each part: every view refers to all of them. */
const kept = new WeakMap<ExactPart, Around>()

function aroundOf(p: ExactPart): Around {
  const known = kept.get(p)
  if (known) return known
  const verticesOfFace: number[][] = p.faces.map(() => [])
  for (const [v, { faces }] of p.vertices.entries())
    for (const f of faces) verticesOfFace[f]!.push(v)
  const edgesOfFace: number[][] = p.faces.map(() => [])
  for (const [e, { faces }] of p.edges.entries()) for (const f of faces) edgesOfFace[f]!.push(e)
  const tips = tipsOf(p)
  const ends = p.edges.map(({ faces }, e): [number, number] | null => {
    const [f, g] = faces
    const tip = tips[e]
    if (!tip || f === undefined || g === undefined) return null
    const both = verticesOfFace[f]!.filter((v) => p.vertices[v]!.faces.includes(g))
    const [a, b] = tip.map((at) => nearestOf(p, both, at)) as [number, number]
    return a < 0 || b < 0 || a === b ? null : [a, b]
  })
  const edgesOfVertex: number[][] = p.vertices.map(() => [])
  for (const [e, pair] of ends.entries()) for (const v of pair ?? []) edgesOfVertex[v]!.push(e)
  const made = { ends, edgesOfFace, edgesOfVertex, whole: wholesOf(p, edgesOfVertex) }
  kept.set(p, made)
  return made
}

/** Edges between the same two faces that meet where no other face stands are one. */
function wholesOf(p: ExactPart, edgesOfVertex: readonly number[][]): number[][] {
  const groups = new Groups(p.edges.length)
  const pair = (e: number) => [...p.edges[e]!.faces].sort((a, b) => a - b).join()
  for (const [v, own] of edgesOfVertex.entries())
    if (p.vertices[v]!.faces.length <= 2)
      for (const e of own.slice(1)) if (pair(e) === pair(own[0]!)) groups.join(e, own[0]!)
  const lists = new Map<number, number[]>()
  for (const e of p.edges.keys()) {
    const g = groups.of(e)
    lists.set(g, [...(lists.get(g) ?? []), e])
  }
  return p.edges.map((_, e) => lists.get(groups.of(e))!)
}

/** The edges that are one with an edge, itself among them, in the order of the part. */
export const wholeEdge = (p: ExactPart, edge: number): number[] => aroundOf(p).whole[edge]!

/** The middle of an edge as a whole, mm. */
export function wholeMiddle(p: ExactPart, edge: number): P3 {
  const parts = wholeEdge(p, edge).map((e) => p.edges[e]!)
  const length = parts.reduce((sum, e) => sum + e.length, 0)
  return parts.reduce((sum, e): P3 => add3(sum, scale3(e.middle, e.length / length)), [
    0, 0, 0,
  ] as P3)
}

/** The first and last place of the line of each edge; undefined where it has none. */
function tipsOf({ edges, shown: { lines, edgeOf } }: ExactPart): ([P3, P3] | undefined)[] {
  const out: ([P3, P3] | undefined)[] = edges.map(() => undefined)
  for (let i = 0; i < edgeOf.length; i++) {
    const known = out[edgeOf[i]!]
    const last = placeAt(lines, 2 * i + 1)
    if (known) known[1] = last
    else out[edgeOf[i]!] = [placeAt(lines, 2 * i), last]
  }
  return out
}

function nearestOf(p: ExactPart, vertices: readonly number[], at: P3): number {
  let [best, d] = [-1, Number.POSITIVE_INFINITY]
  for (const v of vertices) {
    const off = norm3(sub3(p.vertices[v]!.at, at))
    if (off < d) [best, d] = [v, off]
  }
  return best
}

/** What stands beside a face: the names of its neighbours, one for each edge, in the order of the alphabet; untold of many. */
export function besideFace(p: ExactPart, face: number): string[] | undefined {
  const edges = aroundOf(p).edgesOfFace[face]!
  if (edges.length > MOST) return undefined
  const { whole } = aroundOf(p)
  return edges
    .filter((e) => whole[e]![0] === e)
    .flatMap((e) => p.edges[e]!.faces.filter((f) => f !== face).map((f) => word(p, f)))
    .sort()
}

/**
 * What stands beside an edge: the names of the faces at its start (`<name`) and end (`>name`), run so that the face which bears
 * `left` lies on the left, seen from outside; none where it closes on itself. A seam that runs through parts no edge.
 */
export function besideEdge(p: ExactPart, edge: number, left: string): string[] {
  const around = aroundOf(p)
  const { faces } = p.edges[edge]!
  const bears = (f: number) => p.faces[f]!.names.includes(left)
  const starts = new Set<number>()
  const stops = new Set<number>()
  for (const e of around.whole[edge]!) {
    const pair = around.ends[e]
    const there = p.edges[e]!.left
    if (!pair || there === undefined) return []
    const [a, b] = bears(there) ? pair : [pair[1], pair[0]]
    starts.add(a)
    stops.add(b)
  }
  // Where both faces bear it neither end is the first.
  const sided = faces.filter(bears).length === 1
  const at = (vertices: Set<number>, not: Set<number>, sign: string) =>
    [...vertices]
      .filter((v) => !not.has(v))
      .flatMap((v) => p.vertices[v]!.faces.filter((f) => !faces.includes(f)))
      .map((f) => `${sided ? sign : '-'}${word(p, f)}`)
  return [...at(starts, stops, '<'), ...at(stops, starts, '>')].sort()
}

/** What stands round a corner: each edge by the faces on its left and right as it leaves there, seen from outside. */
export function besideVertex(p: ExactPart, vertex: number): string[] {
  const { ends, edgesOfVertex } = aroundOf(p)
  return edgesOfVertex[vertex]!.flatMap((e) => {
    const { faces, left } = p.edges[e]!
    const right = faces.find((f) => f !== left)
    if (left === undefined || right === undefined) return []
    const [l, r] = ends[e]![0] === vertex ? [left, right] : [right, left]
    return [`${word(p, l)}|${word(p, r)}`]
  }).sort()
}

/** Things nearer than this share of the body's size along an axis have no order along it. */
const APART = 0.01

/**
 * The order of several things along the axis that the faces of a name share; null where they share none, or where two of the things
 * lie beside each other along it.
 */
export function orderAlong(
  p: ExactPart,
  name: string,
  things: readonly number[],
  at: (thing: number) => P3,
): number[] | null {
  const { min, max } = p.measure.bounds
  const size = norm3(sub3(max, min))
  const dir = axisOf(p, name)
  if (!dir) return null
  const ranked = things
    .map((x) => ({ x, along: dot3(at(x), dir) }))
    .sort((a, b) => a.along - b.along)
  const apart = ranked.every((r, i) => i === 0 || r.along - ranked[i - 1]!.along > APART * size)
  return apart ? ranked.map((r) => r.x) : null
}

/** Which way the axis runs that all faces of a name share. */
function axisOf(p: ExactPart, name: string): P3 | null {
  const dirs = p.faces.filter((f) => f.names.includes(name)).map(({ round }) => round?.dir)
  const [first] = dirs
  return first && dirs.every((d) => d && dot3(d, first) > 1 - 1e-6) ? first : null
}
