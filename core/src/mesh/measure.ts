import type { P3 } from '../math'

/** Triangles with shared vertices; outward-facing when the mesh is closed. */
export interface TriMesh {
  positions: Float64Array | Float32Array
  triangles: Uint32Array
}
export interface MeshMeasure {
  volume: number
  area: number
  centroid: P3
  bounds: { min: P3; max: P3 }
  /** Every edge has exactly one neighbour running the other way. */
  closed: boolean
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
    for (const k of [a, b, c]) {
      for (const j of [0, 1, 2] as const) {
        min[j] = Math.min(min[j], p[k + j]!)
        max[j] = Math.max(max[j], p[k + j]!)
      }
    }
  }
  return {
    volume,
    area,
    centroid: [cx / volume, cy / volume, cz / volume],
    bounds: { min, max },
    closed: isClosed(m.triangles),
    triangles: m.triangles.length / 3,
  }
}

function isClosed(t: Uint32Array): boolean {
  const open = new Map<string, number>()
  for (let i = 0; i < t.length; i += 3) {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [t[i + k]!, t[i + ((k + 1) % 3)]!]
      if (a === b) return false
      const back = `${b}-${a}`
      const n = open.get(back)
      if (n) {
        if (n === 1) open.delete(back)
        else open.set(back, n - 1)
      } else open.set(`${a}-${b}`, (open.get(`${a}-${b}`) ?? 0) + 1)
    }
  }
  return t.length > 0 && open.size === 0
}
