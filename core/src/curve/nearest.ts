import { dist, type P2 } from '../math'
import { arcParamsAt, evaluate, pointAt } from './curve'
import { searchLine } from './flatten'
import type { Curve } from './types'

/** The point of a curve nearest to `p`: its parameter, itself and the distance, mm. */
export interface Nearest {
  t: number
  p: P2
  d: number
}

export function nearest(c: Curve, p: P2): Nearest {
  if (c.kind === 'line') {
    const [dx, dy] = [c.b[0] - c.a[0], c.b[1] - c.a[1]]
    const l2 = dx * dx + dy * dy
    const u = l2 > 0 ? ((p[0] - c.a[0]) * dx + (p[1] - c.a[1]) * dy) / l2 : 0
    return found(c, Math.min(1, Math.max(0, u)), p)
  }
  if (c.kind === 'arc') {
    const at = arcParamsAt(c, Math.atan2(p[1] - c.c[1], p[0] - c.c[0]))
    let best = closer(found(c, 0, p), found(c, 1, p))
    for (const t of at) best = closer(best, found(c, t, p))
    return best
  }
  return nearestOnSpline(c, p)
}

const found = (c: Curve, t: number, p: P2): Nearest => {
  const q = pointAt(c, t)
  return { t, p: q, d: dist(p, q) }
}
const closer = (a: Nearest, b: Nearest): Nearest => (b.d < a.d ? b : a)

function nearestOnSpline(c: Curve, p: P2): Nearest {
  const { t, x, y, chord } = searchLine(c)
  const n = t.length - 1
  const near = new Float64Array(n)
  let least = Number.POSITIVE_INFINITY
  for (let i = 0; i < n; i++) {
    const dx = x[i + 1]! - x[i]!
    const dy = y[i + 1]! - y[i]!
    const px = p[0] - x[i]!
    const py = p[1] - y[i]!
    const l2 = dx * dx + dy * dy
    const u = l2 > 0 ? Math.min(1, Math.max(0, (px * dx + py * dy) / l2)) : 0
    const [ex, ey] = [px - dx * u, py - dy * u]
    const d2 = ex * ex + ey * ey
    near[i] = d2
    if (d2 < least) least = d2
  }
  // A chord farther off than the nearest by twice the flattening error cannot hold the nearest point.
  const enough = (Math.sqrt(least) + 2 * chord) ** 2
  let best: Nearest | null = null
  for (let i = 0; i < n; i++) {
    // Of neighbouring candidates the nearest one leads Newton to the same foot.
    if (
      near[i]! > enough ||
      (i > 0 && near[i - 1]! < near[i]!) ||
      (i + 1 < n && near[i + 1]! < near[i]!)
    )
      continue
    const hit = polish(c, p, t[i]!, t[i + 1]!)
    best = best ? closer(best, hit) : hit
  }
  const ends = closer(found(c, 0, p), found(c, 1, p))
  return best ? closer(best, ends) : ends
}

/**
 * The place on a spline nearest to p, as far as it is led to from one chord of the search polyline; null
 * where that stretch cannot come nearer than `most`.
 */
export function chordFoot(c: Curve, p: P2, chord: number, most: number): Nearest | null {
  const { t, x, y, chord: off } = searchLine(c)
  const [dx, dy] = [x[chord + 1]! - x[chord]!, y[chord + 1]! - y[chord]!]
  const [px, py] = [p[0] - x[chord]!, p[1] - y[chord]!]
  const l2 = dx * dx + dy * dy
  const u = l2 > 0 ? Math.min(1, Math.max(0, (px * dx + py * dy) / l2)) : 0
  if (Math.hypot(px - dx * u, py - dy * u) - off >= most) return null
  const [t0, t1] = [t[chord]!, t[chord + 1]!]
  let hit = polish(c, p, t0, t1, t0 + (t1 - t0) * u)
  if (chord === 0) hit = closer(hit, found(c, 0, p))
  if (chord === t.length - 2) hit = closer(hit, found(c, 1, p))
  return hit
}

/**
 * Newton on (C - p) . C' inside [a, b], halving where a step leaves the bracket. At a cusp the root is a
 * double one, which Newton nears by a factor only: hence the many steps.
 */
function polish(c: Curve, p: P2, a: number, b: number, from = (a + b) / 2): Nearest {
  let t = from
  const [lo, hi] = [Math.max(0, a - (b - a)), Math.min(1, b + (b - a))]
  for (let i = 0; i < 40; i++) {
    const { p: q, d1, d2 } = evaluate(c, t)
    const [ex, ey] = [q[0] - p[0], q[1] - p[1]]
    const f = ex * d1[0] + ey * d1[1]
    const g = d1[0] * d1[0] + d1[1] * d1[1]
    // A curve without extent is where it is.
    if (g === 0) break
    const full = g + ex * d2[0] + ey * d2[1]
    const next = Math.min(hi, Math.max(lo, t - f / (full > g * 0.1 ? full : g)))
    if (Math.abs(next - t) < 1e-13) {
      t = next
      break
    }
    t = next
  }
  return found(c, t, p)
}
