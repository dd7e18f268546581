/**
 * x with A x = b for a symmetric A of no negative values, by conjugate gradients from 0 or from what is given, which is changed:
 * until the square of what is left is `enough` of that of b.
 */
export function conjugate(
  apply: (x: Float64Array) => Float64Array,
  b: Float64Array,
  steps: number,
  enough = 1e-8,
  from?: Float64Array,
): Float64Array {
  const x = from ?? new Float64Array(b.length)
  const start = from && apply(from)
  const r = start ? b.map((v, i) => v - start[i]!) : b.slice()
  const p = r.slice()
  let rr = dot(r, r)
  const least = enough * dot(b, b)
  for (let k = 0; k < steps && rr > least; k++) {
    const q = apply(p)
    const a = rr / dot(p, q)
    for (let i = 0; i < x.length; i++) {
      x[i] += a * p[i]!
      r[i] -= a * q[i]!
    }
    const next = dot(r, r)
    const f = next / rr
    for (let i = 0; i < p.length; i++) p[i] = r[i]! + f * p[i]!
    rr = next
  }
  return x
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!
  return sum
}
