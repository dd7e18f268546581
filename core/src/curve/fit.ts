import { along, dist, norm, type P2, POINT, scale, sub } from '../math'
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
 * What a fitted spline does where no handle holds its ends: run out straight (`natural`), keep the
 * bend of its end pieces (`parabolic`), or close on itself without a seam (`periodic`).
 */
export type EndCondition = 'natural' | 'parabolic' | 'periodic'

/**
 * Cubic spline through the points with a tangent handle at each. Between held handles the curve has
 * continuous curvature; at a held handle the direction is kept and curvature may jump. Parameters
 * follow the chord lengths. A periodic one goes on from the last point to the first. A point on the
 * one before it counts once.
 */
export function fitSpline(
  through: readonly P2[],
  given: readonly Handle[],
  ends: EndCondition = 'natural',
): Spline {
  const { points, handles } = apart(through, given, ends)
  const n = points.length
  if (n < 2) throw new RangeError('a fitted spline needs two points')
  const closed = ends === 'periodic' && n > 2
  const next = (i: number): P2 => points[(i + 1) % n]!
  const pieces = closed ? points : points.slice(0, -1)
  const chords = pieces.map((p, i) => dist(p, next(i)))
  const slopes = pieces.map((p, i) => scale(sub(next(i), p), 1 / chords[i]!))
  const solve = (fixed: readonly (P2 | null)[]) =>
    solveTangents(slopes, chords, fixed, ends, closed)
  const free = solve(handles.map(fixedTangent))
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
  const tangents = held.some(Boolean) ? solve(held) : free
  const breaks = [0]
  const poles: P2[] = [points[0]!]
  for (const [i, h] of chords.entries()) {
    breaks.push(breaks[i]! + h)
    poles.push(
      along(points[i]!, tangents[i]!, h / 3),
      along(next(i), tangents[(i + 1) % n]!, -h / 3),
      next(i),
    )
  }
  return joinSpans(3, breaks, poles)
}

/** Without points that lie on the one before them, and a closed curve's last on its first. */
function apart(points: readonly P2[], handles: readonly Handle[], ends: EndCondition) {
  const kept: number[] = []
  for (const i of points.keys())
    if (kept.length === 0 || dist(points[i]!, points[kept[kept.length - 1]!]!) > POINT) kept.push(i)
  const last = kept[kept.length - 1]!
  if (ends === 'periodic' && kept.length > 2 && dist(points[last]!, points[0]!) <= POINT) kept.pop()
  return { points: kept.map((i) => points[i]!), handles: kept.map((i) => handles[i]!) }
}

/** Unit-speed scale: handle vectors are mm of pull, the spline runs one mm of chord a unit. */
const fixedTangent = (h: Handle): P2 | null =>
  h.hold === 'free' && norm(h.d) > 0 ? scale(h.d, 1 / HANDLE_REACH) : null

/** A handle of this length (mm) makes the curve run at the pace of its chord. */
export const HANDLE_REACH = 10

/**
 * Derivatives at the points of the cubic interpolant with continuous second derivative, some given: one
 * tridiagonal system for each coordinate, with two corners where the curve is closed (Burden & Faires
 * section 3.5; citation from memory). `slopes` and `h` are those of the chords.
 */
function solveTangents(
  slopes: readonly P2[],
  h: readonly number[],
  given: readonly (P2 | null)[],
  ends: EndCondition,
  closed: boolean,
): P2[] {
  const n = given.length
  const rows = given.map((fixed, i): Row => {
    if (fixed) return { lower: 0, diag: 1, upper: 0, r: fixed }
    const [first, last] = [!closed && i === 0, !closed && i === n - 1]
    if ((first || last) && ends === 'parabolic' && n > 2) {
      const s = slopes[first ? 0 : n - 2]!
      return { lower: last ? 1 : 0, diag: 1, upper: first ? 1 : 0, r: scale(s, 2) }
    }
    const k = (i + n - 1) % n
    const [before, after] = [first ? 0 : 1 / h[k]!, last ? 0 : 1 / h[i]!]
    const [s, t] = [first ? ZERO : slopes[k]!, last ? ZERO : slopes[i]!]
    return {
      lower: before,
      diag: 2 * (before + after),
      upper: after,
      r: [3 * (before * s[0] + after * t[0]), 3 * (before * s[1] + after * t[1])],
    }
  })
  return closed ? cyclic(rows) : tridiagonal(rows)
}

const ZERO: P2 = [0, 0]
interface Row {
  lower: number
  diag: number
  upper: number
  r: P2
}

/** Elimination without pivoting; the first `lower` and the last `upper` do not count. */
function tridiagonal(rows: readonly Row[]): P2[] {
  const diag = rows.map((r) => r.diag)
  const right = rows.map((r) => r.r)
  for (let i = 1; i < rows.length; i++) {
    const m = rows[i]!.lower / diag[i - 1]!
    diag[i]! -= m * rows[i - 1]!.upper
    right[i] = along(right[i]!, right[i - 1]!, -m)
  }
  const out: P2[] = new Array(rows.length)
  for (let i = rows.length - 1; i >= 0; i--) {
    const rest = i < rows.length - 1 ? along(right[i]!, out[i + 1]!, -rows[i]!.upper) : right[i]!
    out[i] = scale(rest, 1 / diag[i]!)
  }
  return out
}

/** The same with both corners: a change of rank one of a tridiagonal matrix (Sherman and Morrison 1950). */
function cyclic(rows: readonly Row[]): P2[] {
  const n = rows.length
  const [first, last] = [rows[0]!, rows[n - 1]!]
  const g = -first.diag
  const inner = rows.map((r, i) =>
    i === 0
      ? { ...r, diag: r.diag - g }
      : i === n - 1
        ? { ...r, diag: r.diag - (last.upper * first.lower) / g }
        : r,
  )
  const y = tridiagonal(inner)
  const z = tridiagonal(
    inner.map((r, i): Row => ({ ...r, r: [i === 0 ? g : i === n - 1 ? last.upper : 0, 0] })),
  ).map((p) => p[0])
  const k = first.lower / g
  const below = 1 + z[0]! + k * z[n - 1]!
  const share = scale(along(y[0]!, y[n - 1]!, k), 1 / below)
  return y.map((p, i) => along(p, share, -z[i]!))
}
