import type { TriMesh } from './types'

/** Triangles in a leaf at most. */
const LEAF = 6

/** The nearest place of a mesh, or the first along a ray; filled in by the searches. */
export interface Hit {
  triangle: number
  /** Distance from what was asked, mm. */
  d: number
  x: number
  y: number
  z: number
}
export const noHit = (): Hit => ({ triangle: -1, d: Number.POSITIVE_INFINITY, x: 0, y: 0, z: 0 })

/** Boxes about the triangles of a mesh, halved again and again: places and rays are looked up in it. */
export class MeshTree {
  /** Corners of the triangles in the tree's own order, nine numbers each. */
  readonly corners: Float64Array
  /** The mesh's number of each of them. */
  readonly order: Uint32Array
  /** Six numbers a node: least and greatest corner. */
  readonly boxes: Float64Array
  /** Of a node: its first triangle and their count, or the second child and 0; the first child follows it. */
  readonly #first: Uint32Array
  readonly #count: Uint32Array
  readonly #stack = new Int32Array(128)
  #nodes = 0

  constructor({ positions: p, triangles: t }: TriMesh) {
    const n = t.length / 3
    this.corners = new Float64Array(9 * n)
    this.order = Uint32Array.from({ length: n }, (_, i) => i)
    this.boxes = new Float64Array(12 * Math.max(1, n))
    this.#first = new Uint32Array(2 * Math.max(1, n))
    this.#count = new Uint32Array(2 * Math.max(1, n))
    const middles = new Float64Array(3 * n)
    for (let i = 0; i < n; i++)
      for (let k = 0; k < 3; k++) {
        const [a, b, c] = [
          p[3 * t[3 * i]! + k]!,
          p[3 * t[3 * i + 1]! + k]!,
          p[3 * t[3 * i + 2]! + k]!,
        ]
        middles[3 * i + k] = Math.min(a, b, c) + Math.max(a, b, c)
      }
    const corner = (i: number, k: number) => p[3 * t[i]! + k]!
    if (n > 0) this.#split(0, n, middles, corner)
    for (let i = 0; i < n; i++)
      for (let k = 0; k < 9; k++)
        this.corners[9 * i + k] = corner(3 * this.order[i]! + Math.floor(k / 3), k % 3)
  }

