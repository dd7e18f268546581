/**
 * A clamped B-spline basis: `degree` p, knots not falling, the first and the last p + 1 times. Parameters run
 * from the first knot to the last.
 */
export interface Basis {
  readonly degree: number
  readonly knots: Float64Array
}

/** How many functions (and so poles) it has. */
export const countOf = ({ degree, knots }: Basis): number => knots.length - degree - 1

/** The basis with these inner breaks, each with a multiplicity (1 where none is told), on [from, to]. */
export function basisOf(
  degree: number,
  breaks: readonly { at: number; times?: number }[] = [],
  from = 0,
  to = 1,
): Basis {
  const inner = breaks.flatMap(({ at, times = 1 }) => Array<number>(times).fill(at))
  const end = (x: number) => Array<number>(degree + 1).fill(x)
  return { degree, knots: Float64Array.from([...end(from), ...inner, ...end(to)]) }
}

/** A basis whose inner knots stand evenly, of so many functions; the degree falls where they are few. */
export function evenBasis(degree: number, count: number): Basis {
  const p = Math.min(degree, count - 1)
  const inner = count - p - 1
  return basisOf(
    p,
    Array.from({ length: inner }, (_, i) => ({ at: (i + 1) / (inner + 1) })),
  )
}

/**
 * The basis for interpolating at given parameters, as many functions as parameters: knots are running means of
 * them (Piegl & Tiller, The NURBS Book, eq. 9.8; from memory).
 */
export function averagedBasis(degree: number, at: ArrayLike<number>): Basis {
  const n = at.length
  const p = Math.min(degree, n - 1)
  const breaks = Array.from({ length: n - p - 1 }, (_, j) => {
    let sum = 0
    for (let i = 1; i <= p; i++) sum += at[j + i]!
    return { at: sum / p }
  })
  return basisOf(p, breaks, at[0]!, at[n - 1]!)
}

/** Index k of the span knots[k] <= t < knots[k+1]; the last one at the end. */
export function spanOf({ degree, knots }: Basis, t: number): number {
  let hi = knots.length - degree - 1
  if (t >= knots[hi]!) {
    while (knots[hi - 1] === knots[hi]) hi--
    return hi - 1
  }
  let lo = degree
  while (hi - lo > 1) {
    const mid = (lo + hi) >> 1
    if (t < knots[mid]!) hi = mid
    else lo = mid
  }
  return lo
}

/** Room for `derivatives`: functions that are not 0 in a span, of any degree the kernel makes (up to 25). */
export const MOST = 26
const ndu = new Float64Array(MOST * MOST)
const alpha = new Float64Array(2 * MOST)
const left = new Float64Array(MOST)
const right = new Float64Array(MOST)

/**
 * The p + 1 functions that are not 0 in a span, and their derivatives up to `order`, at t: row d of `out` holds the
 * d-th derivatives, p + 1 numbers a row. The NURBS Book A2.3. Allocates nothing.
 */
