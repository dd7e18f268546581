import { dot3, type Frame, type P2, type P3, sub3 } from '../math'
import type { TriMesh } from './types'

/**
 * Where a plane cuts a mesh with shared vertices: polylines in the plane's own coordinates, material to
 * their left as seen against its normal. Those of a closed mesh end where they start. A vertex that lies
 * on the plane counts as above it.
 */
export function slice(m: TriMesh, plane: Frame): P2[][] {
  const { positions: p, triangles } = m
  const n = p.length / 3
  const height = new Float64Array(n)
  for (let v = 0; v < n; v++) {
    const off: P3 = [
      p[3 * v]! - plane.origin[0],
      p[3 * v + 1]! - plane.origin[1],
      p[3 * v + 2]! - plane.origin[2],
    ]
    height[v] = dot3(off, plane.z)
  }
  /** From the edge where a triangle's own segment starts to the one where it ends; edges by their two vertices. */
  const next = new Map<string, { to: string; from: P2; at: P2 }[]>()
  const ends = new Set<string>()
  const cross = (a: number, b: number): P2 => {
    const f = height[a]! / (height[a]! - height[b]!)
    const at = [0, 1, 2].map((k) => p[3 * a + k]! + f * (p[3 * b + k]! - p[3 * a + k]!))
    const off = sub3(at as unknown as P3, plane.origin)
    return [dot3(off, plane.x), dot3(off, plane.y)]
  }
  const key = (a: number, b: number) => (a < b ? `${a} ${b}` : `${b} ${a}`)
  for (let i = 0; i < triangles.length; i += 3) {
    let [up, down] = [-1, -1]
    for (let k = 0; k < 3; k++) {
      const [a, b] = [triangles[i + k]!, triangles[i + ((k + 1) % 3)]!]
      if (height[a]! >= 0 && height[b]! < 0) down = k
      if (height[a]! < 0 && height[b]! >= 0) up = k
    }
    if (up < 0) continue
    const edge = (k: number) => [triangles[i + k]!, triangles[i + ((k + 1) % 3)]!] as const
    // From the side that goes down to the one that goes up: the material stays on the left.
    const [[a, b], [c, d]] = [edge(down), edge(up)]
    const from = key(a, b)
    const to = key(c, d)
    next.set(from, [...(next.get(from) ?? []), { to, from: cross(a, b), at: cross(c, d) }])
    ends.add(to)
  }
  const out: P2[][] = []
  const walk = (start: string) => {
    const line: P2[] = []
    for (let e = start; ; ) {
      const step = next.get(e)?.pop()
      if (!step) break
      if (line.length === 0) line.push(step.from)
      line.push(step.at)
      e = step.to
    }
    if (line.length > 1) out.push(line)
  }
  // Open lines from their beginnings, then what runs round.
  for (const start of next.keys()) if (!ends.has(start)) walk(start)
  for (const start of next.keys()) while (next.get(start)!.length > 0) walk(start)
  return out
}

/** Twice the area of a polyline that ends where it starts, positive where it runs to the left. */
export function twiceArea(loop: readonly P2[]): number {
  let sum = 0
  for (let i = 1; i < loop.length; i++) {
    const [a, b] = [loop[i - 1]!, loop[i]!]
    sum += a[0] * b[1] - b[0] * a[1]
  }
  return sum
}

/** The area of the material a plane cuts of a closed mesh, mm2. */
export const sliceArea = (m: TriMesh, plane: Frame): number =>
  slice(m, plane).reduce((sum, loop) => sum + twiceArea(loop) / 2, 0)
