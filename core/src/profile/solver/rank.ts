import type { Linearised } from './least'

/** Rows shorter than this share of their length after the others are taken out depend on them. */
const DEPENDENT = 1e-7

export interface RankAnalysis {
  rank: number
  /** Rows that add nothing, each with the earlier rows it follows from. */
  dependent: { row: number; from: number[] }[]
  /** Orthonormal basis of what the equations hold, each vector of length n. */
  held: Float64Array[]
}

/** Which equations are independent: Gram-Schmidt with a second pass (Björck 1967), row by row. */
export function analyseRank({ rows }: Linearised, n: number): RankAnalysis {
  const held: Float64Array[] = []
  /** How each basis vector is made of the rows. */
  const recipes: Map<number, number>[] = []
  const dependent: RankAnalysis['dependent'] = []
  for (const [i, row] of rows.entries()) {
    const v = new Float64Array(n)
    for (let k = 0; k < row.cols.length; k++) v[row.cols[k]!]! += row.vals[k]!
    const length = norm(v)
    const recipe = new Map<number, number>([[i, 1]])
    for (let pass = 0; pass < 2; pass++) {
      for (const [k, q] of held.entries()) {
        const c = dot(v, q)
        if (Math.abs(c) < 1e-15 * length) continue
        for (let j = 0; j < n; j++) v[j]! -= c * q[j]!
        for (const [from, f] of recipes[k]!) recipe.set(from, (recipe.get(from) ?? 0) - c * f)
      }
    }
    const left = norm(v)
    if (left <= DEPENDENT * length || length < 1e-12) {
      const most = Math.max(...[...recipe.values()].map(Math.abs))
      const from = [...recipe]
        .filter(([row, f]) => row !== i && Math.abs(f) > 1e-6 * most)
        .map(([row]) => row)
      dependent.push({ row: i, from })
      continue
    }
    for (let j = 0; j < n; j++) v[j]! /= left
    held.push(v)
    for (const [from, f] of recipe) recipe.set(from, f / left)
    recipes.push(recipe)
  }
  return { rank: held.length, dependent, held }
}

/** Ways in which two unknowns (a point's coordinates; -1 for one that is given) can still move. */
export function travelOf(held: readonly Float64Array[], [i, j]: readonly [number, number]) {
  // The part of the plane that the held directions leave: I - Σ q qᵀ, cut down to the two unknowns.
  let [a, b, c] = [i < 0 ? 0 : 1, 0, j < 0 ? 0 : 1]
  for (const q of held) {
    const [x, y] = [i < 0 ? 0 : q[i]!, j < 0 ? 0 : q[j]!]
    a -= x * x
    b -= x * y
    c -= y * y
  }
  const mean = (a + c) / 2
  const spread = Math.hypot((a - c) / 2, b)
  const free = (v: number) => v > 1e-9
  if (free(mean - spread)) return { ways: 2 as const, direction: null }
  if (!free(mean + spread)) return { ways: 0 as const, direction: null }
  const angle = Math.atan2(2 * b, a - c) / 2
  const direction: [number, number] = [Math.cos(angle), Math.sin(angle)]
  return { ways: 1 as const, direction }
}

const dot = (a: Float64Array, b: Float64Array): number => {
  let s = 0
  for (let i = 0; i < a.length; i++) s += a[i]! * b[i]!
  return s
}
const norm = (a: Float64Array): number => Math.sqrt(dot(a, a))
