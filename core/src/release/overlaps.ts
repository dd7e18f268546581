import { SHOWN } from '../exact'
import { type MeshSolids, measureMesh, type TriMesh } from '../mesh'

/** Two bodies that take up the same room, and how much of it, mm3. */
export interface Overlap {
  a: string
  b: string
  volume: number
}

/** Parts that share a round wall differ there by the chord of their triangles: that much is no overlap. */
const SHARE = 0.3

/** Which of some bodies overlap, by their triangles. */
export function overlaps(
  bodies: readonly { name: string; mesh: TriMesh }[],
  solids: MeshSolids,
): Overlap[] {
  const all = bodies.map(({ name, mesh }) => {
    const faceOf = new Uint32Array(mesh.triangles.length / 3)
    return { name, mesh: { ...mesh, faceOf }, ...measureMesh(mesh) }
  })
  const found: Overlap[] = []
  for (const [i, a] of all.entries())
    for (const b of all.slice(i + 1)) {
      const apart = [0, 1, 2].some(
        (k) => a.bounds.max[k]! <= b.bounds.min[k]! || b.bounds.max[k]! <= a.bounds.min[k]!,
      )
      if (apart) continue
      const volume = solids.shared(a.mesh, b.mesh)
      if (volume > SHARE * SHOWN.chord * Math.min(a.area, b.area))
        found.push({ a: a.name, b: b.name, volume })
    }
  return found
}
