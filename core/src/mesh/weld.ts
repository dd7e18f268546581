import type { TriMesh } from './measure'

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
