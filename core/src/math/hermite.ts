/** The cubic over a length h that has these values and slopes at its ends, at a share t of it. */
export function hermite(
  t: number,
  h: number,
  y0: number,
  y1: number,
  m0: number,
  m1: number,
): number {
  const [t2, t3] = [t * t, t * t * t]
  return (
    (2 * t3 - 3 * t2 + 1) * y0 +
    (t3 - 2 * t2 + t) * h * m0 +
    (3 * t2 - 2 * t3) * y1 +
    (t3 - t2) * h * m1
  )
}

/**
 * A smooth run through two values or more at rising x that never overshoots them (Fritsch and Butland 1984; from memory); beyond its
 * ends it stays. It leaves its ends as its first and last chord run, or level.
 */
export function monotone(
  x: readonly number[],
  y: readonly number[],
  ends: 'chord' | 'level' = 'chord',
): (v: number) => number {
  const n = x.length
  const slope = (k: number) => (y[k + 1]! - y[k]!) / (x[k + 1]! - x[k]!)
  const m = y.map((_, k) => {
    if (k === 0 || k === n - 1) return ends === 'level' ? 0 : slope(Math.min(k, n - 2))
    const [a, b] = [slope(k - 1), slope(k)]
    return a * b <= 0 ? 0 : (2 * a * b) / (a + b)
  })
  return (v) => {
    let k = 0
    while (k < n - 2 && v > x[k + 1]!) k++
    const h = x[k + 1]! - x[k]!
    const t = Math.min(1, Math.max(0, (v - x[k]!) / h))
    return hermite(t, h, y[k]!, y[k + 1]!, m[k]!, m[k + 1]!)
  }
}
