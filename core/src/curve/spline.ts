import { along, lerp, type P2, scale, sub } from '../math'
import type { Spline } from './types'

/** One polynomial piece of a spline in Bezier form, valid on [t0, t1]. */
export interface Span {
  readonly t0: number
  readonly t1: number
  readonly ctrl: readonly P2[]
}

/** A clamped B-spline from poles and knots on any interval; the knots are scaled to [0, 1]. */
export function spline(degree: number, knots: readonly number[], poles: readonly P2[]): Spline {
  if (knots.length !== poles.length + degree + 1) {
    throw new RangeError(
      `a spline of degree ${degree} with ${poles.length} poles needs ${poles.length + degree + 1} knots`,
    )
  }
  const k0 = knots[0]!
  const k1 = knots[knots.length - 1]!
  return { kind: 'spline', degree, poles, knots: knots.map((k) => (k - k0) / (k1 - k0)) }
}

/** Control-point spline with evenly spaced inner knots. Degree drops where poles are too few. */
export function uniformSpline(poles: readonly P2[], degree = 3): Spline {
  const p = Math.max(1, Math.min(degree, poles.length - 1))
  const inner = poles.length - p - 1
  const knots = [
    ...Array(p + 1).fill(0),
    ...Array.from({ length: inner }, (_, i) => (i + 1) / (inner + 1)),
    ...Array(p + 1).fill(1),
  ] as number[]
  return { kind: 'spline', degree: p, knots, poles }
}

/** Bezier pieces joined end to end (shared end poles), breaks given, as one spline. */
export function joinSpans(degree: number, breaks: readonly number[], poles: readonly P2[]): Spline {
  const knots: number[] = Array(degree + 1).fill(breaks[0]!)
  for (const b of breaks.slice(1, -1)) for (let i = 0; i < degree; i++) knots.push(b)
  for (let i = 0; i <= degree; i++) knots.push(breaks[breaks.length - 1]!)
  return spline(degree, knots, poles)
}

/** Index k with knots[k] <= t < knots[k+1] (the last span at the end). The NURBS Book A2.1. */
export function findSpan(s: Spline, t: number): number {
  const n = s.poles.length - 1
  if (t >= s.knots[n + 1]!) return n
  let lo = s.degree
  let hi = n + 1
  while (hi - lo > 1) {
    const mid = (lo + hi) >> 1
    if (t < s.knots[mid]!) hi = mid
    else lo = mid
  }
  return lo
}

/** Non-zero basis functions N[k-p..k] at t. The NURBS Book A2.2. */
export function basis(s: Spline, k: number, t: number): number[] {
  const p = s.degree
  const out = [1]
  const l: number[] = [0]
  const r: number[] = [0]
  for (let j = 1; j <= p; j++) {
    l[j] = t - s.knots[k + 1 - j]!
    r[j] = s.knots[k + j]! - t
    let saved = 0
    for (let i = 0; i < j; i++) {
      const w = out[i]! / (r[i + 1]! + l[j - i]!)
      out[i] = saved + r[i + 1]! * w
      saved = l[j - i]! * w
    }
    out[j] = saved
  }
  return out
}

/** Inserts knot t once. The NURBS Book A5.1 with one insertion. */
export function insertKnot(s: Spline, t: number): Spline {
  const p = s.degree
  const k = findSpan(s, t)
  const poles: P2[] = []
  for (let i = 0; i <= s.poles.length; i++) {
    if (i <= k - p) poles.push(s.poles[i]!)
    else if (i > k) poles.push(s.poles[i - 1]!)
    else {
      const a = (t - s.knots[i]!) / (s.knots[i + p]! - s.knots[i]!)
      poles.push(lerp(s.poles[i - 1]!, s.poles[i]!, a))
    }
  }
  const knots = [...s.knots.slice(0, k + 1), t, ...s.knots.slice(k + 1)]
  return { kind: 'spline', degree: p, knots, poles }
}

/** A cut this near to a knot (in parameter) is taken at the knot, so no sliver span appears. */
const KNOT_SNAP = 1e-10

const multiplicity = (s: Spline, t: number): number => s.knots.filter((k) => k === t).length

/** The part from t0 to t1 (t0 < t1) as a spline of its own on [0, 1]. */
export function subSpline(s: Spline, from: number, to: number): Spline {
  const snap = (t: number) => s.knots.find((k) => Math.abs(k - t) < KNOT_SNAP) ?? t
  const t0 = snap(from)
  const t1 = snap(to)
  let w = s
  for (const t of [t0, t1]) {
    if (t <= 0 || t >= 1) continue
    for (let m = multiplicity(w, t); m < s.degree; m++) w = insertKnot(w, t)
  }
  const p = s.degree
  // First index of the run of equal knots at each end; the poles between belong to the part.
  const a = t0 <= 0 ? 0 : w.knots.indexOf(t0) - 1
  const b = t1 >= 1 ? w.poles.length - 1 : w.knots.indexOf(t1) - 1
  const poles = w.poles.slice(a, b + 1)
  const inner = w.knots.filter((k) => k > t0 && k < t1)
  const knots = [...Array(p + 1).fill(t0), ...inner, ...Array(p + 1).fill(t1)]
  return spline(p, knots, poles)
}

