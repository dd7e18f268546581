import { bendsOf } from '@ivory/core/mesh'
import type { DisplayMesh } from '@ivory/core/turned'
import {
  BufferAttribute,
  BufferGeometry,
  type Intersection,
  Mesh,
  type Plane,
  type Raycaster,
} from 'three'

/** The triangles of some faces as a geometry that shares the mesh's vertices. */
export function geometryOf(mesh: DisplayMesh, wanted: (face: number) => boolean) {
  const index: number[] = []
  const triangles: number[] = []
  for (let t = 0; t < mesh.faceOf.length; t++) {
    if (!wanted(mesh.faceOf[t]!)) continue
    index.push(mesh.triangles[3 * t]!, mesh.triangles[3 * t + 1]!, mesh.triangles[3 * t + 2]!)
    triangles.push(t)
  }
  const g = new BufferGeometry()
  g.setAttribute('position', new BufferAttribute(mesh.positions, 3))
  g.setAttribute('normal', new BufferAttribute(mesh.normals, 3))
  g.setIndex(index)
  return { geometry: g, triangles }
}

/** The greatest and the least curvature at each vertex, 1/mm. */
export function bendsAttribute(mesh: DisplayMesh): BufferAttribute {
  const { most, least } = bendsOf(mesh)
  const out = new Float32Array(2 * most.length)
  for (let v = 0; v < most.length; v++) {
    out[2 * v] = most[v]!
    out[2 * v + 1] = least[v]!
  }
  return new BufferAttribute(out, 2)
}

/** The line segments of some edges. */
export function linesOf(mesh: DisplayMesh, wanted: (edge: number) => boolean) {
  const out: number[] = []
  for (let i = 0; i < mesh.edgeOf.length; i++) {
    if (wanted(mesh.edgeOf[i]!)) out.push(...mesh.lines.subarray(6 * i, 6 * i + 6))
  }
  return geometryAt(out)
}

/** Places, three numbers each, as points or the ends of line segments. */
export function geometryAt(places: readonly number[]): BufferGeometry {
  const g = new BufferGeometry()
  g.setAttribute('position', new BufferAttribute(Float32Array.from(places), 3))
  return g
}

/** What the pointer passes through. */
export const UNTOUCHED = { raycast: () => undefined }

/** The pointer meets only what is left of a body that is cut away. */
export const leftOf = (plane: Plane) => ({
  raycast(this: Mesh, ray: Raycaster, hits: Intersection[]) {
    const all: Intersection[] = []
    Mesh.prototype.raycast.call(this, ray, all)
    hits.push(...all.filter((h) => plane.distanceToPoint(h.point) >= 0))
  },
})
