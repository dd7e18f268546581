import { add3, cornersAt, dot3, norm3, type P3, placeAt, scale3, sub3, toSegment } from '../math'
import {
  type EdgeRef,
  type FaceRef,
  type Resolved,
  resolveInSpace,
  type Signs,
  stored,
  type VertexRef,
  type Witness,
} from '../refs'
import { besideEdge, besideFace, besideVertex, orderAlong, wholeEdge, wholeMiddle } from './around'
import type { ExactPart } from './part'

/** The name a face goes by: the first of those it bears. */
export const faceName = (p: ExactPart, face: number): string => p.faces[face]!.names[0] ?? '?'

/** The names of the two faces of an edge; null for a seam or an open end. */
export function edgeNames(p: ExactPart, edge: number): [string, string] | null {
  const { faces } = p.edges[edge]!
  return faces.length === 2 ? [faceName(p, faces[0]!), faceName(p, faces[1]!)] : null
}

/** Numbers of the edges that are meetings of two faces. */
export const realEdges = (p: ExactPart): number[] => thingsOf(p).edges.real

/** Edges or corners that can be meant, and the same by each name that a face at them bears. */
interface Things {
  real: number[]
  named: Map<string, number[]>
}
/** Found once for each part: every view refers to all of them. */
const things = new WeakMap<ExactPart, { edges: Things; corners: Things }>()

function thingsOf(p: ExactPart): { edges: Things; corners: Things } {
  const known = things.get(p)
  if (known) return known
  const made = {
    edges: byName(p, p.edges, (e) => e.faces.length === 2),
    corners: byName(p, p.vertices, (_, i) => vertexNames(p, i).length > 2),
  }
  things.set(p, made)
  return made
}

function byName<T extends { faces: number[] }>(
  p: ExactPart,
  all: readonly T[],
  isReal: (x: T, i: number) => boolean,
): Things {
  const real = all.flatMap((x, i) => (isReal(x, i) ? [i] : []))
  const named = new Map<string, number[]>()
  for (const i of real)
    for (const n of new Set(all[i]!.faces.flatMap((f) => p.faces[f]!.names))) {
      const list = named.get(n)
      if (list) list.push(i)
      else named.set(n, [i])
    }
  return { real, named }
}

/** Those at the rarest of some names: all that bear every one of them are among these. */
const fewest = ({ named }: Things, names: readonly string[]): number[] =>
  names.map((n) => named.get(n) ?? []).reduce((a, b) => (b.length < a.length ? b : a))

/** The faces, edges or corners that a reference may mean, and how they are told apart. */
type Kind = Required<Pick<Signs<number>, 'named' | 'beside' | 'ordered' | 'whole'>> & {
  peers: number[]
  /** Names of faces along whose axes they may have an order. */
  axes: readonly string[]
  middle(x: number): P3
}

function facesNamed(p: ExactPart, name: string): Kind {
  const named = (i: number) => p.faces[i]!.names.includes(name)
  const middle = (i: number) => p.faces[i]!.middle
  return {
    named,
    middle,
    peers: p.faces.flatMap((_, i) => (named(i) ? [i] : [])),
    beside: (i) => besideFace(p, i),
    whole: (i) => [i],
    axes: [name],
    ordered: (list, along) => orderAlong(p, along, list, middle),
  }
}

function edgesNamed(p: ExactPart, names: readonly [string, string]): Kind {
  const named = (i: number) => meets(p, i, names)
  const middle = (i: number) => p.edges[i]!.middle
  return {
    named,
    middle,
    peers: fewest(thingsOf(p).edges, names).filter(named),
    beside: (i) => besideEdge(p, i, names[0]),
    whole: (i) => wholeEdge(p, i),
    axes: names,
    ordered: (list, along) => orderAlong(p, along, list, (i) => wholeMiddle(p, i)),
  }
}

function cornersNamed(p: ExactPart, names: readonly string[]): Kind {
  const named = (i: number) => meetsIn(p, i, names)
  const middle = (i: number) => p.vertices[i]!.at
  return {
    named,
    middle,
    peers: fewest(thingsOf(p).corners, names).filter(named),
    beside: (i) => besideVertex(p, i),
    whole: (i) => [i],
    axes: names,
    ordered: (list, along) => orderAlong(p, along, list, middle),
  }
}

/** What a reference says beside the name: place, number, and what tells the thing from others of that name. */
function witnessOf({ peers, axes, middle, beside, ordered, whole }: Kind, x: number): Witness {
  const own = beside(x)
  const firsts = peers.filter((y) => whole(y)[0] === y)
  const alike = own ? firsts.filter((y) => beside(y)?.join() === own.join()) : []
  const along = alike.length > 1 ? axes.find((name) => ordered(alike, name)) : undefined
  return {
    at: stored(middle(x)),
    index: peers.indexOf(x),
    of: peers.length,
    ...(own ? { beside: own } : {}),
    ...(alike.length > 1 ? { like: alike.length } : {}),
    ...(along === undefined ? {} : { along, rank: ordered(alike, along)!.indexOf(whole(x)[0]!) }),
  }
}