const spanCache = new WeakMap<Spline, Span[]>()

/** Bezier pieces of a spline, computed once for each spline. */
export function spansOf(s: Spline): Span[] {
  const known = spanCache.get(s)
  if (known) return known
  const inner = [...new Set(s.knots)].filter((k) => k > 0 && k < 1)
  let w = s
  for (const t of inner) for (let m = multiplicity(w, t); m < s.degree; m++) w = insertKnot(w, t)
  const breaks = [0, ...inner, 1]
  const spans = breaks.slice(1).map((t1, i) => ({
    t0: breaks[i]!,
    t1,
    ctrl: w.poles.slice(i * s.degree, i * s.degree + s.degree + 1),
  }))
  spanCache.set(s, spans)
  return spans
}

/** Point with first and second derivative by t. */
export function evalSpline(s: Spline, t: number): { p: P2; d1: P2; d2: P2 } {
  const spans = spansOf(s)
  let lo = 0
  let hi = spans.length - 1
  while (lo < hi) {
    const mid = (lo + hi) >> 1
    if (t < spans[mid]!.t1) hi = mid
    else lo = mid + 1
  }
  const { t0, t1, ctrl } = spans[lo]!
  const u = (t - t0) / (t1 - t0)
  return s.degree === 3 ? evalCubic(ctrl, u, t1 - t0) : evalBezier(ctrl, u, t1 - t0)
}

/** The common case written out: it is where the time of every search goes. */
function evalCubic(c: readonly P2[], u: number, h: number): { p: P2; d1: P2; d2: P2 } {
  const v = 1 - u
  const [b0, b1, b2, b3] = [v * v * v, 3 * v * v * u, 3 * v * u * u, u * u * u]
  const k = 3 / h
  const [e0, e1, e2] = [k * v * v, 2 * k * v * u, k * u * u]
  const m = 6 / (h * h)
  const [x0, y0] = c[0]!
  const [x1, y1] = c[1]!
  const [x2, y2] = c[2]!
  const [x3, y3] = c[3]!
  return {
    p: [b0 * x0 + b1 * x1 + b2 * x2 + b3 * x3, b0 * y0 + b1 * y1 + b2 * y2 + b3 * y3],
    d1: [
      e0 * (x1 - x0) + e1 * (x2 - x1) + e2 * (x3 - x2),
      e0 * (y1 - y0) + e1 * (y2 - y1) + e2 * (y3 - y2),
    ],
    d2: [
      m * (v * (x2 - 2 * x1 + x0) + u * (x3 - 2 * x2 + x1)),
      m * (v * (y2 - 2 * y1 + y0) + u * (y3 - 2 * y2 + y1)),
    ],
  }
}

/** de Casteljau down to the last three levels, which hold the derivatives. */
function evalBezier(ctrl: readonly P2[], u: number, h: number): { p: P2; d1: P2; d2: P2 } {
  const n = ctrl.length - 1
  let c = ctrl as P2[]
  let d2: P2 = [0, 0]
  let d1: P2 = [0, 0]
  for (let level = n; level > 0; level--) {
    if (level === 2) {
      const dd = along(sub(c[2]!, c[1]!), sub(c[1]!, c[0]!), -1)
      d2 = scale(dd, (n * (n - 1)) / (h * h))
    }
    if (level === 1) d1 = scale(sub(c[1]!, c[0]!), n / h)
    const next: P2[] = new Array(level)
    for (let k = 0; k < level; k++) next[k] = lerp(c[k]!, c[k + 1]!, u)
    c = next
  }
  return { p: c[0]!, d1, d2 }
}

/** The same curve one degree higher, span by span (Bezier elevation, Farin ch. 5). */
export function elevate(s: Spline): Spline {
  const n = s.degree
  const poles: P2[] = []
  const spans = spansOf(s)
  for (const [i, { ctrl }] of spans.entries()) {
    for (let k = i === 0 ? 0 : 1; k <= n + 1; k++) {
      const a = k / (n + 1)
      if (k === 0) poles.push(ctrl[0]!)
      else if (k === n + 1) poles.push(ctrl[n]!)
      else poles.push(lerp(ctrl[k]!, ctrl[k - 1]!, a))
    }
  }
  return joinSpans(n + 1, [0, ...spans.map((x) => x.t1)], poles)
}
