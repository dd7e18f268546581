import type { Anatomy, EdgeInfo, FaceInfo, SolidMeasure } from '../kernel'

export { SHOWN } from '../kernel'

import {
  add3,
  angle3,
  cornersAt,
  cross3,
  dot3,
  norm3,
  type P3,
  placeAt,
  scale3,
  sub3,
} from '../math'
import { type TriMesh, weldIndexed } from '../mesh'
import type { NamedMesh, SurfaceForm } from './verbs/verb'

export interface ExactFace extends FaceInfo {
  /** Where it comes from; several where faces that run on in each other have become one. */
  names: string[]
  /** A place on it near its middle, mm, and the direction out of the material there. */
  middle: P3
  normal: P3
}
export interface ExactEdge extends EdgeInfo {
  middle: P3
  /** Its faces stand out from each other, turn in, or run on smoothly. */
  bend: 'out' | 'in' | 'smooth'
  /** The face on its left as the line that shows it runs, seen from outside; of two faces alone. */
  left?: number
}
/** A body of the exact kernel: what was measured on it, its faces and edges, and what shows it. */
export interface ExactPart {
  /** Of true surfaces, or of nothing but the triangles that show it. */
  kind: 'exact' | 'mesh'
  key: string
  measure: SolidMeasure
  faces: ExactFace[]
  edges: ExactEdge[]
  vertices: { at: P3; faces: number[] }[]
  shown: Pick<Anatomy, 'positions' | 'normals' | 'triangles' | 'faceOf' | 'lines' | 'edgeOf'>
  /** The same triangles with shared vertices. */
  mesh: TriMesh
  /** Read on demand (`formJob`). */
  form?: SurfaceForm
  /** Of triangles from a file: how many were turned over or left out. */
  mended?: NamedMesh['mended']
}

/** Neighbouring faces that turn by less than this run on smoothly, rad (0.1 deg); of triangles, as facets do. */
const SMOOTH = { exact: 1.75e-3, mesh: 0.25 }

/** The part by what the kernel tells of its shape. */
export function partOf(
  key: string,
  measure: SolidMeasure,
  a: Anatomy,
  names: readonly string[][],
  kind: ExactPart['kind'] = 'exact',
): ExactPart {
  const { positions, normals, triangles, faceOf, lines, edgeOf } = a
  const spots = faceSpots(a)
  const middles = edgeMiddles(a)
  const sides = edgeSides(a, middles)
  const bends = edgeBends(a, sides, SMOOTH[kind])
  return {
    kind,
    key,
    measure,
    faces: a.faces.map((f, i) => ({ ...f, names: names[i] ?? [], ...onPlane(f, spots[i]!) })),
    edges: a.edges.map((e, i) => ({
      ...e,
      middle: middles[i]!.at,
      bend: bends[i]!,
      ...leftOf(sides.of.get(i)),
    })),
    vertices: a.vertices,
    shown: { positions, normals, triangles, faceOf, lines, edgeOf },
    mesh: weldIndexed({ positions, triangles }),
  }
}

/** Triangles are kept to single precision: of a plane, the place and the normal are those of the plane itself. */
function onPlane({ flat }: FaceInfo, spot: { middle: P3; normal: P3 }) {
  if (!flat) return spot
  const normal = dot3(flat.dir, spot.normal) > 0 ? flat.dir : scale3(flat.dir, -1)
  const off = dot3(sub3(flat.origin, spot.middle), normal)
  return { middle: add3(spot.middle, scale3(normal, off)), normal }
}

/** For each face the middle of the triangle nearest to its centroid, and the normal there. */
function faceSpots({ faces, positions, normals, triangles, faceOf }: Anatomy) {
  const sums = faces.map(() => [0, 0, 0, 0])
  const middleOf = (t: number): P3 => {
    const [a, b, c] = cornersAt({ positions, triangles }, t)
    return [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3, (a[2] + b[2] + c[2]) / 3]
  }
  const areaOf = (t: number) => {
    const [a, b, c] = cornersAt({ positions, triangles }, t)
    const [u, v] = [sub3(b, a), sub3(c, a)]
    return norm3(cross3(u, v))
  }
  for (let t = 0; t < faceOf.length; t++) {
    const sum = sums[faceOf[t]!]!
    const [m, area] = [middleOf(t), areaOf(t)]
    for (let k = 0; k < 3; k++) sum[k]! += m[k]! * area
    sum[3]! += area
  }
  const best = faces.map(() => ({ t: -1, d: Number.POSITIVE_INFINITY }))
  for (let t = 0; t < faceOf.length; t++) {
    const f = faceOf[t]!
    const [x, y, z, area] = sums[f]! as [number, number, number, number]
    const m = middleOf(t)
    const d = norm3(sub3(m, [x / area, y / area, z / area]))
    if (d < best[f]!.d) best[f] = { t, d }
  }
  return best.map(({ t }) => {
    if (t < 0) return { middle: [0, 0, 0] as P3, normal: [0, 0, 1] as P3 }
    const n = [0, 0, 0]
    for (let k = 0; k < 3; k++) {
      const v = placeAt(normals, triangles[3 * t + k]!)
      for (let j = 0; j < 3; j++) n[j]! += v[j]!
    }
    const length = Math.hypot(...n) || 1
    return { middle: middleOf(t), normal: n.map((x) => x / length) as unknown as P3 }
  })
}

