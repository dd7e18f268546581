import fc from 'fast-check'
import { Matrix, pseudoInverse, SingularValueDecomposition, solve } from 'ml-matrix'
import { describe, expect, it } from 'vitest'
import { factorNormal, nearOrder, type Row } from './normal'
import { analyseRank, travelOf } from './rank'

// Checked against ml-matrix, a general-purpose library of dense linear algebra.

const N = 12
/** Sparse rows as relations have them: a few of the unknowns, coefficients of order one. */
const sparseRow = fc
  .tuple(
    fc.uniqueArray(fc.integer({ min: 0, max: N - 1 }), { minLength: 1, maxLength: 5 }),
    fc.array(
      fc.double({ min: 0.1, max: 2, noNaN: true }).chain((v) => fc.constantFrom(v, -v)),
      { minLength: 5, maxLength: 5 },
    ),
  )
  .map(([cols, vals]): Row => ({ cols, vals: vals.slice(0, cols.length) }))
const rowsOf = (least: number, most: number) =>
  fc.array(sparseRow, { minLength: least, maxLength: most })

const dense = (rows: readonly Row[]): Matrix => {
  const m = Matrix.zeros(rows.length, N)
  for (const [i, r] of rows.entries())
    for (const [k, c] of r.cols.entries()) m.set(i, c, r.vals[k]!)
  return m
}
/** The sum of two rows, one turned about: it depends on them. */
const sum = (a: Row, b: Row): Row => {
  const all = new Map<number, number>()
  for (const [r, sign] of [[a, 1] as const, [b, -1] as const])
    for (const [k, c] of r.cols.entries()) all.set(c, (all.get(c) ?? 0) + sign * r.vals[k]!)
  return { cols: [...all.keys()], vals: [...all.values()] }
}
const analyse = (rows: Row[]) => analyseRank({ r: new Float64Array(rows.length), rows }, N)

describe('the normal matrix', () => {
  it('an order names every row once', () => {
    fc.assert(
      fc.property(rowsOf(0, 30), (rows) => {
        const order = nearOrder(rows.map((r) => r.cols))
        expect([...order].sort((a, b) => a - b)).toEqual(rows.map((_, i) => i))
      }),
    )
  })

  it('a chain drawn in any order is a narrow band', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray([...Array(40).keys()], { minLength: 40 }), (shuffled) => {
        const order = nearOrder(shuffled.map((i) => [i, i + 1]))
        const at = new Map(order.map((row, k) => [shuffled[row]!, k]))
        for (let i = 1; i < 40; i++) expect(Math.abs(at.get(i)! - at.get(i - 1)!)).toBe(1)
      }),
    )
  })

  it('solves as dense elimination does', () => {
    fc.assert(
      fc.property(
        rowsOf(1, 10),
        fc.array(fc.double({ min: 0.2, max: 3, noNaN: true }), { minLength: N, maxLength: N }),
        fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: 10, maxLength: 10 }),
        (rows, weights, right) => {
          const lambda = 0.05
          const b = right.slice(0, rows.length)
          const J = dense(rows)
          const A = J.mmul(Matrix.diag(weights)).mmul(J.transpose())
          for (let i = 0; i < rows.length; i++) A.set(i, i, A.get(i, i) + lambda)
          const y = factorNormal(rows, weights, lambda, nearOrder(rows.map((r) => r.cols)))!(b)
          const expected = solve(A, Matrix.columnVector(b)).to1DArray()
          for (const [i, v] of expected.entries()) expect(y[i]).toBeCloseTo(v, 8)
        },
      ),
    )
  })

  it('the same row twice is refused without damping', () => {
    const row = { cols: [0, 1], vals: [3, 4] }
    expect(factorNormal([row, row], new Float64Array(N).fill(1), 0, [0, 1])).toBeNull()
  })
})

describe('rank', () => {
  it('is that of the singular values, and what is free is their null space', () => {
    fc.assert(
      fc.property(rowsOf(1, 16), fc.nat(), fc.nat(), (rows, i, j) => {
        const all = [...rows, sum(rows[i % rows.length]!, rows[j % rows.length]!)]
        const J = dense(all)
        const svd = new SingularValueDecomposition(J.rows < N ? J.transpose() : J)
        const s = svd.diagonal
        // Random rows may all but depend on each other: those say nothing about either.
        fc.pre(s.every((v) => v > 1e-4 || v < 1e-12))
        const { rank, dependent, free } = analyse(all)
        expect(rank).toBe(s.filter((v) => v > 1e-8).length)
        expect(dependent.length).toBe(all.length - rank)
        expect(free.length).toBe(N - rank)
        for (const z of free) {
          const held = J.mmul(Matrix.columnVector([...z])).to1DArray()
          for (const v of held) expect(Math.abs(v)).toBeLessThan(1e-7)
        }
      }),
      { numRuns: 300 },
    )
  })

  it('a row made of two others is told to follow from those two', () => {
    const rows: Row[] = [
      { cols: [0, 1], vals: [1, -1] },
      { cols: [4, 5, 6], vals: [0.3, 1, -2] },
      { cols: [1, 2], vals: [1, -1] },
      { cols: [2, 3], vals: [1, 1] },
    ]
    const { dependent } = analyse([
      ...rows,
      sum(rows[0]!, rows[3]!),
      { cols: [0, 2], vals: [1, -1] },
    ])
    expect(dependent).toEqual([
      { row: 4, from: [0, 3] },
      { row: 5, from: [0, 2] },
    ])
  })

  it('the ways a pair can move are those of the projection on the null space', () => {
    fc.assert(
      fc.property(rowsOf(6, 11), (rows) => {
        const J = dense(rows)
        const s = new SingularValueDecomposition(J.transpose()).diagonal
        fc.pre(s.every((v) => v > 1e-3 || v < 1e-12))
        // P = I - J⁺ J, cut down to the first two unknowns.
        const P = Matrix.eye(N).sub(pseudoInverse(J).mmul(J))
        const block = new Matrix([
          [P.get(0, 0), P.get(0, 1)],
          [P.get(1, 0), P.get(1, 1)],
        ])
        const values = new SingularValueDecomposition(block).diagonal
        fc.pre(values.every((v) => v > 1e-5 || v < 1e-11))
        const { ways, direction } = travelOf(analyse(rows).free, [0, 1])
        expect(ways).toBe(values.filter((v) => v > 1e-8).length)
        if (direction) {
          const [dx, dy] = direction
          const across = [
            P.get(0, 0) * -dy + P.get(0, 1) * dx,
            P.get(1, 0) * -dy + P.get(1, 1) * dx,
          ]
          for (const v of across) expect(Math.abs(v)).toBeLessThan(1e-6)
        }
      }),
    )
  })
})
