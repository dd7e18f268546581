import { hermite } from '../../math'

/** Fills `out` with the share of each node at x; the shares of all nodes are 1 together. */
export type Shares = (x: number, out: Float64Array) => void

/** Periodic cubic cardinals: for each node the spline that is 1 there and 0 at the others; a raised cosine where there are two. */
export function cardinals(given: readonly number[], period: number): Shares {
  const k = given.length
  if (k === 1) return (_, out) => out.fill(1)
  const wrap = (a: number) => ((a % period) + period) % period
  const order = given.map((_, i) => i).sort((a, b) => wrap(given[a]!) - wrap(given[b]!))
  const nodes = order.map((i) => wrap(given[i]!))
  if (k === 2) {
    const [a, b] = nodes as [number, number]
    return (x, out) => {
      const w = wrap(x)
      const inside = w >= a && w < b
      const f = inside ? (w - a) / (b - a) : wrap(w - b) / (period - (b - a))
      const rises = (1 - Math.cos(Math.PI * f)) / 2
      out[order[0]!] = inside ? 1 - rises : rises
      out[order[1]!] = inside ? rises : 1 - rises
    }
  }
  const h = nodes.map((a, i) => (i + 1 < k ? nodes[i + 1]! - a : nodes[0]! + period - a))
  const slopes = nodes.map((_, c) =>
    periodicSlopes(
      h,
      nodes.map((_, m) => (m === c ? 1 : 0)),
    ),
  )
  return (x, out) => {
    const w = wrap(x)
    let i = k - 1
    while (i >= 0 && nodes[i]! > w) i--
    if (i < 0) i = k - 1
    const t = wrap(w - nodes[i]!) / h[i]!
    const j = (i + 1) % k
    for (let c = 0; c < k; c++)
      out[order[c]!] = hermite(
        t,
        h[i]!,
        c === i ? 1 : 0,
        c === j ? 1 : 0,
        slopes[c]![i]!,
        slopes[c]![j]!,
      )
  }
}

/** Slopes of the periodic cubic spline through values at nodes that are `h` apart; solved in full, there are eight at most. */
function periodicSlopes(h: readonly number[], y: readonly number[]): number[] {
  const k = y.length
  const a = y.map(() => Array<number>(k + 1).fill(0))
  for (let i = 0; i < k; i++) {
    const [p, q] = [(i + k - 1) % k, (i + 1) % k]
    const [before, after] = [1 / h[p]!, 1 / h[i]!]
    a[i]![p]! += before
    a[i]![i]! += 2 * (before + after)
    a[i]![q]! += after
    a[i]![k] = 3 * (before * before * (y[i]! - y[p]!) + after * after * (y[q]! - y[i]!))
  }
  for (let c = 0; c < k; c++)
    for (let r = c + 1; r < k; r++) {
      const f = a[r]![c]! / a[c]![c]!
      if (f !== 0) for (let m = c; m <= k; m++) a[r]![m]! -= f * a[c]![m]!
    }
  const out = Array<number>(k).fill(0)
  for (let r = k - 1; r >= 0; r--) {
    let rest = a[r]![k]!
    for (let m = r + 1; m < k; m++) rest -= a[r]![m]! * out[m]!
    out[r] = rest / a[r]![r]!
  }
  return out
}

/** Of sections that are open: between two rails by a raised cosine, beyond the outer ones theirs alone. */
export function openCardinals(given: readonly number[]): Shares {
  const order = given.map((_, i) => i).sort((a, b) => given[a]! - given[b]!)
  const nodes = order.map((i) => given[i]!)
  const last = nodes.length - 1
  return (x, out) => {
    out.fill(0)
    if (x <= nodes[0]!) out[order[0]!] = 1
    else if (x >= nodes[last]!) out[order[last]!] = 1
    else {
      let i = last
      while (nodes[i]! > x) i--
      const rises = (1 - Math.cos((Math.PI * (x - nodes[i]!)) / (nodes[i + 1]! - nodes[i]!))) / 2
      out[order[i]!] = 1 - rises
      out[order[i + 1]!] = rises
    }
  }
}
