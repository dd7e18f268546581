import type { Anatomy, Kernel } from '../kernel'
import { cross3, dot3, norm3, type P3, placeAt, scale3, sub3 } from '../math'
import { type FacedMesh, Groups, measureMesh, weldFaced } from '../mesh'
import { type ExactPart, partOf, SHOWN } from './part'
import type { Named, NamedMesh } from './verbs/verb'

/** A body of surfaces as one of triangles; its faces keep their names. */
export function inTriangles(kernel: Kernel, { shape, names }: Named): NamedMesh {
  const { positions, triangles, faceOf } = kernel.anatomy(shape, SHOWN.chord, SHOWN.angle)
  // Faces come with vertices of their own: a closed body shares them.
  return { mesh: weldFaced({ positions, triangles, faceOf }), names }
}

/** A body of triangles as a part like any other, measured on them. */
export function meshPart(key: string, { mesh, names, mended }: NamedMesh): ExactPart {
  const m = measureMesh(mesh)
  const measure = {
    volume: m.volume,
    area: m.area,
    centroid: m.centroid,
    bounds: m.bounds,
    closed: m.closed,
    valid: m.closed,
    solids: piecesOf(mesh),
  }
  const part = partOf(key, measure, anatomyOf(mesh, names.length), names, 'mesh')
  return mended ? { ...part, mended } : part
}

/** How many pieces of a mesh do not hang together. */
function piecesOf({ positions, triangles }: FacedMesh): number {
  const groups = new Groups(positions.length / 3)
  for (let i = 0; i < triangles.length; i += 3) {
    groups.join(triangles[i]!, triangles[i + 1]!)
    groups.join(triangles[i + 1]!, triangles[i + 2]!)
  }
  return new Set(Array.from(triangles, (v) => groups.of(v))).size
}

/** Triangles with a normal of their own are flat; a face is a plane where all its triangles lie on one. */
const FLAT = { normal: 1e-5, off: 1e-4 }

/** Faces, edges and what shows them, read from the triangles. */
function anatomyOf(mesh: FacedMesh, count: number): Anatomy {
  const { triangles, faceOf } = mesh
  const at = (t: number, k: number): P3 => placeAt(mesh.positions, triangles[3 * t + k]!)
  const cross = (t: number): P3 => cross3(sub3(at(t, 1), at(t, 0)), sub3(at(t, 2), at(t, 0)))
  // The corners of each face by themselves, their normals those of the face's own triangles.
  const index = new Map<string, number>()
  const positions: number[] = []
  const sums: number[] = []
  const shown = new Uint32Array(triangles.length)
  const area = new Float64Array(count)
  const planes: (FlatFace | null | undefined)[] = Array.from({ length: count })
  for (let t = 0; t < faceOf.length; t++) {
    const [f, n] = [faceOf[t]!, cross(t)]
    const size = norm3(n)
    area[f]! += size / 2
    planes[f] = onOnePlane(planes[f], at(t, 0), n, size)
    for (let k = 0; k < 3; k++) {
      const key = `${f} ${triangles[3 * t + k]}`
      let v = index.get(key)
      if (v === undefined) {
        v = positions.push(...at(t, k)) / 3 - 1
        sums.push(0, 0, 0)
        index.set(key, v)
      }
      for (let j = 0; j < 3; j++) sums[3 * v + j]! += n[j]!
      shown[3 * t + k] = v
    }
  }
  const normals = Float32Array.from(sums)
  for (let v = 0; v < normals.length; v += 3) {
    const l = Math.hypot(normals[v]!, normals[v + 1]!, normals[v + 2]!) || 1
    for (let j = 0; j < 3; j++) normals[v + j]! /= l
  }
  return {
    faces: planes.map((p, f) => ({
      kind: p ? 'plane' : 'free',
      area: area[f]!,
      ...(p ? { flat: p } : {}),
    })),
    ...edgesOf(mesh),
    vertices: [],
    positions: Float32Array.from(positions),
    normals,
    triangles: shown,
    faceOf,
  }
}

interface FlatFace {
  origin: P3
  dir: P3
}
function onOnePlane(
  known: FlatFace | null | undefined,
  at: P3,
  n: P3,
  size: number,
): FlatFace | null | undefined {
  // Slivers have no direction worth the name.
  if (known === null || size < 1e-9) return known
  const dir = scale3(n, 1 / size)
  if (!known) return { origin: at, dir }
  const off = Math.abs(dot3(sub3(at, known.origin), known.dir))
  return 1 - dot3(dir, known.dir) < FLAT.normal && off < FLAT.off ? known : null
}

/** Where faces meet: one edge for each two faces, its lines in no order. */
function edgesOf(mesh: FacedMesh): Pick<Anatomy, 'edges' | 'lines' | 'edgeOf'> {
  const { positions, triangles, faceOf } = mesh
  const beside = new Map<string, number>()
  const found = new Map<string, { faces: number[]; segments: number[] }>()
  for (let i = 0; i < triangles.length; i++) {
    const [v, w] = [triangles[i]!, triangles[i % 3 === 2 ? i - 2 : i + 1]!]
    const [own, other] = [faceOf[Math.floor(i / 3)]!, beside.get(`${w} ${v}`)]
    if (other === undefined) beside.set(`${v} ${w}`, own)
    else if (other !== own) {
      const faces = [Math.min(own, other), Math.max(own, other)]
      const edge = found.get(faces.join()) ?? { faces, segments: [] }
      edge.segments.push(v, w)
      found.set(faces.join(), edge)
    }
  }
  const list = [...found.values()]
  const lines: number[] = []
  const edgeOf: number[] = []
  const edges = list.map(({ faces, segments }, e) => {
    let length = 0
    for (let k = 0; k < segments.length; k += 2) {
      const [a, b] = [placeAt(positions, segments[k]!), placeAt(positions, segments[k + 1]!)]
      lines.push(...a, ...b)
      edgeOf.push(e)
      length += norm3(sub3(b, a))
    }
    return { faces, length, straight: segments.length === 2 || isStraight(segments, positions) }
  })
  return { edges, lines: Float32Array.from(lines), edgeOf: Uint32Array.from(edgeOf) }
}

function isStraight(segments: readonly number[], positions: ArrayLike<number>): boolean {
  const [a, b] = [placeAt(positions, segments[0]!), placeAt(positions, segments[1]!)]
  const way = sub3(b, a)
  return segments.every(
    (v) => norm3(cross3(sub3(placeAt(positions, v), a), way)) <= 1e-4 * norm3(way),
  )
}
