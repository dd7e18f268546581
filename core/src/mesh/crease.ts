import type { TriMesh } from './measure'

/** A mesh to be shown: smooth within its faces, with its sharp edges as line segments. */
export interface CreasedMesh {
  positions: Float32Array
  normals: Float32Array
  triangles: Uint32Array
  /** Six numbers a segment. */
  lines: Float32Array
}

/**
 * Splits the vertices of a welded mesh where neighbouring triangles turn by more than `angle` (rad),
 * so that each side has its own normal; those edges become the lines.
 */
export function creased(m: TriMesh, angle: number): CreasedMesh {
  const n = m.triangles.length / 3
  const facets = facetNormals(m)
  const around: number[][] = Array.from({ length: m.positions.length / 3 }, () => [])
  for (let t = 0; t < n; t++) for (let k = 0; k < 3; k++) around[m.triangles[3 * t + k]!]!.push(t)
  const least = Math.cos(angle)
  const turn = (a: number, b: number) =>
    facets[3 * a]! * facets[3 * b]! +
    facets[3 * a + 1]! * facets[3 * b + 1]! +
    facets[3 * a + 2]! * facets[3 * b + 2]!
  const positions = new Float32Array(9 * n)
  const normals = new Float32Array(9 * n)
  for (let t = 0; t < n; t++) {
    for (let k = 0; k < 3; k++) {
      const v = m.triangles[3 * t + k]!
      const at = 3 * (3 * t + k)
      const sum = [0, 0, 0]
      // Facet normals carry no area weight: coarse and fine triangles of one face count alike.
      for (const o of around[v]!)
        if (turn(t, o) >= least) for (let j = 0; j < 3; j++) sum[j]! += facets[3 * o + j]!
      const length = Math.hypot(sum[0]!, sum[1]!, sum[2]!) || 1
      for (let j = 0; j < 3; j++) {
        positions[at + j] = m.positions[3 * v + j]!
        normals[at + j] = sum[j]! / length
      }
    }
  }
  return {
    positions,
    normals,
    triangles: Uint32Array.from({ length: 3 * n }, (_, i) => i),
    lines: sharpLines(m, (a, b) => turn(a, b) < least),
  }
}

function facetNormals({ positions: p, triangles }: TriMesh): Float64Array {
  const out = new Float64Array(triangles.length)
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [3 * triangles[i]!, 3 * triangles[i + 1]!, 3 * triangles[i + 2]!]
    const u = [0, 1, 2].map((k) => p[b + k]! - p[a + k]!) as [number, number, number]
    const v = [0, 1, 2].map((k) => p[c + k]! - p[a + k]!) as [number, number, number]
    const x = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
    const length = Math.hypot(x[0]!, x[1]!, x[2]!) || 1
    for (let k = 0; k < 3; k++) out[i + k] = x[k]! / length
  }
  return out
}

/** Edges with one triangle only, or with two that `sharp` says meet at a crease. */
function sharpLines(m: TriMesh, sharp: (a: number, b: number) => boolean): Float32Array {
  const sides = new Map<string, { ends: [number, number]; of: number[] }>()
  for (let i = 0; i < m.triangles.length; i += 3) {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [m.triangles[i + k]!, m.triangles[i + ((k + 1) % 3)]!]
      const key = a < b ? `${a}-${b}` : `${b}-${a}`
      const side = sides.get(key) ?? { ends: [a, b], of: [] }
      side.of.push(i / 3)
      sides.set(key, side)
    }
  }
  const out: number[] = []
  for (const { ends, of } of sides.values()) {
    if (of.length === 2 && !sharp(of[0]!, of[1]!)) continue
    for (const v of ends) for (let j = 0; j < 3; j++) out.push(m.positions[3 * v + j]!)
  }
  return Float32Array.from(out)
}
