import { brent } from '../math'

/** What a search for a value came to. */
export interface Solutions {
  /** Values at which the target is met, in rising order. */
  found: number[]
  /** Smallest and largest reading seen, null when every try failed. */
  span: { low: number; high: number } | null
  /** Why tries failed, where some did: the value tried and the sentence. */
  failures: { at: number; why: string }[]
}

/**
 * Values of x in [lo, hi] at which `f` reads `target`: the interval is walked in `steps` steps, every
 * change of sign closed in on by Brent's method to `tol`. `f` returns a number, or a sentence where
 * it has none.
 */
export function solveFor(
  f: (x: number) => number | string,
  target: number,
  lo: number,
  hi: number,
  steps = 24,
  tol = 1e-9,
): Solutions {
  const found: number[] = []
  const failures: Solutions['failures'] = []
  let span: Solutions['span'] = null
  const read = (x: number): number | null => {
    const y = f(x)
    if (typeof y === 'string') {
      failures.push({ at: x, why: y })
      return null
    }
    span = { low: Math.min(span?.low ?? y, y), high: Math.max(span?.high ?? y, y) }
    return y - target
  }
  let x0 = lo
  let f0 = read(lo)
  if (f0 === 0) found.push(lo)
  for (let i = 1; i <= steps; i++) {
    const x1 = lo + ((hi - lo) * i) / steps
    const f1 = read(x1)
    if (f1 === 0) found.push(x1)
    else if (f0 !== null && f1 !== null && f0 * f1 < 0) {
      const inner = (x: number) => {
        const y = f(x)
        // A failure inside a bracket leaves no root to trust; NaN ends the search there.
        return typeof y === 'string' ? Number.NaN : y - target
      }
      const x = brent(inner, x0, x1, tol, f0, f1)
      const miss = Math.abs(inner(x))
      // A jump changes sign without meeting the target.
      if (miss <= 1e-4 * Math.abs(f1 - f0) + 1e-9) found.push(x)
    }
    x0 = x1
    f0 = f1
  }
  return { found, span, failures }
}
