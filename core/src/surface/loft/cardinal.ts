import { hermite } from '../../math'

/** Periodic cubic cardinals: for each node the value at x of the spline that is 1 there and 0 at the others. */
export function cardinals(given: readonly number[], x: number, period: number): number[] {
  const k = given.length
  if (k === 1) return [1]
  const wrap = (a: number) => ((a % period) + period) % period
  const order = given.map((_, i) => i).sort((a, b) => wrap(given[a]!) - wrap(given[b]!))
  const nodes = order.map((i) => wrap(given[i]!))
  const w = wrap(x)
  if (k === 2) {
    const [a, b] = nodes as [number, number]
    const inside = w >= a && w < b
    const f = inside ? (w - a) / (b - a) : wrap(w - b) / (period - (b - a))
    const rises = (1 - Math.cos(Math.PI * f)) / 2
    const of = inside ? [1 - rises, rises] : [rises, 1 - rises]
    const out = [0, 0]
    for (const [i, o] of order.entries()) out[o] = of[i]!
    return out
  }
  const h = nodes.map((a, i) => (i + 1 < k ? nodes[i + 1]! - a : nodes[0]! + period - a))
  const out = given.map(() => 0)
  let i = nodes.findLastIndex((a) => a <= w)
  if (i < 0) i = k - 1
  const t = wrap(w - nodes[i]!) / h[i]!
  const j = (i + 1) % k
  for (let c = 0; c < k; c++) {
    const y = nodes.map((_, m) => (m === c ? 1 : 0))
    const slopes = periodicSlopes(h, y)
    out[order[c]!] = hermite(t, h[i]!, y[i]!, y[j]!, slopes[i]!, slopes[j]!)
  }
  return out
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
export function openCardinals(given: readonly number[], x: number): number[] {
  const order = given.map((_, i) => i).sort((a, b) => given[a]! - given[b]!)
  const nodes = order.map((i) => given[i]!)
  const out = given.map(() => 0)
  const last = nodes.length - 1
  if (x <= nodes[0]!) out[order[0]!] = 1
  else if (x >= nodes[last]!) out[order[last]!] = 1
  else {
    const i = nodes.findLastIndex((a) => a <= x)
    const rises = (1 - Math.cos((Math.PI * (x - nodes[i]!)) / (nodes[i + 1]! - nodes[i]!))) / 2
    out[order[i]!] = 1 - rises
    out[order[i + 1]!] = rises
  }
  return out
}
