import { along, dist, norm, type P2, scale, sub } from '../math'
import { joinSpans } from './spline'
import type { Spline } from './types'

/**
 * How a fit-point spline leaves a point: `auto` lets curvature flow through, `level` and `upright`
 * hold the direction to the horizontal or vertical, `free` holds the given vector (mm; its length
 * is how strongly the curve keeps the direction).
 */
export type Handle =
  | { hold: 'auto' }
  | { hold: 'level' | 'upright'; weight?: number }
  | { hold: 'free'; d: P2 }

/**
 * Cubic spline through the points with a tangent handle at each. Between held handles the curve has
 * continuous curvature (natural ends where an end is `auto`); at a held handle the direction is kept
 * and curvature may jump. Parameters follow the chord lengths.
 */
export function fitSpline(points: readonly P2[], handles: readonly Handle[]): Spline {
  const n = points.length
  if (n < 2) throw new RangeError('a fitted spline needs two points')
  const chords = points.slice(1).map((p, i) => Math.max(dist(points[i]!, p), 1e-9))
  const free = solveTangents(points, chords, handles.map(fixedTangent))
  const held = handles.map((h, i): P2 | null => {
    if (h.hold === 'auto') return null
    if (h.hold === 'free') return fixedTangent(h)
    const axis = h.hold === 'level' ? 0 : 1
    const natural = free[i]!
    const lean =
      natural[axis] !== 0
        ? natural[axis]
        : sub(points[Math.min(n - 1, i + 1)]!, points[Math.max(0, i - 1)]!)[axis]
    const size = (h.weight ?? 1) * norm(natural) * (lean < 0 ? -1 : 1)
    return axis === 0 ? [size, 0] : [0, size]
  })
  const tangents = held.some(Boolean) ? solveTangents(points, chords, held) : free
  const breaks = [0]
  const poles: P2[] = [points[0]!]
  for (let i = 0; i < n - 1; i++) {
    const h = chords[i]!
    breaks.push(breaks[i]! + h)
    poles.push(
      along(points[i]!, tangents[i]!, h / 3),
      along(points[i + 1]!, tangents[i + 1]!, -h / 3),
      points[i + 1]!,
    )
  }
  return joinSpans(3, breaks, poles)
}

/** Unit-speed scale: handle vectors are mm of pull, the spline runs one mm of chord a unit. */
const fixedTangent = (h: Handle): P2 | null =>
  h.hold === 'free' && norm(h.d) > 0 ? scale(h.d, 1 / HANDLE_REACH) : null

/** A handle of this length (mm) makes the curve run at the pace of its chord. */
export const HANDLE_REACH = 10

/**
 * Derivatives at the points of the cubic interpolant with continuous second derivative, free ends
 * natural, some derivatives given: one tridiagonal system for each coordinate (Burden & Faires
 * section 3.5; citation from memory).
 */
function solveTangents(
  points: readonly P2[],
  h: readonly number[],
  given: readonly (P2 | null)[],
): P2[] {
  const n = points.length
  const lower = new Float64Array(n)
  const diag = new Float64Array(n)
  const upper = new Float64Array(n)
  const rx = new Float64Array(n)
  const ry = new Float64Array(n)
  const slope = (i: number): P2 => scale(sub(points[i + 1]!, points[i]!), 1 / h[i]!)
  for (let i = 0; i < n; i++) {
    const fixed = given[i]
    if (fixed) {
      diag[i] = 1
      rx[i] = fixed[0]
      ry[i] = fixed[1]
      continue
    }
    const before = i > 0 ? 1 / h[i - 1]! : 0
    const after = i < n - 1 ? 1 / h[i]! : 0
    lower[i] = before
    upper[i] = after
    diag[i] = 2 * (before + after)
    const s0 = i > 0 ? slope(i - 1) : ([0, 0] as P2)
    const s1 = i < n - 1 ? slope(i) : ([0, 0] as P2)
    rx[i] = 3 * (before * s0[0] + after * s1[0])
    ry[i] = 3 * (before * s0[1] + after * s1[1])
  }
  for (let i = 1; i < n; i++) {
    const m = lower[i]! / diag[i - 1]!
    diag[i]! -= m * upper[i - 1]!
    rx[i]! -= m * rx[i - 1]!
    ry[i]! -= m * ry[i - 1]!
  }
  const out: P2[] = new Array(n)
  for (let i = n - 1; i >= 0; i--) {
    const next = i < n - 1 ? out[i + 1]! : ([0, 0] as P2)
    out[i] = [(rx[i]! - upper[i]! * next[0]) / diag[i]!, (ry[i]! - upper[i]! * next[1]) / diag[i]!]
  }
  return out
}
