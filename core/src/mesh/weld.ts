import { countEdges } from './edges'
import type { TriMesh } from './types'

/** Joins vertices with equal coordinates; triangles that become slivers of no area are dropped. */
export function weld(soup: Float32Array): TriMesh {
  const index = new Map<string, number>()
  const positions: number[] = []
  const triangles: number[] = []
  const at = (i: number): number => {
    const key = `${soup[i]},${soup[i + 1]},${soup[i + 2]}`
    const known = index.get(key)
    if (known !== undefined) return known
    const n = positions.push(soup[i]!, soup[i + 1]!, soup[i + 2]!) / 3 - 1
    index.set(key, n)
    return n
  }
  for (let i = 0; i + 8 < soup.length; i += 9) {
    const [a, b, c] = [at(i), at(i + 3), at(i + 6)]
    if (a !== b && b !== c && a !== c) triangles.push(a, b, c)
  }
  return { positions: Float32Array.from(positions), triangles: Uint32Array.from(triangles) }
}

/** The same for triangles that index their vertices, such as those of faces meshed one by one. */
export function weldIndexed(m: TriMesh): TriMesh {
  const soup = new Float32Array(3 * m.triangles.length)
  for (let i = 0; i < m.triangles.length; i++)
    for (let k = 0; k < 3; k++) soup[3 * i + k] = m.positions[3 * m.triangles[i]! + k]!
  return weld(soup)
}

/** Seams this near, as a share of the mesh's size, are one seam written with rounded numbers. */
const SEAM = 1e-6

/**
 * A mesh whose seams were written with numbers that differ in their last digits, joined there; the mesh
 * itself where that leaves no fewer open edges.
 */
export function closeSeams(m: TriMesh): TriMesh {
  const before = countEdges(m)
  if (before.open === 0) return m
  const p = m.positions
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
  for (const x of p) {
    low = Math.min(low, x)
    high = Math.max(high, x)
  }
  const cell = SEAM * (high - low)
  const grid = new Map<string, number>()
  const to = new Uint32Array(p.length / 3)
  for (let v = 0; v < to.length; v++) to[v] = nearestOn(grid, p, v, cell)
  const triangles: number[] = []
  for (let i = 0; i < m.triangles.length; i += 3) {
    const [a, b, c] = [to[m.triangles[i]!]!, to[m.triangles[i + 1]!]!, to[m.triangles[i + 2]!]!]
    if (a !== b && b !== c && a !== c) triangles.push(a, b, c)
  }
  const joined = { positions: p, triangles: Uint32Array.from(triangles) }
  return countEdges(joined).open < before.open ? joined : m
}

/** The first vertex that came to lie within a cell's width of this one, or this one itself. */
function nearestOn(
  grid: Map<string, number>,
  p: TriMesh['positions'],
  v: number,
  cell: number,
): number {
  const [x, y, z] = [0, 1, 2].map((k) => Math.floor(p[3 * v + k]! / cell)) as [
    number,
    number,
    number,
  ]
  for (let i = -1; i <= 1; i++)
    for (let j = -1; j <= 1; j++)
      for (let k = -1; k <= 1; k++) {
        const w = grid.get(`${x + i},${y + j},${z + k}`)
        if (w === undefined) continue
        const off = [0, 1, 2].map((n) => p[3 * v + n]! - p[3 * w + n]!)
        if (Math.hypot(...off) <= cell) return w
      }
  grid.set(`${x},${y},${z}`, v)
  return v
}
