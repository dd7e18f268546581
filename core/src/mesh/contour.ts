import type { P3 } from '../math'
import type { TriMesh } from './types'

/** A function of space that is negative inside; near its border about the distance to it, mm. */
export interface Field {
  at(x: number, y: number, z: number): number
  /** Whether the border surely does not pass within r of a place: it need not be looked into. */
  plain(x: number, y: number, z: number, r: number): boolean
}

/** Cells along the side of a block that is looked into as a whole. */
const LEAF = 4
/** A crossing stays this share of its edge away from the ends: no triangle is without area. */
const CLEAR = 1e-3

/**
 * The border of a field as a closed mesh, its triangles facing out of the inside: the cells of a grid are
 * parted into six tetrahedra along their main diagonal, and each is crossed by one or two triangles
 * (marching tetrahedra; Doi and Koide 1991). Blocks in which nothing happens are passed over.
 */
export function contour(field: Field, bounds: { min: P3; max: P3 }, cell: number): TriMesh {
  const from = bounds.min.map((x) => x - 2.5 * LEAF * cell) as unknown as P3
  const count = [0, 1, 2].map(
    (k) => LEAF * Math.ceil((bounds.max[k]! - bounds.min[k]!) / (LEAF * cell) + 5),
  ) as [number, number, number]
  return new Walk(field, from, count, cell).mesh()
}

class Walk {
  readonly #field: Field
  readonly #from: P3
  readonly #count: [number, number, number]
  readonly #cell: number
  readonly #values = new Map<number, number>()
  readonly #vertices = new Map<number, number>()
  readonly #positions: number[] = []
  readonly #triangles: number[] = []

  constructor(field: Field, from: P3, count: [number, number, number], cell: number) {
    this.#field = field
    this.#from = from
    this.#count = count
    this.#cell = cell
  }

