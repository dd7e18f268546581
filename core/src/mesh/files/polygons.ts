import earcut from 'earcut'
import { add3, cross3, dot3, type P3, placeAt, sub3 } from '../../math'
import type { TriMesh } from '../types'

/** A mesh of faces of any number of corners, which count places from 0; corners that lie on each other are one. */
export const ofPolygons = (
  positions: readonly number[],
  faces: readonly (readonly number[])[],
): TriMesh =>
  weldSame(
    onlyUsed(
      positions,
      faces.flatMap((f) => parted(positions, f)),
    ),
  )

/** A face as triangles: one of many corners, which may turn in, is parted in the plane it looks out of most. */
function parted(all: readonly number[], face: readonly number[]): number[] {
  if (face.length < 3) return []
  if (face.length === 3) return [...face]
  const at = (c: number) => placeAt(all, c)
  let out: P3 = [0, 0, 0]
  for (const [i, c] of face.entries())
    out = add3(out, cross3(at(c), at(face[(i + 1) % face.length]!)))
  const size = out.map(Math.abs)
  const away = size.indexOf(Math.max(...size))
  const [u, v] = [0, 1, 2].filter((k) => k !== away) as [0 | 1 | 2, 0 | 1 | 2]
  const found = earcut(face.flatMap((c) => [at(c)[u], at(c)[v]]))
  // It gives triangles of either turn: they are to look where the face looks.
  return found.flatMap((_, i) => {
    if (i % 3 !== 0) return []
    const [a, b, c] = [0, 1, 2].map((k) => face[found[i + k]!]!) as [number, number, number]
    const n = cross3(sub3(at(b), at(a)), sub3(at(c), at(a)))
    return dot3(n, out) >= 0 ? [a, b, c] : [a, c, b]
  })
}

/** The mesh with corners at equal places as one, in the precision they have. */
function weldSame({ positions: p, triangles }: TriMesh): TriMesh {
  const index = new Map<string, number>()
  const to = Array.from({ length: p.length / 3 }, (_, v) => {
    const key = placeAt(p, v).join()
    if (!index.has(key)) index.set(key, v)
    return index.get(key)!
  })
  return onlyUsed(
    Array.from(p),
    Array.from(triangles, (v) => to[v]!),
  )
}

/** A mesh of the vertices its triangles use, out of a longer list. */
function onlyUsed(all: readonly number[], triangles: readonly number[]): TriMesh {
  const at = new Map<number, number>()
  const positions: number[] = []
  const numbered = triangles.map((v) => {
    const known = at.get(v)
    if (known !== undefined) return known
    const i = positions.push(all[3 * v]!, all[3 * v + 1]!, all[3 * v + 2]!) / 3 - 1
    at.set(v, i)
    return i
  })
  return { positions: Float64Array.from(positions), triangles: Uint32Array.from(numbered) }
}
