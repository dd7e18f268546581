import { conjugate } from '../math'
import { along, type Region, type SurfaceGrid } from './grid'

/** Rounds at most, and the change of strain over `LOOK` of them below which it has settled. */
const [ROUNDS, LOOK, SETTLED] = [600, 10, 1e-5]
/** The same as a share of the strain. */
const SHARE = 0.01
/** Steps towards what each round asks. */
const STEPS = 40
/** Weights of edges are held above this: in slim triangles they turn over. */
const LEAST = 1e-3

/** What a surface is longer than a flat piece laid on it, as a share (0.01: a percent), where it is least and most. */
export interface Strain {
  low: number
  high: number
}

/** A triangle by its nodes, flat by its own lengths: its edges (from each node to the next), and their weights. */
interface Piece {
  nodes: [number, number, number]
  edges: Float64Array
  weights: [number, number, number]
}

/**
 * The strain of a region of a surface laid flat so that it stretches least; null where its triangles are none (as rigid as possible: each triangle turned, all solved at once, again
 * and again until the strain settles), from a start that unfolds row by row, which is the answer where it unrolls.
 */
export function leastStrain(grid: SurfaceGrid, region: Region, lines: number): Strain | null {
  const us = linesOf(region.u, lines)
  const vs = linesOf(region.v, lines)
  const [m, n] = [us.length, vs.length]
  const node = (i: number, j: number) => vs[j]! * grid.columns + us[i]!
  const length = (i: number, j: number, k: number, t: number) => along(grid, node(i, j), node(k, t))
  const pieces: Piece[] = []
  for (let j = 0; j + 1 < n; j++)
    for (let i = 0; i + 1 < m; i++) {
      const diagonal = length(i, j, i + 1, j + 1)
      const [a, b] = [j * m + i, (j + 1) * m + i]
      const low = piece(
        [a, a + 1, b + 1],
        length(i, j, i + 1, j),
        length(i + 1, j, i + 1, j + 1),
        diagonal,
      )
      const high = piece(
        [a, b + 1, b],
        diagonal,
        length(i, j + 1, i + 1, j + 1),
        length(i, j, i, j + 1),
      )
      if (!low || !high) return null
      pieces.push(low, high)
    }
  const at = unfolded(m, n, length)
  relaxed(pieces, at)
  return strainOf(pieces, at)
}

/** So many lines of nodes at most from one to another, both among them. */
function linesOf([from, to]: readonly [number, number], most: number): number[] {
  const count = Math.min(most, to - from + 1)
  return Array.from({ length: count }, (_, k) => from + Math.round((k * (to - from)) / (count - 1)))
}

/** The triangle of three lengths: of its first, second and third edge; null where it has no width. */
function piece(nodes: [number, number, number], a: number, b: number, c: number): Piece | null {
  const x = (a * a + c * c - b * b) / (2 * a)
  const square = c * c - x * x
  if (!(square > 1e-12 * c * c)) return null
  const y = Math.sqrt(square)
  const area = (a * y) / 2
  // The cotangent of the angle over each edge.
  const cot = (p: number, q: number, r: number) =>
    Math.max(LEAST, (q * q + r * r - p * p) / (4 * area))
  return {
    nodes,
    edges: Float64Array.of(a, 0, x - a, y, -x, -y),
    weights: [cot(a, b, c), cot(b, c, a), cot(c, a, b)],
  }
}

type Length = (i: number, j: number, k: number, t: number) => number

/** Unfolds the row in the middle triangle by triangle, then row upon row by the lengths to what lies flat already. */
function unfolded(m: number, n: number, length: Length): Float64Array {
  const at = new Float64Array(2 * m * n)
  const middle = (n - 1) >> 1
  let way = [1, 0] as [number, number]
  for (let i = 1; i < m; i++) {
    const a = middle * m + i - 1
    const step = length(i - 1, middle, i, middle)
    if (i > 1) way = turnedBy(way, bendInRow(i - 1, middle, n, length))
    at[2 * a + 2] = at[2 * a]! + step * way[0]
    at[2 * a + 3] = at[2 * a + 1]! + step * way[1]
  }
  for (const up of [1, -1])
    for (let j = middle; j + up >= 0 && j + up < n; j += up)
      for (let i = 0; i < m; i++) {
        // From two that lie flat: this one's foot, and the next beside it.
        const k = i + 1 < m ? i + 1 : i - 1
        const [foot, beside] = [j * m + i, j * m + k]
        const side = up * Math.sign(k - i)
        place(
          at,
          foot,
          beside,
          length(i, j, i, j + up),
          length(k, j, i, j + up),
          side,
          (j + up) * m + i,
        )
      }
  return at
}