export function derivatives(
  { degree: p, knots }: Basis,
  span: number,
  t: number,
  order: number,
  out: Float64Array,
): void {
  if (order < 2) {
    valuesAndFirst(p, knots, span, t, order, out)
    return
  }
  const w = p + 1
  ndu[0] = 1
  for (let j = 1; j <= p; j++) {
    left[j] = t - knots[span + 1 - j]!
    right[j] = knots[span + j]! - t
    let saved = 0
    for (let r = 0; r < j; r++) {
      ndu[j * w + r] = right[r + 1]! + left[j - r]!
      const x = ndu[r * w + j - 1]! / ndu[j * w + r]!
      ndu[r * w + j] = saved + right[r + 1]! * x
      saved = left[j - r]! * x
    }
    ndu[j * w + j] = saved
  }
  for (let j = 0; j <= p; j++) out[j] = ndu[j * w + p]!
  const most = Math.min(order, p)
  for (let d = most + 1; d <= order; d++) out.fill(0, d * w, (d + 1) * w)
  if (most === 0) return
  for (let r = 0; r <= p; r++) {
    let [s1, s2] = [0, MOST]
    alpha[0] = 1
    for (let k = 1; k <= most; k++) {
      let d = 0
      const [rk, pk] = [r - k, p - k]
      if (r >= k) {
        alpha[s2] = alpha[s1]! / ndu[(pk + 1) * w + rk]!
        d = alpha[s2]! * ndu[rk * w + pk]!
      }
      const j1 = rk >= -1 ? 1 : -rk
      const j2 = r - 1 <= pk ? k - 1 : p - r
      for (let j = j1; j <= j2; j++) {
        alpha[s2 + j] = (alpha[s1 + j]! - alpha[s1 + j - 1]!) / ndu[(pk + 1) * w + rk + j]!
        d += alpha[s2 + j]! * ndu[(rk + j) * w + pk]!
      }
      if (r <= pk) {
        alpha[s2 + k] = -alpha[s1 + k - 1]! / ndu[(pk + 1) * w + r]!
        d += alpha[s2 + k]! * ndu[r * w + pk]!
      }
      out[k * w + r] = d
      ;[s1, s2] = [s2, s1]
    }
  }
  let factor = p
  for (let k = 1; k <= most; k++) {
    for (let j = 0; j <= p; j++) out[k * w + j]! *= factor
    factor *= p - k
  }
}

/** The same of values alone, or with first derivatives: A2.2, and differences of the functions of one degree less. */
function valuesAndFirst(
  p: number,
  knots: Float64Array,
  span: number,
  t: number,
  order: number,
  out: Float64Array,
): void {
  out[0] = 1
  const d = p + 1
  for (let j = 1; j <= p; j++) {
    left[j] = t - knots[span + 1 - j]!
    right[j] = knots[span + j]! - t
    const first = order === 1 && j === p
    if (first) out[d] = 0
    let saved = 0
    for (let r = 0; r < j; r++) {
      const [a, b] = [right[r + 1]!, left[j - r]!]
      const x = out[r]! / (a + b)
      out[r] = saved + a * x
      saved = b * x
      if (first) {
        out[d + r]! -= p * x
        out[d + r + 1] = p * x
      }
    }
    out[j] = saved
  }
  if (p === 0 && order === 1) out[1] = 0
}

/** The Greville parameters: where to interpolate so that it is always possible, one for each function. */
export function greville(b: Basis): Float64Array {
  const p = b.degree
  return Float64Array.from({ length: countOf(b) }, (_, i) => {
    let sum = 0
    for (let j = 1; j <= p; j++) sum += b.knots[i + j]!
    return p === 0 ? b.knots[i]! : sum / p
  })
}

/** The ends of the spans that are not empty. */
export function breaksOf({ degree, knots }: Basis): number[] {
  const out: number[] = []
  for (let i = degree; i < knots.length - degree; i++)
    if (out.length === 0 || knots[i]! > out[out.length - 1]!) out.push(knots[i]!)
  return out
}

/** The inner knots where what stands on it may be creased: as many times there as its degree, or more. */
export const creasesIn = (b: Basis): number[] =>
  breaksOf(b)
    .slice(1, -1)
    .filter((t) => b.knots.filter((k) => k === t).length >= b.degree)

/** Shares of a span at which a fit is looked at: no even spacing, as the places it was made from have. */
export const PROBES = [0.07, 0.29, 0.52, 0.77, 0.94]

/** A basis of the same degree with every span of a set halved. */
export function halved(b: Basis, spans: ReadonlySet<number>): Basis {
  const breaks = breaksOf(b)
  const extra: number[] = []
  for (const i of spans) extra.push((breaks[i]! + breaks[i + 1]!) / 2)
  const knots = Float64Array.from([...b.knots, ...extra]).sort()
  return { degree: b.degree, knots }
}
