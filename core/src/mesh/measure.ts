import type { P3 } from '../math'
import { closedBy, countEdges, type EdgeCount } from './edges'
import type { TriMesh } from './types'

export interface MeshMeasure {
  volume: number
  area: number
  centroid: P3
  bounds: { min: P3; max: P3 }
  /** As many triangles run one way along each edge as the other. */
  closed: boolean
  edges: EdgeCount
  triangles: number
}

/** Volume and centroid by signed tetrahedra, area, box and closedness. */
export function measureMesh(m: TriMesh): MeshMeasure {
  const p = m.positions
  const min: [number, number, number] = [Infinity, Infinity, Infinity]
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity]
  let [volume, area, cx, cy, cz] = [0, 0, 0, 0, 0]
  for (let i = 0; i < m.triangles.length; i += 3) {
    const [a, b, c] = [3 * m.triangles[i]!, 3 * m.triangles[i + 1]!, 3 * m.triangles[i + 2]!]
    const [ax, ay, az] = [p[a]!, p[a + 1]!, p[a + 2]!]
    const [bx, by, bz] = [p[b]!, p[b + 1]!, p[b + 2]!]
    const [dx, dy, dz] = [p[c]!, p[c + 1]!, p[c + 2]!]
    const v = (ax * (by * dz - bz * dy) + ay * (bz * dx - bx * dz) + az * (bx * dy - by * dx)) / 6
    volume += v
    cx += (v * (ax + bx + dx)) / 4
    cy += (v * (ay + by + dy)) / 4
    cz += (v * (az + bz + dz)) / 4
    const [ux, uy, uz] = [bx - ax, by - ay, bz - az]
    const [vx, vy, vz] = [dx - ax, dy - ay, dz - az]
    area += Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2
    for (let j = 0; j < 3; j++) {
      min[j] = Math.min(min[j]!, p[a + j]!, p[b + j]!, p[c + j]!)
      max[j] = Math.max(max[j]!, p[a + j]!, p[b + j]!, p[c + j]!)
    }
  }
  const edges = countEdges(m)
  return {
    volume,
    area,
    centroid: [cx / volume, cy / volume, cz / volume],
    bounds: { min, max },
    closed: m.triangles.length > 0 && closedBy(edges),
    edges,
    triangles: m.triangles.length / 3,
  }
}
