import type { P3 } from '../math'
import type { TriMesh } from './types'

/** How the edges of a mesh stand; all counts are 0 where it is closed and touches itself nowhere. */
export interface EdgeCount {
  /** Edges with one triangle only. */
  open: number
  /** Edges with more than two triangles. */
  many: number
  /** Edges whose triangles run the same way, so that one of them is inside out. */
  alike: number
  /** Middles of the first faulty edges, open ones first, mm. */
  places: P3[]
}

/** Places kept at most. */
const PLACES = 4
/** Vertices that a sortable edge key has room for: two numbers and a bit within 2^53. */
const MOST = 2 ** 26

/**
 * Counts the edges of a mesh that do not part exactly two triangles running opposite ways. Triangles
 * with a vertex twice have no area and are passed over.
 */
export function countEdges({ positions, triangles }: TriMesh): EdgeCount {
  const n = positions.length / 3
  if (n > MOST) throw new RangeError(`countEdges: ${n} vertices are too many`)
  const keys = new Float64Array(triangles.length)
  let used = 0
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [triangles[i]!, triangles[i + 1]!, triangles[i + 2]!]
    if (a === b || b === c || a === c) continue
    keys[used++] = edgeKey(a, b, n)
    keys[used++] = edgeKey(b, c, n)
    keys[used++] = edgeKey(c, a, n)
  }
  const sorted = keys.subarray(0, used).sort()
  const out: EdgeCount = { open: 0, many: 0, alike: 0, places: [] }
  const spare: P3[] = []
  const middle = (key: number): P3 => {
    const [a, b] = [3 * Math.floor(key / n), 3 * (key % n)]
    return [0, 1, 2].map((k) => (positions[a + k]! + positions[b + k]!) / 2) as unknown as P3
  }
  for (let i = 0; i < used; ) {
    const edge = Math.floor(sorted[i]! / 2)
    let forward = 0
    let count = 0
    for (; i < used && Math.floor(sorted[i]! / 2) === edge; i++, count++) forward += sorted[i]! % 2
    if (count === 1) {
      out.open++
      if (out.places.length < PLACES) out.places.push(middle(edge))
      continue
    }
    const many = count > 2
    const alike = 2 * forward !== count
    if (many) out.many++
    if (alike) out.alike++
    if ((many || alike) && spare.length < PLACES) spare.push(middle(edge))
  }
  out.places.push(...spare.slice(0, PLACES - out.places.length))
  return out
}

/** One number for an edge and its direction: twice (lower vertex, upper vertex), odd when run upwards. */
const edgeKey = (a: number, b: number, n: number): number =>
  a < b ? 2 * (a * n + b) + 1 : 2 * (b * n + a)

/** Whether every edge has as many triangles running one way as the other: no way in or out. */
export const closedBy = (e: EdgeCount): boolean => e.open === 0 && e.alike === 0

/** In words what keeps a mesh from being closed or simple; empty where nothing does. */
export function edgeWords(e: EdgeCount): string {
  const edges = (n: number) => `${n} edge${n === 1 ? '' : 's'}`
  return [
    e.open && `${edges(e.open)} with one side open`,
    e.many && `${edges(e.many)} where more than two triangles meet`,
    e.alike && `${edges(e.alike)} with a triangle inside out`,
  ]
    .filter(Boolean)
    .join(', ')
}