  mesh(): TriMesh {
    const [nx, ny, nz] = this.#count
    let side = LEAF
    while (side < Math.max(nx, ny, nz)) side *= 2
    this.#block(0, 0, 0, side)
    return {
      positions: Float64Array.from(this.#positions),
      triangles: Uint32Array.from(this.#triangles),
    }
  }

  #block(i: number, j: number, k: number, side: number): void {
    const [nx, ny, nz] = this.#count
    if (i >= nx || j >= ny || k >= nz) return
    const half = (side * this.#cell) / 2
    const [x, y, z] = this.#place(i, j, k)
    if (this.#field.plain(x + half, y + half, z + half, half * Math.sqrt(3) * 1.001)) return
    if (side > LEAF) {
      const s = side / 2
      for (let c = 0; c < 8; c++)
        this.#block(i + s * (c & 1), j + s * ((c >> 1) & 1), k + s * ((c >> 2) & 1), s)
      return
    }
    for (let a = 0; a < side; a++)
      for (let b = 0; b < side; b++) for (let c = 0; c < side; c++) this.#cube(i + a, j + b, k + c)
  }

  #place(i: number, j: number, k: number): P3 {
    const { x, y, z } = { x: this.#from[0], y: this.#from[1], z: this.#from[2] }
    return [x + i * this.#cell, y + j * this.#cell, z + k * this.#cell]
  }
  #number(i: number, j: number, k: number): number {
    const [nx, ny] = this.#count
    return i + (nx + 1) * (j + (ny + 1) * k)
  }
  #value(i: number, j: number, k: number): number {
    const n = this.#number(i, j, k)
    let v = this.#values.get(n)
    if (v === undefined) {
      v = this.#field.at(...this.#place(i, j, k))
      this.#values.set(n, v)
    }
    return v
  }

  #cube(i: number, j: number, k: number): void {
    const v = CORNERS.map(([a, b, c]) => this.#value(i + a, j + b, k + c))
    const inside = v.map((x) => x < 0)
    if (inside.every((x) => x === inside[0])) return
    for (const tet of TETS) {
      const low = tet.filter((c) => inside[c])
      const high = tet.filter((c) => !inside[c])
      if (low.length === 0 || high.length === 0) continue
      const cross = (a: number, b: number) => this.#crossing(i, j, k, a, b, v[a]!, v[b]!)
      if (low.length === 2) {
        const [p, q] = low as [number, number]
        const [r, s] = high as [number, number]
        const ring = [
          [p, r],
          [p, s],
          [q, s],
          [q, r],
        ] as const
        const [a, b, c, d] = ring.map(([x, y]) => cross(x, y)) as [number, number, number, number]
        const out = facing(ring, low, high)
        if (out) this.#triangles.push(a, b, c, a, c, d)
        else this.#triangles.push(a, c, b, a, d, c)
        continue
      }
      const [own] = low.length === 1 ? low : high
      const others = low.length === 1 ? high : low
      const ring = others.map((o) => [own!, o] as const)
      const [a, b, c] = ring.map(([x, y]) => cross(x, y)) as [number, number, number]
      if (facing(ring, low, high)) this.#triangles.push(a, b, c)
      else this.#triangles.push(a, c, b)
    }
  }

  /** The vertex where the border crosses the edge between two corners of a cube. */
  #crossing(i: number, j: number, k: number, a: number, b: number, va: number, vb: number): number {
    // Edges run from the lower corner to the higher: their direction is one of seven.
    const [p, q, vp, vq] = a < b ? [a, b, va, vb] : [b, a, vb, va]
    const [pi, pj, pk] = CORNERS[p]!
    const key = 8 * this.#number(i + pi, j + pj, k + pk) + (q ^ p)
    const known = this.#vertices.get(key)
    if (known !== undefined) return known
    const A = this.#place(i + pi, j + pj, k + pk)
    const [qi, qj, qk] = CORNERS[q]!
    const B = this.#place(i + qi, j + qj, k + qk)
    let t = vp / (vp - vq)
    // The field is a distance and nearly straight: one more look at where it seems to be 0.
    const m = this.#field.at(
      A[0] + t * (B[0] - A[0]),
      A[1] + t * (B[1] - A[1]),
      A[2] + t * (B[2] - A[2]),
    )
    t = m < 0 === vp < 0 ? t + (1 - t) * (m / (m - vq)) : t * (vp / (vp - m))
    t = Math.min(1 - CLEAR, Math.max(CLEAR, Number.isFinite(t) ? t : 0.5))
    const n = this.#positions.length / 3
    for (let c = 0; c < 3; c++) this.#positions.push(A[c]! + t * (B[c]! - A[c]!))
    this.#vertices.set(key, n)
    return n
  }
}

/** Corner c of a cube stands at its bits: x the lowest. */
const CORNERS: readonly (readonly [number, number, number])[] = Array.from(
  { length: 8 },
  (_, c) => [c & 1, (c >> 1) & 1, (c >> 2) & 1] as const,
)
/** Six tetrahedra about the diagonal from corner 0 to corner 7, the same in every cube. */
const TETS: readonly (readonly number[])[] = [
  [0, 1, 3, 7],
  [0, 1, 5, 7],
  [0, 2, 3, 7],
  [0, 2, 6, 7],
  [0, 4, 5, 7],
  [0, 4, 6, 7],
]

/** Whether a ring of crossed edges turns so that it faces the corners outside. */
function facing(
  ring: readonly (readonly [number, number])[],
  low: readonly number[],
  high: readonly number[],
): boolean {
  const mid = (list: readonly number[]): P3 =>
    [0, 1, 2].map(
      (k) => list.reduce((s, c) => s + CORNERS[c]![k]!, 0) / list.length,
    ) as unknown as P3
  const [a, b, c] = ring.map((e) => mid(e)) as [P3, P3, P3]
  const [u, v] = [
    [b[0] - a[0], b[1] - a[1], b[2] - a[2]],
    [c[0] - a[0], c[1] - a[1], c[2] - a[2]],
  ] as [P3, P3]
  const [l, h] = [mid(low), mid(high)]
  const n: P3 = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
  return n[0] * (h[0] - l[0]) + n[1] * (h[1] - l[1]) + n[2] * (h[2] - l[2]) > 0
}
