import { at, betweenTriangles, throughTriangle, toTriangle, touch } from './triangle'
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

/** Made once for each mesh. */
const trees = new WeakMap<TriMesh, MeshTree>()
export function treeOf(mesh: TriMesh): MeshTree {
  const known = trees.get(mesh) ?? new MeshTree(mesh)
  trees.set(mesh, known)
  return known
}
