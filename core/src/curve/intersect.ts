import { along, boxesMeet, cross, dist, dot, norm, type P2, POINT, sub } from '../math'
import { arcParamsAt, boundsOf, endOf, evaluate, pointAt, startOf } from './curve'
import { type Polyline, searchLine } from './flatten'
import { lineSpline } from './linespline'
import { nearest } from './nearest'
import type { Arc, Curve, Line } from './types'

/** A meeting of two curves: parameter on the first, parameter on the second. */
export interface Meeting {
  t: number
  s: number
}

/**
 * Every point where the two curves meet, touching and end-to-end contacts included. Where they run
 * along each other, the ends of the common stretch are reported. Points nearer than `POINT` are one.
 */
export function intersect(a: Curve, b: Curve): Meeting[] {
  if (!boxesMeet(boundsOf(a), boundsOf(b), POINT)) return []
  const out: Meeting[] = []
  // Ends first: they decide contacts and common stretches exactly.
  for (const t of [0, 1]) {
    const near = nearest(b, pointAt(a, t))
    if (near.d <= POINT) out.push({ t, s: near.t })
    const back = nearest(a, pointAt(b, t))
    if (back.d <= POINT) out.push({ t: back.t, s: t })
  }
  const inner =
    a.kind === 'line' && b.kind === 'line'
      ? lineLine(a, b)
      : a.kind === 'line' && b.kind === 'arc'
        ? lineArc(a, b)
        : a.kind === 'arc' && b.kind === 'line'
          ? lineArc(b, a).map(({ t, s }) => ({ t: s, s: t }))
          : a.kind === 'arc' && b.kind === 'arc'
            ? arcArc(a, b)
            : alongEachOther(a, b, out)
              ? []
              : [...crossings(a, b), ...bySearch(a, b)]
  return unique(a, b, [...out, ...inner])
}

/** Crossings of a line and a spline, all of them: a search by chords finds one a chord. */
const crossings = (a: Curve, b: Curve): Meeting[] =>
  a.kind === 'line' && b.kind === 'spline'
    ? lineSpline(a, b)
    : a.kind === 'spline' && b.kind === 'line'
      ? lineSpline(b, a).map(({ t, s }) => ({ t: s, s: t }))
      : []

/** Meetings of a curve with itself (two different parameters, one point). */
export function selfIntersect(c: Curve): Meeting[] {
  if (c.kind !== 'spline') return []
  const out: Meeting[] = []
  for (const hit of bySearch(c, c)) {
    const m = hit.t < hit.s ? hit : { t: hit.s, s: hit.t }
    const p = pointAt(c, m.t)
    // A closed curve meets itself at its seam without crossing there.
    if (m.t < 1e-6 && m.s > 1 - 1e-6) continue
    const apart = m.s - m.t > 1e-6 && dist(pointAt(c, (m.t + m.s) / 2), p) > POINT
    if (apart && !out.some((o) => dist(pointAt(c, o.t), p) <= 2 * POINT)) out.push(m)
  }
  return out
}

function lineLine(a: Line, b: Line): Meeting[] {
  const u = sub(a.b, a.a)
  const v = sub(b.b, b.a)
  const det = cross(u, v)
  if (Math.abs(det) <= 1e-12 * norm(u) * norm(v)) return []
  const w = sub(b.a, a.a)
  return [{ t: cross(w, v) / det, s: cross(w, u) / det }]
}

function lineArc(l: Line, c: Arc): Meeting[] {
  const d = sub(l.b, l.a)
  const n = norm(d)
  if (n === 0) return []
  const foot = dot(sub(c.c, l.a), d) / n
  const h = cross(d, sub(c.c, l.a)) / n
  const under = c.radius * c.radius - h * h
  // Within POINT of touching counts as touching (depth of a chord of that sagitta).
  if (under < -2 * c.radius * POINT) return []
  const half = Math.sqrt(Math.max(0, under))
  return [foot - half, foot + half].flatMap((x) => {
    const p = along(l.a, d, x / n)
    return arcAt(c, p).map((s) => ({ t: x / n, s }))
  })
}

function arcArc(a: Arc, b: Arc): Meeting[] {
  const w = sub(b.c, a.c)
  const d = norm(w)
  if (d < POINT) return []
  const x = (d * d + a.radius * a.radius - b.radius * b.radius) / (2 * d)
  const under = a.radius * a.radius - x * x
  if (under < -2 * a.radius * POINT) return []
  const y = Math.sqrt(Math.max(0, under))
  return [y, -y].flatMap((h) => {
    const p: P2 = [a.c[0] + (w[0] * x - w[1] * h) / d, a.c[1] + (w[1] * x + w[0] * h) / d]
    return arcAt(a, p).flatMap((t) => arcAt(b, p).map((s) => ({ t, s })))
  })
}

const arcAt = (c: Arc, p: P2): number[] => arcParamsAt(c, Math.atan2(p[1] - c.c[1], p[0] - c.c[0]))

