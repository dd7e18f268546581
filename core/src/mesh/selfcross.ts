import { cross3, dot3, type P3, sub3, unit3 } from '../math'
import { pierces, touch } from './triangle'
import type { TriMesh } from './types'

/**
 * Where a mesh with shared vertices goes through itself; null where it does not. Triangles that share a vertex are neighbours and
 * not looked at; the others are met in the order of where they begin along x. Two that go no deeper than `deep` (mm) through each
 * other's plane are as near as triangles are to what they show.
 */
export function selfCrossing({ positions: p, triangles: t }: TriMesh, deep = 0): P3 | null {
  const n = t.length / 3
  const corners = new Float64Array(9 * n)
  const box = new Float64Array(6 * n)
  for (let i = 0; i < n; i++)
    for (let k = 0; k < 3; k++) {
      const [a, b, c] = [
        p[3 * t[3 * i]! + k]!,
        p[3 * t[3 * i + 1]! + k]!,
        p[3 * t[3 * i + 2]! + k]!,
      ]
      corners[9 * i + k] = a
      corners[9 * i + 3 + k] = b
      corners[9 * i + 6 + k] = c
      box[6 * i + k] = Math.min(a, b, c)
      box[6 * i + 3 + k] = Math.max(a, b, c)
    }
  const order = Uint32Array.from({ length: n }, (_, i) => i).sort(
    (a, b) => box[6 * a]! - box[6 * b]!,
  )
  for (let x = 0; x < n; x++) {
    const i = order[x]!
    const end = box[6 * i + 3]!
    for (let y = x + 1; y < n; y++) {
      const j = order[y]!
      if (box[6 * j]! > end) break
      if (box[6 * j + 1]! > box[6 * i + 4]! || box[6 * i + 1]! > box[6 * j + 4]!) continue
      if (box[6 * j + 2]! > box[6 * i + 5]! || box[6 * i + 2]! > box[6 * j + 5]!) continue
      if (neighbours(t, i, j)) continue
      if (!pierces(corners, 9 * i, corners, 9 * j) && !pierces(corners, 9 * j, corners, 9 * i))
        continue
      if (depth(corners, 9 * i, 9 * j) > deep && depth(corners, 9 * j, 9 * i) > deep)
        return [touch.at.x, touch.at.y, touch.at.z]
    }
  }
  return null
}

/** How deep the corners of a triangle reach through the plane of another, to the side where they reach less, mm. */
function depth(c: Float64Array, one: number, other: number): number {
  const at = (o: number): P3 => [c[o]!, c[o + 1]!, c[o + 2]!]
  const from = at(other)
  const n = unit3(cross3(sub3(at(other + 3), from), sub3(at(other + 6), from)))
  const over = [0, 3, 6].map((k) => dot3(sub3(at(one + k), from), n))
  return Math.min(Math.max(...over), -Math.min(...over))
}

function neighbours(t: Uint32Array, i: number, j: number): boolean {
  for (let a = 0; a < 3; a++)
    for (let b = 0; b < 3; b++) if (t[3 * i + a] === t[3 * j + b]) return true
  return false
}
