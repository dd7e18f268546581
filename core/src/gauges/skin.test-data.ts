import type { P3 } from '../math'
import type { Skin } from '.'

/** A surface as a grid of triangles with its own normals. */
export function grid(
  n: number,
  m: number,
  place: (u: number, v: number) => P3,
  normal: (u: number, v: number) => P3,
): Skin {
  const positions: number[] = []
  const normals: number[] = []
  const triangles: number[] = []
  for (let i = 0; i <= n; i++)
    for (let j = 0; j <= m; j++) {
      positions.push(...place(i / n, j / m))
      normals.push(...normal(i / n, j / m))
    }
  const at = (i: number, j: number) => i * (m + 1) + j
  for (let i = 0; i < n; i++)
    for (let j = 0; j < m; j++)
      triangles.push(
        at(i, j),
        at(i + 1, j),
        at(i + 1, j + 1),
        at(i, j),
        at(i + 1, j + 1),
        at(i, j + 1),
      )
  return {
    positions: Float32Array.from(positions),
    normals: Float32Array.from(normals),
    triangles: Uint32Array.from(triangles),
  }
}
