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