/** The segment in the middle of each edge, by number, and the place half-way along the edge. */
function edgeMiddles({ edges, lines, edgeOf }: Anatomy): { at: P3; segment: number }[] {
  const own: number[][] = edges.map(() => [])
  for (let i = 0; i < edgeOf.length; i++) own[edgeOf[i]!]!.push(i)
  return own.map((list) => {
    const length = (i: number) => {
      const [p, q] = [placeAt(lines, 2 * i), placeAt(lines, 2 * i + 1)]
      return norm3(sub3(q, p))
    }
    let rest = list.reduce((sum, i) => sum + length(i), 0) / 2
    for (const i of list) {
      const l = length(i)
      if (rest <= l && l > 0) {
        const [p, q] = [placeAt(lines, 2 * i), placeAt(lines, 2 * i + 1)]
        return { at: add3(p, scale3(sub3(q, p), rest / l)), segment: i }
      }
      rest -= l
    }
    return { at: [0, 0, 0], segment: -1 }
  })
}

/** The triangles beside the middle segment of each edge between two faces, and the places of all vertices as words. */
function edgeSides(a: Anatomy, middles: readonly { segment: number }[]) {
  const { edges, positions, triangles, faceOf, lines } = a
  const at = (p: P3) => p.join()
  const wanted = new Map<string, { e: number; along: boolean }>()
  for (const [e, { segment }] of middles.entries()) {
    if (segment < 0 || edges[e]!.faces.length !== 2) continue
    const [p, q] = [at(placeAt(lines, 2 * segment)), at(placeAt(lines, 2 * segment + 1))]
    wanted.set(`${p} ${q}`, { e, along: true })
    wanted.set(`${q} ${p}`, { e, along: false })
  }
  const of = new Map<number, Side[]>()
  const keys = Array.from({ length: positions.length / 3 }, (_, v) => at(placeAt(positions, v)))
  for (let t = 0; t < faceOf.length; t++) {
    for (let k = 0; k < 3; k++) {
      const [v, w] = [triangles[3 * t + k]!, triangles[3 * t + ((k + 1) % 3)]!]
      const found = wanted.get(`${keys[v]} ${keys[w]}`)
      const face = faceOf[t]!
      if (!found || !edges[found.e]!.faces.includes(face)) continue
      const side = { v, w, across: triangles[3 * t + ((k + 2) % 3)]!, face, along: found.along }
      of.set(found.e, [...(of.get(found.e) ?? []), side])
    }
  }
  return { of, keys }
}

/** A triangle that runs along the edge has its face on the left. */
function leftOf(sides: readonly Side[] | undefined): { left?: number } {
  const left = sides?.filter((s) => s.along)
  return left?.length === 1 && sides!.length === 2 ? { left: left[0]!.face } : {}
}

/** Whether the faces at each edge stand out or turn in: read from the triangles beside its middle segment. */
function edgeBends(
  { edges, positions, normals }: Anatomy,
  { of, keys }: ReturnType<typeof edgeSides>,
  smooth: number,
): ExactEdge['bend'][] {
  return edges.map((_, e) => {
    const [p, q] = of.get(e) ?? []
    if (!p || !q) return 'smooth'
    // Both are read at the same end of the segment; the triangle across mostly runs it the other way.
    const there = keys[q.v] === keys[p.v] ? q.v : q.w
    const [n, m] = [placeAt(normals, p.v), placeAt(normals, there)]
    if (angle3(n, m) < smooth) return 'smooth'
    return dot3(n, sub3(placeAt(positions, q.across), placeAt(positions, p.v))) < 0 ? 'out' : 'in'
  })
}

/** Vertices of a triangle: the segment it lies beside and the corner across from it; its face, and whether it runs along the edge's line. */
interface Side {
  v: number
  w: number
  across: number
  face: number
  along: boolean
}

/** The centre of a face's area by the triangles that show it, mm; exact on flat faces with straight edges. */
export function faceCentroid({ shown }: ExactPart, face: number): P3 {
  const { positions, triangles, faceOf } = shown
  const sum = [0, 0, 0, 0] as [number, number, number, number]
  for (let t = 0; t < faceOf.length; t++) {
    if (faceOf[t] !== face) continue
    const [a, b, c] = cornersAt({ positions, triangles }, t)
    const area = norm3(cross3(sub3(b, a), sub3(c, a)))
    for (let k = 0; k < 3; k++) sum[k]! += (area * (a[k]! + b[k]! + c[k]!)) / 3
    sum[3] += area
  }
  return scale3([sum[0], sum[1], sum[2]], 1 / (sum[3] || 1))
}

/** The places of the line that shows an edge, in their order. */
export function edgeLine({ shown: { lines, edgeOf } }: ExactPart, edge: number): P3[] {
  const out: P3[] = []
  for (let i = 0; i < edgeOf.length; i++) {
    if (edgeOf[i] !== edge) continue
    if (out.length === 0) out.push(placeAt(lines, 2 * i))
    out.push(placeAt(lines, 2 * i + 1))
  }
  return out
}