/** By how much a row turns at a node in the flat: what the angles of the triangles above it leave of half a turn, rad. */
function bendInRow(i: number, j: number, n: number, length: Length): number {
  const up = j + 1 < n ? 1 : -1
  const corner = (k: number, t: number, p: number, q: number) => {
    const [a, b, c] = [length(i, j, k, t), length(i, j, p, q), length(k, t, p, q)]
    return Math.acos(Math.max(-1, Math.min(1, (a * a + b * b - c * c) / (2 * a * b))))
  }
  const above = corner(i - 1, j, i, j + up) + corner(i, j + up, i + 1, j)
  return up * (above - Math.PI) * -1
}

const turnedBy = ([x, y]: [number, number], a: number): [number, number] => [
  x * Math.cos(a) - y * Math.sin(a),
  x * Math.sin(a) + y * Math.cos(a),
]

/** Places a node by its distances from two that are placed, to the left (1) or right of the way from the first to the second. */
function place(
  at: Float64Array,
  a: number,
  b: number,
  fromA: number,
  fromB: number,
  side: number,
  into: number,
) {
  const [x, y] = [at[2 * b]! - at[2 * a]!, at[2 * b + 1]! - at[2 * a + 1]!]
  const d = Math.hypot(x, y)
  const along = (fromA * fromA + d * d - fromB * fromB) / (2 * d)
  const off = side * Math.sqrt(Math.max(0, fromA * fromA - along * along))
  at[2 * into] = at[2 * a]! + (x * along - y * off) / d
  at[2 * into + 1] = at[2 * a + 1]! + (y * along + x * off) / d
}

/** Moves the nodes until the strain of the pieces settles. */
function relaxed(pieces: readonly Piece[], at: Float64Array): void {
  const apply = (x: Float64Array) => {
    const out = new Float64Array(x.length)
    for (const { nodes, weights } of pieces)
      for (let e = 0; e < 3; e++) {
        const [a, b, w] = [2 * nodes[e]!, 2 * nodes[(e + 1) % 3]!, weights[e]!]
        for (let k = 0; k < 2; k++) {
          const d = w * (x[b + k]! - x[a + k]!)
          out[a + k]! -= d
          out[b + k]! += d
        }
      }
    return out
  }
  let last = strainOf(pieces, at)
  if (Math.max(last.high, -last.low) < SETTLED) return
  for (let round = 1; round <= ROUNDS; round++) {
    conjugate(apply, turnedEdges(pieces, at), STEPS, 1e-12, at)
    if (round % LOOK > 0) continue
    const now = strainOf(pieces, at)
    const changed = Math.max(Math.abs(now.low - last.low), Math.abs(now.high - last.high))
    if (changed < Math.max(SETTLED, SHARE * (now.high - now.low))) return
    last = now
  }
}

/** What the edges of each piece, turned as it lies now, ask of its nodes. */
function turnedEdges(pieces: readonly Piece[], at: Float64Array): Float64Array {
  const out = new Float64Array(at.length)
  for (const { nodes, edges, weights } of pieces) {
    let [cos, sin] = [0, 0]
    for (let e = 0; e < 3; e++) {
      const [a, b] = [2 * nodes[e]!, 2 * nodes[(e + 1) % 3]!]
      const [x, y, w] = [edges[2 * e]!, edges[2 * e + 1]!, weights[e]!]
      const [u, v] = [at[b]! - at[a]!, at[b + 1]! - at[a + 1]!]
      cos += w * (x * u + y * v)
      sin += w * (x * v - y * u)
    }
    const size = Math.hypot(cos, sin) || 1
    for (let e = 0; e < 3; e++) {
      const [a, b] = [2 * nodes[e]!, 2 * nodes[(e + 1) % 3]!]
      const [x, y, w] = [edges[2 * e]!, edges[2 * e + 1]!, weights[e]!]
      const p = (w * (cos * x - sin * y)) / size
      const q = (w * (sin * x + cos * y)) / size
      out[a]! -= p
      out[a + 1]! -= q
      out[b]! += p
      out[b + 1]! += q
    }
  }
  return out
}

/** What the surface is longer than the flat pieces, as a share, where it is least and most: by the singular values of each. */
function strainOf(pieces: readonly Piece[], at: Float64Array): Strain {
  let [low, high] = [Infinity, -Infinity]
  for (const { nodes, edges } of pieces) {
    const [a, b, c] = nodes
    const [p, q] = [at[2 * b]! - at[2 * a]!, at[2 * b + 1]! - at[2 * a + 1]!]
    const [r, s] = [at[2 * c]! - at[2 * a]!, at[2 * c + 1]! - at[2 * a + 1]!]
    const [w, x, y] = [edges[0]!, -edges[4]!, -edges[5]!]
    // The map of the flat triangle (w, 0), (x, y) to where it lies.
    const [A, B] = [p / w, q / w]
    const [C, D] = [(r - A * x) / y, (s - B * x) / y]
    const sum = Math.hypot(A + D, B - C)
    const difference = Math.hypot(A - D, B + C)
    low = Math.min(low, 2 / (sum + difference) - 1)
    high = Math.max(high, 2 / Math.max(sum - difference, 1e-12) - 1)
  }
  return { low, high }
}
