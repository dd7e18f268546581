import { factorNormal, nearOrder, type Row } from './normal'
import type { Equation } from './system'

/** Residuals and the sparse rows of their Jacobian. */
export interface Linearised {
  r: Float64Array
  rows: Row[]
}

export function linearise(eqs: readonly Equation[], x: ArrayLike<number>): Linearised {
  const r = new Float64Array(eqs.length)
  const rows = eqs.map((e, i) => {
    const d = e.value(x)
    r[i] = d.v
    return { cols: e.vars, vals: d.g }
  })
  return { r, rows }
}

export interface Solved {
  x: Float64Array
  /** Largest residual, mm. */
  residual: number
  iterations: number
}

/** A residual below this counts as none, mm. */
export const RESIDUAL = 1e-10
/** Residuals up to this count as met, mm: the solver stops well below. */
export const MET = 100 * RESIDUAL
const MAX_ITERATIONS = 80

/**
 * Damped Gauss-Newton (Levenberg 1944, Marquardt 1963) with a trust radius, in the form that takes the
 * least step: d = -W Jᵀ (J W Jᵀ + λ I)⁻¹ r. `mobility` weighs how readily each unknown moves; `reach`
 * (mm) bounds a single step, so that the solution stays on the branch it starts on.
 */
export function solveLeast(
  eqs: readonly Equation[],
  start: ArrayLike<number>,
  options: { mobility?: Float64Array; reach: number },
): Solved {
  const n = start.length
  const w = options.mobility ?? new Float64Array(n).fill(1)
  const order = nearOrder(eqs.map((e) => e.vars))
  let x = Float64Array.from(start)
  let now = linearise(eqs, x)
  let cost = sumSquares(now.r)
  let lambda = 1e-9
  let iterations = 0
  for (; iterations < MAX_ITERATIONS && largest(now.r) > RESIDUAL * 0.1; iterations++) {
    const step = leastStep(now, w, lambda * scaleOf(now, w), order)
    if (!step) break
    const size = largest(step)
    if (!(size > 0) || !Number.isFinite(size)) break
    if (size > options.reach) for (let i = 0; i < n; i++) step[i]! *= options.reach / size
    const tried = x.map((v, i) => v + step[i]!)
    const next = linearise(eqs, tried)
    const nextCost = sumSquares(next.r)
    if (nextCost < cost) {
      const stalled = nextCost > cost * (1 - 1e-12)
      x = tried
      now = next
      cost = nextCost
      lambda = Math.max(lambda / 10, 1e-14)
      if (stalled) break
    } else {
      lambda *= 10
      if (lambda > 1e8) break
    }
  }
  return { x, residual: largest(now.r), iterations }
}

const sumSquares = (r: Float64Array): number => r.reduce((s, v) => s + v * v, 0)
const largest = (r: Float64Array): number => r.reduce((m, v) => Math.max(m, Math.abs(v)), 0)

/** Largest diagonal element of J W Jᵀ, against which the damping is measured. */
function scaleOf({ rows }: Linearised, w: Float64Array): number {
  let most = 1e-12
  for (const row of rows) {
    let s = 0
    for (let k = 0; k < row.cols.length; k++) s += row.vals[k]! ** 2 * w[row.cols[k]!]!
    most = Math.max(most, s)
  }
  return most
}

/** The damped least step; null where the normal matrix is not positive definite. */
function leastStep(
  { r, rows }: Linearised,
  w: Float64Array,
  lambda: number,
  order: readonly number[],
): Float64Array | null {
  const y = factorNormal(rows, w, lambda, order)?.(r)
  if (!y) return null
  const step = new Float64Array(w.length)
  for (const [i, { cols, vals }] of rows.entries())
    for (let k = 0; k < cols.length; k++) step[cols[k]!]! -= vals[k]! * y[i]! * w[cols[k]!]!
  return step
}
