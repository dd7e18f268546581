import { dot3, type P3, placeAt, unit3 } from '../../math'
import { evaluate, jet, type Patch } from '../../surface'
import type { Table } from '../limit/table'
import type { Block } from './blocks'

/** u and v of what is so far along the sides from corner k of a block of m by n. */
export const fromCorner = (
  k: number,
  x: number,
  y: number,
  m: number,
  n: number,
): [number, number] =>
  k === 0 ? [x, y] : k === 1 ? [m - y, x] : k === 2 ? [m - x, n - y] : [y, n - x]

/** Places looked at along an edge from a star, as shares of the cell that is only near there, and a little past it. */
const LOOKS = Array.from({ length: 49 }, (_, k) => k / 40)

/** The largest angle at which patches meet, rad, and where; where nothing is sharp. */
export interface Meeting {
  angle: number
  at: P3 | null
}

const j = jet()

/** Along the edges from a star patches side by side share a curve, and not all of their tangent planes: the angles between them. */
export class Between {
  readonly most: Meeting = { angle: 0, at: null }
  readonly #table: Table
  readonly #size: number
  readonly #seen = new Map<string, P3[]>()

  /** Cells of `size` at stars of a table are only near. */
  constructor(table: Table, size: number) {
    this.#table = table
    this.#size = size
  }

  /** Takes in corner k of a block, a star that is corner c of the table. */
  take(patch: Patch, block: Block, k: number, c: number): void {
    const t = this.#table
    for (const side of [0, 1] as const) {
      const edge = t.cornerEdge[side === 0 ? c : (c & ~3) | ((c + 3) & 3)]!
      if (t.edgeSharp[edge]! > 0) continue
      const key = `${edge} ${t.corners[c]}`
      const other = this.#seen.get(key)
      const own = LOOKS.map((share) => {
        const x = Math.min(1, share * this.#size)
        const [u, v] = fromCorner(k, side === 0 ? x : 0, side === 0 ? 0 : x, block.m, block.n)
        evaluate(patch, u, v, 1, j)
        return normalOf(j.u, j.v)
      })
      if (!other) {
        this.#seen.set(key, own)
        continue
      }
      for (const [i, n] of own.entries()) {
        const angle = Math.acos(Math.min(1, Math.max(-1, dot3(n, other[i]!))))
        if (!(angle > this.most.angle)) continue
        const x = Math.min(1, LOOKS[i]! * this.#size)
        const [u, v] = fromCorner(k, side === 0 ? x : 0, side === 0 ? 0 : x, block.m, block.n)
        evaluate(patch, u, v, 0, j)
        this.most.angle = angle
        this.most.at = placeAt(j.p, 0)
      }
    }
  }
}

const normalOf = (u: Float64Array, v: Float64Array): P3 =>
  unit3([
    u[1]! * v[2]! - u[2]! * v[1]!,
    u[2]! * v[0]! - u[0]! * v[2]!,
    u[0]! * v[1]! - u[1]! * v[0]!,
  ])
