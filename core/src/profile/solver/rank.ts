import type { Linearised } from './least'
import { factorNormal, nearOrder, type Row } from './normal'

/** What is left of a row after the others are taken out, below which share of it the row depends on them. */
const DEPENDENT = 1e-7

export interface RankAnalysis {
  rank: number
  /** Rows that add nothing, each with the earlier rows it follows from. */
  dependent: { row: number; from: number[] }[]
  /** A basis of what the equations leave free, each vector of length n. */
  free: Float64Array[]
}

/** Which equations are independent, what the others follow from, and what all of them leave free. */
export function analyseRank({ rows }: Linearised, n: number): RankAnalysis {
  const { kept, lost, reduced } = eliminated(rows, n)
  const free: Float64Array[] = []
  for (let f = 0; f < n; f++) {
    if (reduced.has(f)) continue
    const z = new Float64Array(n)
    z[f] = 1
    for (const [c, row] of reduced) z[c] = -row[f]!
    free.push(z)
  }
  return { rank: kept.length, dependent: recipes(rows, kept, lost, n), free }
}

/** The rows that depend on rows before them. */
export const dependentRows = ({ rows }: Linearised, n: number): number[] => eliminated(rows, n).lost

/** Gauss-Jordan, row by row, with the largest pivot of each. */
function eliminated(rows: readonly Row[], n: number) {
  /** Reduced rows by their pivot: 1 there, 0 at every other pivot. */
  const reduced = new Map<number, Float64Array>()
  const kept: number[] = []
  const lost: number[] = []
  for (const [i, row] of rows.entries()) {
    const v = new Float64Array(n)
    for (let k = 0; k < row.cols.length; k++) v[row.cols[k]!]! += row.vals[k]!
    const length = Math.hypot(...Array.from(row.vals))
    for (const c of row.cols) takeOut(v, reduced.get(c), c)
    let pivot = 0
    for (let j = 1; j < n; j++) if (Math.abs(v[j]!) > Math.abs(v[pivot]!)) pivot = j
    const most = v[pivot] ?? 0
    if (length < 1e-12 || Math.abs(most) <= DEPENDENT * length) {
      lost.push(i)
      continue
    }
    for (let j = 0; j < n; j++) v[j]! /= most
    for (const other of reduced.values()) takeOut(other, v, pivot)
    reduced.set(pivot, v)
    kept.push(i)
  }
  return { kept, lost, reduced }
}

/** Subtracts so much of `row`, which is 1 at column c, that `v` is 0 there. */
function takeOut(v: Float64Array, row: Float64Array | undefined, c: number) {
  const f = v[c]!
  if (!row || f === 0) return
  for (let j = 0; j < v.length; j++) v[j]! -= f * row[j]!
  v[c] = 0
}

/**
 * How dependent rows are made of independent ones: least squares by seminormal equations with one
 * correction (Björck 1987), so that rounding names no row that has no part in it.
 */
function recipes(rows: readonly Row[], kept: number[], lost: number[], n: number) {
  const basis = kept.map((i) => rows[i]!)
  const ones = new Float64Array(n).fill(1)
  const solve =
    lost.length > 0 && factorNormal(basis, ones, 1e-300, nearOrder(basis.map((r) => r.cols)))
  return lost.map((row) => {
    const left = new Float64Array(n)
    rows[row]!.cols.forEach((c, k) => {
      left[c]! += rows[row]!.vals[k]!
    })
    const y = new Float64Array(basis.length)
    for (let pass = 0; solve && pass < 2; pass++) {
      const more = solve(basis.map((r) => r.cols.reduce((s, c, k) => s + r.vals[k]! * left[c]!, 0)))
      for (const [i, r] of basis.entries()) {
        y[i]! += more[i]!
        for (const [k, c] of r.cols.entries()) left[c]! -= r.vals[k]! * more[i]!
      }
    }
    const most = y.reduce((m, v) => Math.max(m, Math.abs(v)), 0)
    return { row, from: kept.filter((_, i) => Math.abs(y[i]!) > 1e-6 * most) }
  })
}

/** Ways in which two unknowns (a point's coordinates; -1 for one that is given) can still move. */
export function travelOf(free: readonly Float64Array[], [i, j]: readonly [number, number]) {
  let [a, b, c] = [0, 0, 0]
  for (const z of free) {
    const [x, y] = [i < 0 ? 0 : z[i]!, j < 0 ? 0 : z[j]!]
    a += x * x
    b += x * y
    c += y * y
  }
  const mean = (a + c) / 2
  const spread = Math.hypot((a - c) / 2, b)
  const moves = (v: number) => v > 1e-9 * Math.max(1, mean)
  if (moves(mean - spread)) return { ways: 2 as const, direction: null }
  if (!moves(mean + spread)) return { ways: 0 as const, direction: null }
  const angle = Math.atan2(2 * b, a - c) / 2
  const direction: [number, number] = [Math.cos(angle), Math.sin(angle)]
  return { ways: 1 as const, direction }
}