  #split(
    from: number,
    to: number,
    middles: Float64Array,
    corner: (i: number, k: number) => number,
  ): number {
    const node = this.#nodes++
    const box = 6 * node
    for (let k = 0; k < 3; k++) {
      let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
      for (let i = from; i < to; i++)
        for (let c = 0; c < 3; c++) {
          const x = corner(3 * this.order[i]! + c, k)
          if (x < low) low = x
          if (x > high) high = x
        }
      this.boxes[box + k] = low
      this.boxes[box + 3 + k] = high
    }
    if (to - from <= LEAF) {
      this.#first[node] = from
      this.#count[node] = to - from
      return node
    }
    let axis = 0
    for (let k = 1; k < 3; k++)
      if (
        this.boxes[box + 3 + k]! - this.boxes[box + k]! >
        this.boxes[box + 3 + axis]! - this.boxes[box + axis]!
      )
        axis = k
    const own = this.order.subarray(from, to)
    own.sort((a, b) => middles[3 * a + axis]! - middles[3 * b + axis]!)
    const half = (from + to) >> 1
    this.#split(from, half, middles, corner)
    this.#first[node] = this.#split(half, to, middles, corner)
    return node
  }

  /** Squared distance from a place to a node's box. */
  #away(node: number, x: number, y: number, z: number): number {
    const b = this.boxes
    const o = 6 * node
    const dx = Math.max(b[o]! - x, 0, x - b[o + 3]!)
    const dy = Math.max(b[o + 1]! - y, 0, y - b[o + 4]!)
    const dz = Math.max(b[o + 2]! - z, 0, z - b[o + 5]!)
    return dx * dx + dy * dy + dz * dz
  }

  /** The nearest place to (x, y, z) nearer than `within` mm, triangle `skip` left out. False where there is none. */
  nearest(x: number, y: number, z: number, within: number, skip: number, hit: Hit): boolean {
    let best = within * within
    let found = false
    const stack = this.#stack
    let top = 0
    stack[top++] = 0
    while (top > 0) {
      const node = stack[--top]!
      if (this.#away(node, x, y, z) >= best) continue
      const count = this.#count[node]!
      if (count === 0) {
        const [a, b] = [node + 1, this.#first[node]!]
        // The nearer one is looked into first.
        const near = this.#away(a, x, y, z) <= this.#away(b, x, y, z)
        stack[top++] = near ? b : a
        stack[top++] = near ? a : b
        continue
      }
      const first = this.#first[node]!
      for (let i = first; i < first + count; i++) {
        if (this.order[i] === skip) continue
        const d = toTriangle(this.corners, 9 * i, x, y, z)
        if (d >= best) continue
        best = d
        found = true
        hit.triangle = this.order[i]!
        hit.x = at.x
        hit.y = at.y
        hit.z = at.z
      }
    }
    if (found) hit.d = Math.sqrt(best)
    return found
  }

  /** The first place along a ray from (x, y, z), beyond `from` mm and before `within`. False where there is none. */
  along(
    x: number,
    y: number,
    z: number,
    ux: number,
    uy: number,
    uz: number,
    from: number,
    within: number,
    hit: Hit,
  ): boolean {
    let best = within
    let found = false
    const stack = this.#stack
    let top = 0
    stack[top++] = 0
    while (top > 0) {
      const node = stack[--top]!
      if (!this.#meets(node, x, y, z, ux, uy, uz, best)) continue
      const count = this.#count[node]!
      if (count === 0) {
        stack[top++] = node + 1
        stack[top++] = this.#first[node]!
        continue
      }
      const first = this.#first[node]!
      for (let i = first; i < first + count; i++) {
        const t = throughTriangle(this.corners, 9 * i, x, y, z, ux, uy, uz)
        if (!(t > from && t < best)) continue
        best = t
        found = true
        hit.triangle = this.order[i]!
      }
    }
    if (found) {
      hit.d = best
      hit.x = x + best * ux
      hit.y = y + best * uy
      hit.z = z + best * uz
    }
    return found
  }

  #meets(
    node: number,
    x: number,
    y: number,
    z: number,
    ux: number,
    uy: number,
    uz: number,
    within: number,
  ): boolean {
    const b = this.boxes
    const o = 6 * node
    let [low, high] = [0, within]
    for (let k = 0; k < 3; k++) {
      const p = k === 0 ? x : k === 1 ? y : z
      const u = k === 0 ? ux : k === 1 ? uy : uz
      if (Math.abs(u) < 1e-15) {
        if (p < b[o + k]! || p > b[o + 3 + k]!) return false
        continue
      }
      const s = (b[o + k]! - p) / u
      const t = (b[o + 3 + k]! - p) / u
      if (Math.min(s, t) > low) low = Math.min(s, t)
      if (Math.max(s, t) < high) high = Math.max(s, t)
      if (low > high + 1e-9) return false
    }
    return true
  }

  /** The least distance to another mesh, as far as `most` mm, and where on either; 0 where they touch or cross. */
  gap(other: MeshTree, most: number): { d: number; at: Hit; to: Hit } | null {
    const pairs: [number, number][] = [[0, 0]]
    let best: { d: number; at: Hit; to: Hit } | null = null
    let least = most * most
    while (pairs.length > 0) {
      const [a, b] = pairs.pop()!
      if (this.#between(a, other, b) >= least) continue
      const [m, n] = [this.#count[a]!, other.#count[b]!]
      if (m > 0 && n > 0) {
        for (let i = this.#first[a]!; i < this.#first[a]! + m; i++)
          for (let j = other.#first[b]!; j < other.#first[b]! + n; j++) {
            const d = betweenTriangles(this.corners, 9 * i, other.corners, 9 * j)
            if (d >= least && !(d === 0 && !best)) continue
            least = d
            const at = { ...noHit(), ...touch.at, triangle: this.order[i]!, d: Math.sqrt(d) }
            const to = { ...noHit(), ...touch.to, triangle: other.order[j]!, d: Math.sqrt(d) }
            best = { d: Math.sqrt(d), at, to }
            if (d === 0) return best
          }
        continue
      }
      // The larger one is taken apart, its nearer half looked into first.
      const own = n > 0 || (m === 0 && this.#size(a) >= other.#size(b))
      const halves: [number, number][] = own
        ? [
            [a + 1, b],
            [this.#first[a]!, b],
          ]
        : [
            [a, b + 1],
            [a, other.#first[b]!],
          ]
      halves.sort((p, q) => this.#between(q[0], other, q[1]) - this.#between(p[0], other, p[1]))
      pairs.push(...halves)
    }
    return best
  }

  #size(node: number): number {
    const o = 6 * node
    return [0, 1, 2].reduce((sum, k) => sum + this.boxes[o + 3 + k]! - this.boxes[o + k]!, 0)
  }
  #between(a: number, other: MeshTree, b: number): number {
    let sum = 0
    for (let k = 0; k < 3; k++) {
      const d = Math.max(
        this.boxes[6 * a + k]! - other.boxes[6 * b + 3 + k]!,
        0,
        other.boxes[6 * b + k]! - this.boxes[6 * a + 3 + k]!,
      )
      sum += d * d
    }
    return sum
  }
}

/** Where the last search of one triangle ended. */
const at = { x: 0, y: 0, z: 0 }
const touch = { at: { x: 0, y: 0, z: 0 }, to: { x: 0, y: 0, z: 0 } }

/**
 * Squared distance of a place to a triangle, the nearest place left in `at`. Regions of corners and edges by
 * barycentric signs (Ericson, Real-Time Collision Detection, 5.1.5; from memory).
 */
function toTriangle(p: Float64Array, o: number, x: number, y: number, z: number): number {
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
function throughTriangle(
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
function betweenTriangles(p: Float64Array, a: number, q: Float64Array, b: number): number {
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
function pierces(p: Float64Array, a: number, q: Float64Array, b: number): boolean {
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
