/**
 * A number with its exact derivatives: forward differentiation by the rules of calculus, so that every
 * residual brings its analytic Jacobian row without a second formula to keep in step.
 */
export interface Dual {
  v: number
  /** Derivative by each of the relation's own variables. */
  g: number[]
}

export const constant = (v: number, n: number): Dual => {
  // A plain array: small typed arrays take several times as long to make.
  const g: number[] = []
  for (let i = 0; i < n; i++) g.push(0)
  return { v, g }
}

const map2 = (a: Dual, b: Dual, v: number, da: number, db: number): Dual => {
  const g: number[] = []
  for (let i = 0; i < a.g.length; i++) g.push(da * a.g[i]! + db * b.g[i]!)
  return { v, g }
}
const map1 = (a: Dual, v: number, da: number): Dual => map2(a, a, v, da, 0)

export const add = (a: Dual, b: Dual): Dual => map2(a, b, a.v + b.v, 1, 1)
export const sub = (a: Dual, b: Dual): Dual => map2(a, b, a.v - b.v, 1, -1)
export const mul = (a: Dual, b: Dual): Dual => map2(a, b, a.v * b.v, b.v, a.v)
export const div = (a: Dual, b: Dual): Dual => map2(a, b, a.v / b.v, 1 / b.v, -a.v / (b.v * b.v))
/** a / b, and nothing where b vanishes: a line without length asks for no direction. */
export const over = (a: Dual, b: Dual): Dual =>
  Math.abs(b.v) > 1e-12 ? div(a, b) : constant(0, a.g.length)
export const times = (a: Dual, k: number): Dual => map1(a, a.v * k, k)
export const plus = (a: Dual, k: number): Dual => map1(a, a.v + k, 1)

/** Length of (a, b). Where it vanishes the derivative is taken along +a. */
export function hypot(a: Dual, b: Dual): Dual {
  const v = Math.hypot(a.v, b.v)
  return v > 1e-300 ? map2(a, b, v, a.v / v, b.v / v) : map2(a, b, 0, 1, 0)
}
/** Angle of (x, y), rad in (-pi, pi]. */
export function atan2(y: Dual, x: Dual): Dual {
  const q = x.v * x.v + y.v * y.v || 1
  return map2(y, x, Math.atan2(y.v, x.v), x.v / q, -y.v / q)
}

/** A point or vector of duals. */
export type D2 = readonly [Dual, Dual]
export const add2 = (a: D2, b: D2): D2 => [add(a[0], b[0]), add(a[1], b[1])]
export const sub2 = (a: D2, b: D2): D2 => [sub(a[0], b[0]), sub(a[1], b[1])]
export const dot2 = (a: D2, b: D2): Dual => add(mul(a[0], b[0]), mul(a[1], b[1]))
export const cross2 = (a: D2, b: D2): Dual => sub(mul(a[0], b[1]), mul(a[1], b[0]))
export const norm2 = (a: D2): Dual => hypot(a[0], a[1])
