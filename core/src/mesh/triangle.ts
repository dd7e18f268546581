/** Where the last search of one triangle, or of two, ended: kept here so that hot loops allocate nothing. */
export const at = { x: 0, y: 0, z: 0 }
export const touch = { at: { x: 0, y: 0, z: 0 }, to: { x: 0, y: 0, z: 0 } }

/**
 * Squared distance of a place to a triangle, the nearest place left in `at`. Regions of corners and edges by
 * barycentric signs (Ericson, Real-Time Collision Detection, 5.1.5; from memory).
 */
export function toTriangle(p: Float64Array, o: number, x: number, y: number, z: number): number {
  const [ax, ay, az] = [p[o]!, p[o + 1]!, p[o + 2]!]
  const [abx, aby, abz] = [p[o + 3]! - ax, p[o + 4]! - ay, p[o + 5]! - az]
  const [acx, acy, acz] = [p[o + 6]! - ax, p[o + 7]! - ay, p[o + 8]! - az]
  const [apx, apy, apz] = [x - ax, y - ay, z - az]
  const d1 = abx * apx + aby * apy + abz * apz
  const d2 = acx * apx + acy * apy + acz * apz
  let [v, w] = [0, 0]
  if (d1 > 0 || d2 > 0) {
    const bb = abx * abx + aby * aby + abz * abz
    const cc = acx * acx + acy * acy + acz * acz
    const bc = abx * acx + aby * acy + abz * acz
    const [d3, d4, d5, d6] = [d1 - bb, d2 - bc, d1 - bc, d2 - cc]
    const vc = d1 * d4 - d3 * d2
    const vb = d5 * d2 - d1 * d6
    const va = d3 * d6 - d5 * d4
    if (d3 >= 0 && d4 <= d3) v = 1
    else if (d6 >= 0 && d5 <= d6) w = 1
    else if (vc <= 0 && d1 >= 0 && d3 <= 0) v = d1 / (d1 - d3)
    else if (vb <= 0 && d2 >= 0 && d6 <= 0) w = d2 / (d2 - d6)
    else if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
      w = (d4 - d3) / (d4 - d3 + (d5 - d6))
      v = 1 - w
    } else {
      const s = va + vb + vc
      v = vb / s
      w = vc / s
    }
  }
  at.x = ax + v * abx + w * acx
  at.y = ay + v * aby + w * acy
  at.z = az + v * abz + w * acz
  const [dx, dy, dz] = [x - at.x, y - at.y, z - at.z]
  return dx * dx + dy * dy + dz * dz
}

/** How far along a ray a triangle is met; NaN where it is not (Moeller and Trumbore 1997; from memory). */
export function throughTriangle(
  p: Float64Array,
  o: number,
  x: number,
  y: number,
  z: number,
  ux: number,
  uy: number,
  uz: number,
): number {
  const [ax, ay, az] = [p[o]!, p[o + 1]!, p[o + 2]!]
  const [bx, by, bz] = [p[o + 3]! - ax, p[o + 4]! - ay, p[o + 5]! - az]
  const [cx, cy, cz] = [p[o + 6]! - ax, p[o + 7]! - ay, p[o + 8]! - az]
  const [hx, hy, hz] = [uy * cz - uz * cy, uz * cx - ux * cz, ux * cy - uy * cx]
  const det = bx * hx + by * hy + bz * hz
  if (Math.abs(det) < 1e-14) return Number.NaN
  const [sx, sy, sz] = [x - ax, y - ay, z - az]
  const v = (sx * hx + sy * hy + sz * hz) / det
  if (v < -1e-9 || v > 1 + 1e-9) return Number.NaN
  const [qx, qy, qz] = [sy * bz - sz * by, sz * bx - sx * bz, sx * by - sy * bx]
  const w = (ux * qx + uy * qy + uz * qz) / det
  if (w < -1e-9 || v + w > 1 + 1e-9) return Number.NaN
  return (cx * qx + cy * qy + cz * qz) / det
}

/** Squared distance between two triangles, where left in `touch`; 0 where an edge of one goes through the other. */
export function betweenTriangles(p: Float64Array, a: number, q: Float64Array, b: number): number {
  let least = Number.POSITIVE_INFINITY
  const keep = (d: number, x: number[], y: number[]) => {
    if (d >= least) return
    least = d
    ;[touch.at.x, touch.at.y, touch.at.z] = x as [number, number, number]
    ;[touch.to.x, touch.to.y, touch.to.z] = y as [number, number, number]
  }
  for (let k = 0; k < 9; k += 3) {
    const u = [p[a + k]!, p[a + k + 1]!, p[a + k + 2]!] as const
    keep(toTriangle(q, b, ...u), [...u], [at.x, at.y, at.z])
    const v = [q[b + k]!, q[b + k + 1]!, q[b + k + 2]!] as const
    keep(toTriangle(p, a, ...v), [at.x, at.y, at.z], [...v])
  }
  for (let i = 0; i < 9; i += 3) for (let j = 0; j < 9; j += 3) betweenEdges(p, a, i, q, b, j, keep)
  if (least > 0 && (pierces(p, a, q, b) || pierces(q, b, p, a))) {
    least = 0
    touch.to = { ...touch.at }
  }
  return least
}

/** The nearest places of two edges, each of a triangle (Ericson 5.1.9; from memory). */
function betweenEdges(
  p: Float64Array,
  a: number,
  i: number,
  q: Float64Array,
  b: number,
  j: number,
  keep: (d: number, x: number[], y: number[]) => void,
): void {
  const i2 = (i + 3) % 9
  const j2 = (j + 3) % 9
  let [uu, vv, uv, ur, vr] = [0, 0, 0, 0, 0]
  for (let k = 0; k < 3; k++) {
    const u = p[a + i2 + k]! - p[a + i + k]!
    const v = q[b + j2 + k]! - q[b + j + k]!
    const r = p[a + i + k]! - q[b + j + k]!
    uu += u * u
    vv += v * v
    uv += u * v
    ur += u * r
    vr += v * r
  }
  if (uu < 1e-18 || vv < 1e-18) return
  const det = uu * vv - uv * uv
  let s = det > 1e-12 * uu * vv ? Math.min(1, Math.max(0, (uv * vr - ur * vv) / det)) : 0
  let t = (uv * s + vr) / vv
  if (t < 0 || t > 1) {
    t = Math.min(1, Math.max(0, t))
    s = Math.min(1, Math.max(0, (uv * t - ur) / uu))
  }
  const x = [0, 1, 2].map((k) => p[a + i + k]! + s * (p[a + i2 + k]! - p[a + i + k]!))
  const y = [0, 1, 2].map((k) => q[b + j + k]! + t * (q[b + j2 + k]! - q[b + j + k]!))
  keep(
    [0, 1, 2].reduce((sum, k) => sum + (x[k]! - y[k]!) ** 2, 0),
    x,
    y,
  )
}

/** Whether an edge of one triangle goes through the other; where is left in `touch.at`. */
export function pierces(p: Float64Array, a: number, q: Float64Array, b: number): boolean {
  for (let i = 0; i < 9; i += 3) {
    const j = (i + 3) % 9
    const u = [0, 1, 2].map((k) => p[a + j + k]! - p[a + i + k]!) as [number, number, number]
    const t = throughTriangle(q, b, p[a + i]!, p[a + i + 1]!, p[a + i + 2]!, ...u)
    if (!(t >= 0 && t <= 1)) continue
    touch.at = {
      x: p[a + i]! + t * u[0],
      y: p[a + i + 1]! + t * u[1],
      z: p[a + i + 2]! + t * u[2],
    }
    return true
  }
  return false
}
