import { limitMask, type Take } from './limit'
import { acrossEdge, type Rule, refined, ruleOf, shareBefore } from './refine'
import type { Table } from './table'

/** Sums of places, row by row: each row takes some places with weights. */
export class Rows {
  readonly count: number
  readonly #starts: Uint32Array
  readonly #from: Uint32Array
  readonly #weights: Float64Array

  /** `fill` tells what row i takes; what it takes twice is added up. */
  constructor(count: number, fill: (i: number, take: Take) => void) {
    const starts = new Uint32Array(count + 1)
    const from: number[] = []
    const weights: number[] = []
    let first = 0
    const take: Take = (q, w) => {
      for (let k = first; k < from.length; k++)
        if (from[k] === q) {
          weights[k]! += w
          return
        }
      from.push(q)
      weights.push(w)
    }
    for (let i = 0; i < count; i++) {
      first = from.length
      fill(i, take)
      starts[i + 1] = from.length
    }
    this.count = count
    this.#starts = starts
    this.#from = Uint32Array.from(from)
    this.#weights = Float64Array.from(weights)
  }

  /** Where the sums of places (three numbers each) lie. */
  of(at: Float64Array): Float64Array {
    const out = new Float64Array(3 * this.count)
    for (let i = 0; i < this.count; i++)
      for (let k = this.#starts[i]!; k < this.#starts[i + 1]!; k++) {
        const [w, q] = [this.#weights[k]!, 3 * this.#from[k]!]
        out[3 * i] += w * at[q]!
        out[3 * i + 1] += w * at[q + 1]!
        out[3 * i + 2] += w * at[q + 2]!
      }
    return out
  }

  /** The transpose: what is asked of the sums, handed back to the `count` places they were made of. */
  handedBack(asked: Float64Array, count: number): Float64Array {
    const out = new Float64Array(3 * count)
    for (let i = 0; i < this.count; i++)
      for (let k = this.#starts[i]!; k < this.#starts[i + 1]!; k++) {
        const [w, q] = [this.#weights[k]!, 3 * this.#from[k]!]
        out[q] += w * asked[3 * i]!
        out[q + 1] += w * asked[3 * i + 1]!
        out[q + 2] += w * asked[3 * i + 2]!
      }
    return out
  }
}

/** What the points of a refined table count for, in those of the table it comes from: as `refinePoints` places them. */
export function refineRows(t: Table): Rows {
  const inFace = (f: number, share: number, take: Take) => {
    const [a, b] = [t.faceStart[f]!, t.faceStart[f + 1]!]
    for (let c = a; c < b; c++) take(t.corners[c]!, share / (b - a))
  }
  const byRule = (p: number, rule: Rule, fallen: number, share: number, take: Take) => {
    if (rule === 3) return take(p, share)
    const [from, to] = [t.edgeRing[p]!, t.edgeRing[p + 1]!]
    if (rule === 2) {
      take(p, 0.75 * share)
      for (let k = from; k < to; k++) {
        const e = t.pointEdges[k]!
        if (t.edgeSharp[e]! > fallen) take(acrossEdge(t, e, p), 0.125 * share)
      }
      return
    }
    const n = t.faceRing[p + 1]! - t.faceRing[p]!
    take(p, (share * (n - 2)) / n)
    for (let k = from; k < to; k++) take(acrossEdge(t, t.pointEdges[k]!, p), share / (n * n))
    for (let k = t.faceRing[p]!; k < t.faceRing[p + 1]!; k++)
      inFace(t.pointFaces[k]!, share / (n * n), take)
  }
  return new Rows(t.points + t.edges + t.faces, (i, take) => {
    if (i >= t.points + t.edges) return inFace(i - t.points - t.edges, 1, take)
    if (i < t.points) {
      const [before, after] = [ruleOf(t, i), ruleOf(t, i, 1)]
      const share = before === after ? 1 : shareBefore(t, i)
      byRule(i, before, 0, share, take)
      if (share < 1) byRule(i, after, 1, 1 - share, take)
      return
    }
    const e = i - t.points
    const other = t.edgeCorners[2 * e + 1]!
    const sharp = other === -1 ? 1 : Math.min(1, t.edgeSharp[e]!)
    for (const end of [0, 1]) take(t.edgeEnds[2 * e + end]!, sharp / 2 + (1 - sharp) / 4)
    if (sharp === 1) return
    for (const c of [t.edgeCorners[2 * e]!, other]) inFace(t.cornerFace[c]!, (1 - sharp) / 4, take)
  })
}

/** What the points of a table of quads count for in the limits of each of them. */
export const limitRows = (t: Table): Rows => new Rows(t.points, (p, take) => limitMask(t, p, take))

/** Places on the limit of a cage, by how its points lie: those of the points of its table refined so often. */
export class LimitPlaces {
  readonly count: number
  readonly #points: number[] = []
  readonly #steps: Rows[] = []

  constructor(table: Table, levels: number) {
    let t = table
    for (let k = 0; k < levels; k++) {
      this.#points.push(t.points)
      this.#steps.push(refineRows(t))
      t = refined(t)
    }
    this.#points.push(t.points)
    this.#steps.push(limitRows(t))
    this.count = t.points
  }

  of(at: Float64Array): Float64Array {
    return this.#steps.reduce((p, rows) => rows.of(p), at)
  }

  /** Which places some points of the cage have so much of a share in: all of it where they alone put them. */
  ruledBy(points: ReadonlySet<number>, all: number, share = 1): Uint8Array {
    const counts = new Float64Array(3 * all)
    for (const p of points) counts[3 * p] = 1
    const shares = this.of(counts)
    return Uint8Array.from({ length: this.count }, (_, i) =>
      shares[3 * i]! > share - 1e-9 ? 1 : 0,
    )
  }

  /** What is asked of the places, handed back to the cage's points. */
  handedBack(asked: Float64Array): Float64Array {
    return this.#steps.reduceRight((p, rows, k) => rows.handedBack(p, this.#points[k]!), asked)
  }
}
