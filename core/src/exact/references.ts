import { add3, cornersAt, dot3, norm3, type P3, placeAt, scale3, sub3, toSegment } from '../math'
import {
  type EdgeRef,
  type FaceRef,
  type Resolved,
  resolve,
  stored,
  type VertexRef,
  type Witness,
} from '../refs'
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

/** The reference to store for a picked face. */
export function faceRef(p: ExactPart, face: number): FaceRef {
  const name = faceName(p, face)
  const peers = p.faces.flatMap((f, i) => (f.names.includes(name) ? [i] : []))
  return {
    face: name,
    at: stored(p.faces[face]!.middle),
    index: peers.indexOf(face),
    of: peers.length,
  }
}

/** The reference to store for a picked edge, one of `realEdges`. */
export function edgeRef(p: ExactPart, edge: number): EdgeRef {
  const names = edgeNames(p, edge)!
  const peers = fewest(thingsOf(p).edges, names).filter((e) => meets(p, e, names))
  return {
    edge: names,
    at: stored(p.edges[edge]!.middle),
    index: peers.indexOf(edge),
    of: peers.length,
  }
}

const meets = (p: ExactPart, edge: number, [a, b]: readonly [string, string]): boolean => {
  const [f, g] = p.edges[edge]!.faces.map((i) => p.faces[i]!.names)
  return Boolean(f && g && ((f.includes(a) && g.includes(b)) || (f.includes(b) && g.includes(a))))
}

/** A place in space that can be compared; one picked on a half-section cannot be. */
const spot = (at: Witness['at']): P3 | undefined => (at?.length === 3 ? at : undefined)

export function resolveFace(p: ExactPart, ref: FaceRef): Resolved<number> {
  const at = spot(ref.at)
  return resolve(
    p.faces.map((_, i) => i),
    ref,
    at,
    (i) => p.faces[i]!.names.includes(ref.face),
    (i) => toFace(p, i, at!),
    sizeOf(p),
  )
}

export function resolveEdge(p: ExactPart, ref: EdgeRef): Resolved<number> {
  const at = spot(ref.at)
  return resolve(
    realEdges(p),
    ref,
    at,
    (i) => meets(p, i, ref.edge),
    (i) => toEdge(p, i, at!),
    sizeOf(p),
  )
}

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
  const peers = fewest(thingsOf(p).corners, names).filter((v) => meetsIn(p, v, names))
  return {
    vertex: names,
    at: stored(p.vertices[vertex]!.at),
    index: peers.indexOf(vertex),
    of: peers.length,
  }
}

export function resolveVertex(p: ExactPart, ref: VertexRef): Resolved<number> {
  const at = spot(ref.at)
  return resolve(
    realVertices(p),
    ref,
    at,
    (i) => meetsIn(p, i, ref.vertex),
    (i) => norm3(sub3(p.vertices[i]!.at, at!)),
    sizeOf(p),
  )
}

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
