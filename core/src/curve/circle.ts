import { cross, dist, dot, left, norm, type P2, sub, unit } from '../math'
import { type Arc, arc, type Curve, line } from './types'

/** Arc from a over m to b; a straight line where the three points are in line. */
export function arcThrough(a: P2, m: P2, b: P2): Curve {
  const u = sub(m, a)
  const v = sub(b, a)
  const det = 2 * cross(u, v)
  if (Math.abs(det) <= 1e-9 * Math.max(norm(u), norm(v)) ** 2) return line(a, b)
  const c: P2 = [
    a[0] + (v[1] * dot(u, u) - u[1] * dot(v, v)) / det,
    a[1] + (u[0] * dot(v, v) - v[0] * dot(u, u)) / det,
  ]
  return arcAbout(c, a, b, det > 0)
}

/** Arc about centre c from a towards b, to the left (counter-clockwise) or right. */
export function arcAbout(c: P2, a: P2, b: P2, toLeft: boolean): Arc {
  const start = Math.atan2(a[1] - c[1], a[0] - c[0])
  let sweep = Math.atan2(b[1] - c[1], b[0] - c[0]) - start
  const full = 2 * Math.PI
  sweep = toLeft ? ((sweep % full) + full) % full : -(((-sweep % full) + full) % full)
  if (Math.abs(sweep) < 1e-12) sweep = toLeft ? full : -full
  return arc(c, dist(c, a), start, sweep)
}

/** Arc from a to b leaving a in direction `dir`; a line where b lies straight ahead. */
export function arcTangent(a: P2, dir: P2, b: P2): Curve {
  const u = unit(dir)
  const n = left(u)
  const w = sub(b, a)
  const side = dot(w, n)
  if (Math.abs(side) <= 1e-9 * Math.max(1, norm(w))) return line(a, b)
  const r = dot(w, w) / (2 * side)
  return arcAbout([a[0] + n[0] * r, a[1] + n[1] * r], a, b, r > 0)
}
