/**
 * A root of `f` in the bracket [a, b] (f(a) and f(b) of different sign) by Brent's method
 * (Brent 1973, Algorithms for Minimization without Derivatives; citation from memory).
 */
export function brent(
  f: (x: number) => number,
  a: number,
  b: number,
  tol = 1e-12,
  fa = f(a),
  fb = f(b),
): number {
  if (fa === 0) return a
  if (fb === 0) return b
  if (fa * fb > 0) throw new RangeError('brent: the bracket does not change sign')
  let [x0, x1, f0, f1] = [a, b, fa, fb]
  let [c, fc] = [x0, f0]
  let d = x1 - x0
  let e = d
  for (let i = 0; i < 200; i++) {
    if (f1 * fc > 0) {
      c = x0
      fc = f0
      d = x1 - x0
      e = d
    }
    if (Math.abs(fc) < Math.abs(f1)) {
      ;[x0, x1, c] = [x1, c, x1]
      ;[f0, f1, fc] = [f1, fc, f1]
    }
    const eps = 2 * Number.EPSILON * Math.abs(x1) + tol / 2
    const half = (c - x1) / 2
    if (Math.abs(half) <= eps || f1 === 0) return x1
    if (Math.abs(e) >= eps && Math.abs(f0) > Math.abs(f1)) {
      const s = f1 / f0
      let p: number
      let q: number
      if (x0 === c) {
        p = 2 * half * s
        q = 1 - s
      } else {
        const u = f0 / fc
        const r = f1 / fc
        p = s * (2 * half * u * (u - r) - (x1 - x0) * (r - 1))
        q = (u - 1) * (r - 1) * (s - 1)
      }
      if (p > 0) q = -q
      p = Math.abs(p)
      if (2 * p < Math.min(3 * half * q - Math.abs(eps * q), Math.abs(e * q))) {
        e = d
        d = p / q
      } else {
        d = half
        e = half
      }
    } else {
      d = half
      e = half
    }
    x0 = x1
    f0 = f1
    x1 += Math.abs(d) > eps ? d : Math.sign(half) * eps
    f1 = f(x1)
  }
  return x1
}

/**
 * Lowest value of a unimodal `f` on [a, b] by golden section, to `tol` in x, or until the values at both
 * ends and between differ by no more than `level`.
 */
export function goldenMin(
  f: (x: number) => number,
  a: number,
  b: number,
  tol = 1e-9,
  level = -1,
): { x: number; value: number } {
  const g = (Math.sqrt(5) - 1) / 2
  let [lo, hi] = [a, b]
  let [x1, x2] = [hi - g * (hi - lo), lo + g * (hi - lo)]
  let [f1, f2] = [f(x1), f(x2)]
  let [f0, f3] = level >= 0 ? [f(lo), f(hi)] : [f1, f2]
  while (hi - lo > tol) {
    if (Math.max(f0, f1, f2, f3) - Math.min(f0, f1, f2, f3) <= level) break
    if (f1 <= f2) {
      ;[hi, f3, x2, f2] = [x2, f2, x1, f1]
      x1 = hi - g * (hi - lo)
      f1 = f(x1)
    } else {
      ;[lo, f0, x1, f1] = [x1, f1, x2, f2]
      x2 = lo + g * (hi - lo)
      f2 = f(x2)
    }
  }
  return f1 <= f2 ? { x: x1, value: f1 } : { x: x2, value: f2 }
}