/** True when the stretch between the end contacts already found is common to both curves. */
function alongEachOther(a: Curve, b: Curve, ends: Meeting[]): boolean {
  const ts = ends.map((m) => m.t).sort((x, y) => x - y)
  const [t0, t1] = [ts[0], ts[ts.length - 1]]
  if (t0 === undefined || t1 === undefined || t1 - t0 < 1e-9) return false
  return [0.21, 0.5, 0.83].every((u) => nearest(b, pointAt(a, t0 + (t1 - t0) * u)).d <= POINT)
}

/** Starts from the search polylines, finished by Newton. */
function bySearch(a: Curve, b: Curve): Meeting[] {
  const A = searchLine(a)
  const B = searchLine(b)
  const gap = A.chord + B.chord
  const same = a === b
  const out: Meeting[] = []
  const bb = boundsOf(b)
  for (let i = 0; i + 1 < A.t.length; i++) {
    const ax0 = Math.min(A.x[i]!, A.x[i + 1]!) - gap
    const ax1 = Math.max(A.x[i]!, A.x[i + 1]!) + gap
    const ay0 = Math.min(A.y[i]!, A.y[i + 1]!) - gap
    const ay1 = Math.max(A.y[i]!, A.y[i + 1]!) + gap
    if (ax0 > bb.max[0] || ax1 < bb.min[0] || ay0 > bb.max[1] || ay1 < bb.min[1]) continue
    for (let j = same ? i + 2 : 0; j + 1 < B.t.length; j++) {
      if (Math.min(B.x[j]!, B.x[j + 1]!) > ax1 || Math.max(B.x[j]!, B.x[j + 1]!) < ax0) continue
      if (Math.min(B.y[j]!, B.y[j + 1]!) > ay1 || Math.max(B.y[j]!, B.y[j + 1]!) < ay0) continue
      if (chordApart(A, i, B, j) > gap || chordApart(B, j, A, i) > gap) continue
      for (const [u, v] of [
        [0.5, 0.5],
        [0, 0.5],
        [1, 0.5],
      ] as const) {
        const hit = newton(
          a,
          b,
          A.t[i]! + (A.t[i + 1]! - A.t[i]!) * u,
          B.t[j]! + (B.t[j + 1]! - B.t[j]!) * v,
        )
        if (hit) {
          out.push(hit)
          break
        }
      }
    }
  }
  return out
}

/** How far a chord of `b` stays to one side of the line through a chord of `a`; 0 where it crosses it. */
function chordApart(a: Polyline, i: number, b: Polyline, j: number): number {
  const [x, y] = [a.x[i]!, a.y[i]!]
  const [dx, dy] = [a.x[i + 1]! - x, a.y[i + 1]! - y]
  const l = Math.hypot(dx, dy)
  if (l === 0) return 0
  const h0 = (dx * (b.y[j]! - y) - dy * (b.x[j]! - x)) / l
  const h1 = (dx * (b.y[j + 1]! - y) - dy * (b.x[j + 1]! - x)) / l
  return h0 * h1 <= 0 ? 0 : Math.min(Math.abs(h0), Math.abs(h1))
}

/** Gauss-Newton on C(t) - D(s); a singular system (touching) takes the damped step. */
function newton(a: Curve, b: Curve, t0: number, s0: number): Meeting | null {
  let [t, s] = [t0, s0]
  for (let i = 0; i < 40; i++) {
    const A = evaluate(a, t)
    const B = evaluate(b, s)
    const e = sub(A.p, B.p)
    const gt = dot(A.d1, e)
    const gs = -dot(B.d1, e)
    const m11 = dot(A.d1, A.d1)
    const m22 = dot(B.d1, B.d1)
    const m12 = -dot(A.d1, B.d1)
    const damp = 1e-14 * (m11 + m22)
    const det = (m11 + damp) * (m22 + damp) - m12 * m12
    if (det === 0) return null
    const dt = (-gt * (m22 + damp) + gs * m12) / det
    const ds = (-gs * (m11 + damp) + gt * m12) / det
    const nt = Math.min(1, Math.max(0, t + Math.max(-0.2, Math.min(0.2, dt))))
    const ns = Math.min(1, Math.max(0, s + Math.max(-0.2, Math.min(0.2, ds))))
    const moved = Math.abs(nt - t) + Math.abs(ns - s)
    t = nt
    s = ns
    if (moved < 1e-15) break
  }
  return dist(pointAt(a, t), pointAt(b, s)) <= POINT ? { t, s } : null
}

/** Clamps to the curves, drops misses, merges meetings that are one point, snaps to ends. */
function unique(a: Curve, b: Curve, all: Meeting[]): Meeting[] {
  const ends = [startOf(a), endOf(a), startOf(b), endOf(b)] as const
  const out: (Meeting & { p: P2 })[] = []
  for (const m of all) {
    let t = Math.min(1, Math.max(0, m.t))
    let s = Math.min(1, Math.max(0, m.s))
    const p = pointAt(a, t)
    if (dist(p, pointAt(b, s)) > 2 * POINT) continue
    if (dist(p, ends[0]) <= POINT) t = 0
    else if (dist(p, ends[1]) <= POINT) t = 1
    if (dist(p, ends[2]) <= POINT) s = 0
    else if (dist(p, ends[3]) <= POINT) s = 1
    if (!out.some((o) => dist(o.p, p) <= 2 * POINT)) out.push({ t, s, p })
  }
  return out.map(({ t, s }) => ({ t, s }))
}
