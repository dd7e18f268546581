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

/** Kronrod's 21 nodes on [-1, 1] from the outermost to the middle with their weights, and those of the 10 that are Gauss's own. QUADPACK, qk21. */
const KRONROD = {
  nodes: [
    0.9956571630258081, 0.9739065285171717, 0.9301574913557082, 0.8650633666889845,
    0.7808177265864169, 0.6794095682990244, 0.5627571346686047, 0.4333953941292472,
    0.2943928627014602, 0.14887433898163122, 0,
  ],
  weights: [
    0.011694638867371874, 0.032558162307964725, 0.054755896574351995, 0.07503967481091996,
    0.0931254545836976, 0.10938715880229764, 0.12349197626206584, 0.13470921731147334,
    0.14277593857706009, 0.1477391049013385, 0.14944555400291692,
  ],
  gauss: [
    0.06667134430868814, 0.1494513491505806, 0.21908636251598204, 0.26926671930999635,
    0.29552422471475287,
  ],
}

/**
 * Integrals over [a, b] of the `n` values that `f` writes into `out`, by Kronrod's 21 nodes, halved together until these agree with
 * Gauss's 10 among them to `rel` (of each) of what the sizes of the values come to, and `least` more (or `levels` deep, or after so many
 * parts): what cancels out does not ask for more than rounding can give. Values that are nothing but rounding need a `least`, as sums of
 * larger ones that cancel in each.
 */
export function integrateEach(
  f: (t: number, out: Float64Array) => void,
  n: number,
  a: number,
  b: number,
  rel: number | readonly number[],
  least: ArrayLike<number> = new Float64Array(n),
  levels = 24,
  parts = 400,
): Float64Array {
  const { nodes, weights, gauss } = KRONROD
  const share = (i: number): number => (typeof rel === 'number' ? rel : rel[i]!)
  let made = 0
  const out = new Float64Array(n)
  const sizes = new Float64Array(n)
  const off = new Float64Array(n)
  const over = (from: number, to: number, depth: number): Float64Array => {
    const [mid, half] = [(from + to) / 2, (to - from) / 2]
    const sum = new Float64Array(n)
    off.fill(0)
    for (let k = 0; k < nodes.length; k++)
      for (let side = k === nodes.length - 1 ? 1 : -1; side <= 1; side += 2) {
        f(mid + side * half * nodes[k]!, out)
        const [w, g] = [weights[k]! * half, k % 2 === 1 ? gauss[(k - 1) / 2]! * half : 0]
        for (let i = 0; i < n; i++) {
          sum[i]! += w * out[i]!
          off[i]! += (w - g) * out[i]!
          if (depth === levels) sizes[i]! += Math.abs(w * out[i]!)
        }
      }
    // What is no number does not become one by halving.
    const near = off.every((x, i) => !(Math.abs(x) > share(i) * sizes[i]! + least[i]!))
    if (near || depth === 0 || ++made > parts) return sum
    const [left, right] = [over(from, mid, depth - 1), over(mid, to, depth - 1)]
    return left.map((x, i) => x + right[i]!)
  }
  return over(a, b, levels)
}