/** The reference to store for a picked face. */
export function faceRef(p: ExactPart, face: number): FaceRef {
  const name = faceName(p, face)
  return { face: name, ...witnessOf(facesNamed(p, name), face) }
}

/** The reference to store for a picked edge, one of `realEdges`. */
export function edgeRef(p: ExactPart, edge: number): EdgeRef {
  const names = edgeNames(p, edge)!
  return { edge: names, ...witnessOf(edgesNamed(p, names), edge) }
}

const meets = (p: ExactPart, edge: number, [a, b]: readonly [string, string]): boolean => {
  const [f, g] = p.edges[edge]!.faces.map((i) => p.faces[i]!.names)
  return Boolean(f && g && ((f.includes(a) && g.includes(b)) || (f.includes(b) && g.includes(a))))
}

/** A place in space that can be compared; one picked on a half-section cannot be. */
const spot = (at: Witness['at']): P3 | undefined => (at?.length === 3 ? at : undefined)

const found = (
  p: ExactPart,
  all: number[],
  ref: Witness,
  kind: Kind,
  away: (x: number, at: P3) => number,
): Resolved<number> => {
  const at = spot(ref.at)
  return resolveInSpace(ref, at, { ...kind, all, away: (x) => away(x, at!), size: sizeOf(p) })
}

export const resolveFace = (p: ExactPart, ref: FaceRef): Resolved<number> =>
  found(
    p,
    p.faces.map((_, i) => i),
    ref,
    facesNamed(p, ref.face),
    (i, at) => toFace(p, i, at),
  )

export const resolveEdge = (p: ExactPart, ref: EdgeRef): Resolved<number> =>
  found(p, realEdges(p), ref, edgesNamed(p, ref.edge), (i, at) => toEdge(p, i, at))

/** The names of the faces that meet in a corner, each once, sorted. */
const vertexNames = (p: ExactPart, vertex: number): string[] =>
  [...new Set(p.vertices[vertex]!.faces.map((f) => faceName(p, f)))].sort()

/** Numbers of the corners where three faces or more meet; where a seam ends is none. */
export const realVertices = (p: ExactPart): number[] => thingsOf(p).corners.real

const meetsIn = (p: ExactPart, vertex: number, names: readonly string[]): boolean => {
  const own = p.vertices[vertex]!.faces.flatMap((f) => p.faces[f]!.names)
  return names.every((n) => own.includes(n))
}

/** The reference to store for a picked corner, one of `realVertices`. */
export function vertexRef(p: ExactPart, vertex: number): VertexRef {
  const names = vertexNames(p, vertex)
  return { vertex: names, ...witnessOf(cornersNamed(p, names), vertex) }
}

export const resolveVertex = (p: ExactPart, ref: VertexRef): Resolved<number> =>
  found(p, realVertices(p), ref, cornersNamed(p, ref.vertex), (i, at) =>
    norm3(sub3(p.vertices[i]!.at, at)),
  )

/** Diagonal of the box of a part, mm. */
export const sizeOf = ({ measure: { bounds } }: ExactPart): number =>
  norm3(sub3(bounds.max, bounds.min))

function toEdge({ shown: { lines, edgeOf } }: ExactPart, edge: number, p: P3): number {
  let best = Number.POSITIVE_INFINITY
  for (let i = 0; i < edgeOf.length; i++) {
    if (edgeOf[i] !== edge) continue
    best = Math.min(best, toSegment(placeAt(lines, 2 * i), placeAt(lines, 2 * i + 1), p))
  }
  return best
}

function toFace({ shown }: ExactPart, face: number, p: P3): number {
  const { positions, triangles, faceOf } = shown
  let best = Number.POSITIVE_INFINITY
  for (let t = 0; t < faceOf.length; t++) {
    if (faceOf[t] !== face) continue
    const [a, b, c] = cornersAt({ positions, triangles }, t)
    best = Math.min(best, toTriangle(a, b, c, p))
  }
  return best
}

/** Distance to a triangle: over it the height, else that to the nearest side. */
function toTriangle(a: P3, b: P3, c: P3, p: P3): number {
  const [u, v, w] = [sub3(b, a), sub3(c, a), sub3(p, a)]
  const [uu, uv, vv] = [dot3(u, u), dot3(u, v), dot3(v, v)]
  const det = uu * vv - uv * uv
  if (det > 0) {
    const s = (vv * dot3(w, u) - uv * dot3(w, v)) / det
    const t = (uu * dot3(w, v) - uv * dot3(w, u)) / det
    if (s >= 0 && t >= 0 && s + t <= 1) return norm3(sub3(w, add3(scale3(u, s), scale3(v, t))))
  }
  return Math.min(toSegment(a, b, p), toSegment(b, c, p), toSegment(c, a, p))
}
