/** Nodes on [0,1] and weights of an n-point Gauss-Legendre rule (exact for degree 2n-1). */
export interface Rule {
  nodes: Float64Array
  weights: Float64Array
}

const rules = new Map<number, Rule>()

/** Newton on the Legendre recurrence (Abramowitz & Stegun 25.4.29; citation from memory). */
export function gaussRule(n: number): Rule {
  const known = rules.get(n)
  if (known) return known
  const nodes = new Float64Array(n)
  const weights = new Float64Array(n)
  for (let i = 0; i < n; i++) {
    let x = Math.cos((Math.PI * (i + 0.75)) / (n + 0.5))
    let slope = 1
    for (let step = 0; step < 100; step++) {
      let p0 = 1
      let p1 = x
      for (let k = 2; k <= n; k++) {
        const p2 = ((2 * k - 1) * x * p1 - (k - 1) * p0) / k
        p0 = p1
        p1 = p2
      }
      slope = (n * (x * p1 - p0)) / (x * x - 1)
      const dx = p1 / slope
      x -= dx
      if (Math.abs(dx) < 1e-16) break
    }
    nodes[i] = (1 - x) / 2
    weights[i] = 1 / ((1 - x * x) * slope * slope)
  }
  const rule = { nodes, weights }
  rules.set(n, rule)
  return rule
}

/** Integral of `f` over [a, b] by one n-point rule. */
export function integrate(f: (t: number) => number, a: number, b: number, n = 16): number {
  const { nodes, weights } = gaussRule(n)
  let sum = 0
  for (let i = 0; i < n; i++) sum += weights[i]! * f(a + (b - a) * nodes[i]!)
  return sum * (b - a)
}

/**
 * Integral of a smooth `f` over [a, b], halved until two halves agree with the whole to
 * `rel` of the running value (or 24 levels deep, where rounding has long taken over).
 */
export function integrateTo(
  f: (t: number) => number,
  a: number,
  b: number,
  rel = 1e-12,
  depth = 24,
): number {
  const whole = integrate(f, a, b, 12)
  const m = (a + b) / 2
  const parts = integrate(f, a, m, 12) + integrate(f, m, b, 12)
  if (depth === 0 || Math.abs(parts - whole) <= rel * Math.max(Math.abs(parts), 1e-9)) return parts
  return integrateTo(f, a, m, rel, depth - 1) + integrateTo(f, m, b, rel, depth - 1)
}

/**
 * Integrals over [a, b] of the `n` values that `f` writes into `out`, halved together until two halves agree with the whole to
 * `rel` of what the sizes of the values come to, and `least` more (or `levels` deep): what cancels out does not ask for more than rounding
 * can give. Values that are nothing but rounding need a `least`, as sums of larger ones that cancel in each.
 */
export function integrateEach(
  f: (t: number, out: Float64Array) => void,
  n: number,
  a: number,
  b: number,
  rel: number,
  least: ArrayLike<number> = new Float64Array(n),
  levels = 24,
): Float64Array {
  const { nodes, weights } = gaussRule(12)
  const out = new Float64Array(n)
  const sizes = new Float64Array(n)
  const once = (from: number, to: number, size?: Float64Array): Float64Array => {
    const sum = new Float64Array(n)
    for (let k = 0; k < nodes.length; k++) {
      f(from + (to - from) * nodes[k]!, out)
      for (let i = 0; i < n; i++) {
        sum[i]! += weights[k]! * (to - from) * out[i]!
        if (size) size[i]! += weights[k]! * Math.abs((to - from) * out[i]!)
      }
    }
    return sum
  }
  const halve = (from: number, to: number, whole: Float64Array, depth: number): Float64Array => {
    const mid = (from + to) / 2
    const [l, r] = [once(from, mid), once(mid, to)]
    // What is no number does not become one by halving.
    const near = l.every((x, i) => !(Math.abs(x + r[i]! - whole[i]!) > rel * sizes[i]! + least[i]!))
    const [left, right] =
      near || depth === 0 ? [l, r] : [halve(from, mid, l, depth - 1), halve(mid, to, r, depth - 1)]
    return left.map((x, i) => x + right[i]!)
  }
  return halve(a, b, once(a, b, sizes), levels)
}
