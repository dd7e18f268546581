import { cross3, dot3, norm3, outAt, type P3 } from '../math'
import { Groups } from './groups'
import type { TriMesh } from './types'
import { weld } from './weld'

/** A closed mesh whose triangles belong to faces, by number. */
export interface FacedMesh extends TriMesh {
  faceOf: Uint32Array
}

/** Faces of a mesh that has none: triangles hang together across edges that turn by less than `angle` rad. */
export function facesBySharpEdges(m: TriMesh, angle: number): FacedMesh {
  const count = m.triangles.length / 3
  const normals = Array.from({ length: count }, (_, t) => outAt(m, t))
  const groups = new Groups(count)
  const smooth = Math.cos(angle)
  const across = new Map<string, number>()
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 3; k++) {
      const [v, w] = [m.triangles[3 * t + k]!, m.triangles[3 * t + ((k + 1) % 3)]!]
      const other = across.get(`${w} ${v}`)
      if (other === undefined) {
        across.set(`${v} ${w}`, t)
        continue
      }
      const [n, o] = [normals[t]!, normals[other]!]
      if (dot3(n, o) >= smooth * norm3(n) * norm3(o)) groups.join(t, other)
    }
  const numbers = new Map<number, number>()
  const faceOf = Uint32Array.from({ length: count }, (_, t) => {
    const r = groups.of(t)
    const known = numbers.get(r) ?? numbers.size
    numbers.set(r, known)
    return known
  })
  return { ...m, faceOf }
}

/** The mesh after x' = m x + t; mirrored ones keep facing outward. */
export function movedMesh(
  mesh: FacedMesh,
  { m, t }: { m: readonly [P3, P3, P3]; t: P3 },
): FacedMesh {
  const positions = new Float64Array(mesh.positions.length)
  for (let v = 0; v < positions.length; v += 3) {
    const p: P3 = [mesh.positions[v]!, mesh.positions[v + 1]!, mesh.positions[v + 2]!]
    for (let k = 0; k < 3; k++) positions[v + k] = dot3(m[k]!, p) + t[k]!
  }
  const mirrored = dot3(m[0], cross3(m[1], m[2])) < 0
  const triangles = mesh.triangles.slice()
  if (mirrored)
    for (let i = 0; i < triangles.length; i += 3)
      [triangles[i + 1], triangles[i + 2]] = [triangles[i + 2]!, triangles[i + 1]!]
  return { positions, triangles, faceOf: mesh.faceOf }
}

/** Meshes as one, not joined; the faces of each are numbered on. */
export function joined(meshes: readonly FacedMesh[], faces: readonly number[]): FacedMesh {
  const vertices = meshes.reduce((n, m) => n + m.positions.length, 0)
  const corners = meshes.reduce((n, m) => n + m.triangles.length, 0)
  const positions = new Float64Array(vertices)
  const triangles = new Uint32Array(corners)
  const faceOf = new Uint32Array(corners / 3)
  let [v, c, f] = [0, 0, 0]
  for (const [i, m] of meshes.entries()) {
    positions.set(m.positions, v)
    for (const [k, x] of m.triangles.entries()) triangles[c + k] = x + v / 3
    for (const [k, x] of m.faceOf.entries()) faceOf[c / 3 + k] = x + f
    v += m.positions.length
    c += m.triangles.length
    f += faces[i]!
  }
  return { positions, triangles, faceOf }
}

/** The mesh with vertices that lie on each other as one, as closed bodies need; single precision. */
export function weldFaced(m: FacedMesh): FacedMesh {
  const soup = new Float32Array(3 * m.triangles.length)
  for (let i = 0; i < m.triangles.length; i++)
    for (let k = 0; k < 3; k++) soup[3 * i + k] = m.positions[3 * m.triangles[i]! + k]!
  const kept: number[] = []
  for (let t = 0; t < m.faceOf.length; t++) {
    const same = (a: number, b: number) =>
      [0, 1, 2].every((k) => soup[9 * t + 3 * a + k] === soup[9 * t + 3 * b + k])
    if (!same(0, 1) && !same(1, 2) && !same(0, 2)) kept.push(m.faceOf[t]!)
  }
  return { ...weld(soup), faceOf: Uint32Array.from(kept) }
}

/** The triangles of all faces of a mesh but one; they keep the numbers of their faces and corners. */
export function withoutFace({ positions, triangles, faceOf }: FacedMesh, face: number): FacedMesh {
  const kept = Array.from(faceOf.keys()).filter((t) => faceOf[t] !== face)
  return {
    positions,
    triangles: Uint32Array.from(kept.flatMap((t) => [...triangles.subarray(3 * t, 3 * t + 3)])),
    faceOf: Uint32Array.from(kept, (t) => faceOf[t]!),
  }
}
