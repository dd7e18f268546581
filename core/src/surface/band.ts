import { type Basis, countOf, derivatives, spanOf } from './basis'

/**
 * Interpolation in a basis: the matrix of its functions at some parameters (derivative rows too), factored
 * within its band. Rows need to come in the order of their parameters and fit the functions (Schoenberg-Whitney),
 * as at Greville points; then no pivoting is needed (de Boor and Pinkus 1977; from memory).
 */
export class Interpolation {
  readonly #n: number
  /** Width of the band below and above the diagonal. */
  readonly #low: number
  readonly #up: number
  readonly #m: Float64Array

  /** `orders`: which derivative each row is, 0 (a place) where none is told. */
  constructor(b: Basis, at: ArrayLike<number>, orders: ArrayLike<number> = []) {
    const n = countOf(b)
    if (at.length !== n) throw new RangeError(`${n} functions need as many rows, not ${at.length}`)
    const p = b.degree
    const values = new Float64Array(3 * (p + 1))
    const starts = new Int32Array(n)
    const rows = new Float64Array(n * (p + 1))
    let [low, up] = [0, 0]
    for (let i = 0; i < n; i++) {
      const order = orders[i] ?? 0
      const span = spanOf(b, at[i]!)
      derivatives(b, span, at[i]!, order, values)
      starts[i] = span - p
      rows.set(values.subarray(order * (p + 1), (order + 1) * (p + 1)), i * (p + 1))
      low = Math.max(low, i - starts[i]!)
      up = Math.max(up, starts[i]! + p - i)
    }
    this.#n = n
    this.#low = low
    this.#up = up
    const w = low + up + 1
    this.#m = new Float64Array(n * w)
    for (let i = 0; i < n; i++)
      for (let j = 0; j <= p; j++)
        this.#m[i * w + starts[i]! + j - i + low] = rows[i * (p + 1) + j]!
    this.#factor()
  }

  #factor(): void {
    const [n, low, up, m] = [this.#n, this.#low, this.#up, this.#m]
    const w = low + up + 1
    for (let k = 0; k < n; k++) {
      const pivot = m[k * w + low]!
      if (!(Math.abs(pivot) > 1e-14)) throw new RangeError('rows do not fit the functions')
      for (let i = k + 1; i <= Math.min(n - 1, k + low); i++) {
        const f = m[i * w + k - i + low]! / pivot
        m[i * w + k - i + low] = f
        if (f === 0) continue
        for (let j = k + 1; j <= Math.min(n - 1, k + up); j++)
          m[i * w + j - i + low]! -= f * m[k * w + j - k + low]!
      }
    }
  }

  /** Solves in place for rows of three numbers each: row i begins at `first + i * step`. */
  solve(x: Float64Array, first = 0, step = 3): void {
    const [n, low, up, m] = [this.#n, this.#low, this.#up, this.#m]
    const w = low + up + 1
    for (let i = 0; i < n; i++) {
      const at = first + i * step
      for (let j = Math.max(0, i - low); j < i; j++) {
        const f = m[i * w + j - i + low]!
        const from = first + j * step
        x[at]! -= f * x[from]!
        x[at + 1]! -= f * x[from + 1]!
        x[at + 2]! -= f * x[from + 2]!
      }
    }
    for (let i = n - 1; i >= 0; i--) {
      const at = first + i * step
      for (let j = i + 1; j <= Math.min(n - 1, i + up); j++) {
        const f = m[i * w + j - i + low]!
        const from = first + j * step
        x[at]! -= f * x[from]!
        x[at + 1]! -= f * x[from + 1]!
        x[at + 2]! -= f * x[from + 2]!
      }
      const d = m[i * w + low]!
      x[at]! /= d
      x[at + 1]! /= d
      x[at + 2]! /= d
    }
  }
}
