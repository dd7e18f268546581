/** Halvings after which a crossing is as near as numbers go. */
const DEEPEST = 60

/**
 * Parameters at which a Bezier polynomial with these ordinates changes sign, between `t0` and `t1`, added to
 * `out`: all of them, by halving until the ordinates change sign once (variation diminishing).
 */
export function signChanges(
  h: readonly number[],
  t0: number,
  t1: number,
  out: number[],
  depth = 0,
): void {
  let changes = 0
  for (let i = 1, last = h[0]!; i < h.length; i++) {
    const x = h[i]!
    if (x === 0) continue
    if (last !== 0 && x < 0 !== last < 0) changes++
    last = x
  }
  if (changes === 0) return
  if (changes === 1 && h[0]! * h[h.length - 1]! < 0) {
    out.push(bisected(h, t0, t1))
    return
  }
  if (depth >= DEEPEST) return
  const [left, right] = halves(h)
  const tm = (t0 + t1) / 2
  // A root in the very middle belongs to neither half.
  if (right[0] === 0) out.push(tm)
  signChanges(left, t0, tm, out, depth + 1)
  signChanges(right, tm, t1, out, depth + 1)
}

/** The one sign change of a Bezier polynomial. */
function bisected(h: readonly number[], t0: number, t1: number): number {
  let [lo, hi] = [0, 1]
  for (let i = 0; i < DEEPEST && hi - lo > 0; i++) {
    const mid = (lo + hi) / 2
    if (mid === lo || mid === hi) break
    const x = valueAt(h, mid)
    if (x === 0) return t0 + mid * (t1 - t0)
    if (x < 0 === h[0]! < 0) lo = mid
    else hi = mid
  }
  return t0 + ((lo + hi) / 2) * (t1 - t0)
}

function valueAt(h: readonly number[], u: number): number {
  const w = [...h]
  for (let r = w.length - 1; r > 0; r--)
    for (let i = 0; i < r; i++) w[i] = w[i]! + u * (w[i + 1]! - w[i]!)
  return w[0]!
}

function halves(h: readonly number[]): [number[], number[]] {
  const w = [...h]
  const left = [w[0]!]
  const right = [w[w.length - 1]!]
  for (let r = w.length - 1; r > 0; r--) {
    for (let i = 0; i < r; i++) w[i] = (w[i]! + w[i + 1]!) / 2
    left.push(w[0]!)
    right.unshift(w[r - 1]!)
  }
  return [left, right]
}
