import { along, dot, FIT, left, type P2, scale, sub, unit } from '../math'
import { curvatureAt, evaluate, smoothBreaks, tangentAt } from './curve'
import { joinSpans } from './spline'
import { arc, type Curve, line } from './types'

/**
 * The curves at distance `d` mm to the left of `c` (to the right for negative d), running the same
 * way. Lines and arcs are exact; splines are fitted and refined until each measured piece lies
 * within FIT / 2. Stretches where the offset turns back on itself are left out, so the result may
 * be several pieces, or none.
 */
export function offsetCurve(c: Curve, d: number): Curve[] {
  if (d === 0) return [c]
  if (c.kind === 'line') {
    const n = scale(left(unit(sub(c.b, c.a))), d)
    return [line([c.a[0] + n[0], c.a[1] + n[1]], [c.b[0] + n[0], c.b[1] + n[1]])]
  }
  if (c.kind === 'arc') {
    const radius = c.radius - d * Math.sign(c.sweep)
    return radius > 1e-9 ? [arc(c.c, radius, c.start, c.sweep)] : []
  }
  return forwardStretches(c, d).map(([t0, t1]) => fitOffset(c, d, t0, t1))
}

/** Parameter intervals on which 1 - d * curvature is positive. */
function forwardStretches(c: Curve, d: number): [number, number][] {
  const g = (t: number) => 1 - d * curvatureAt(c, t)
  const breaks = smoothBreaks(c)
  const ts: number[] = [0]
  for (let i = 1; i < breaks.length; i++) {
    for (let k = 1; k <= 8; k++) ts.push(breaks[i - 1]! + ((breaks[i]! - breaks[i - 1]!) * k) / 8)
  }
  const cuts: number[] = []
  for (let i = 1; i < ts.length; i++) {
    let [a, b] = [ts[i - 1]!, ts[i]!]
    const fa = g(a)
    if (fa > 0 === g(b) > 0) continue
    for (let k = 0; k < 40; k++) {
      const m = (a + b) / 2
      if (g(m) > 0 === fa > 0) a = m
      else b = m
    }
    cuts.push((a + b) / 2)
  }
  const marks = [0, ...cuts, 1]
  return marks
    .slice(1)
    .map((b, i): [number, number] => [marks[i]!, b])
    .filter(([a, b]) => b - a > 1e-6 && g((a + b) / 2) > 0)
}

/** Cubic Hermite pieces on the exact end points and derivatives, halved until they measure right. */
function fitOffset(c: Curve, d: number, from: number, to: number): Curve {
  const breaks = [from, ...smoothBreaks(c).filter((t) => t > from + 1e-9 && t < to - 1e-9), to]
  const marks = [from]
  const poles: P2[] = [offsetPoint(c, d, from).p]
  const add = (t0: number, t1: number, depth: number) => {
    const ctrl = hermite(c, d, t0, t1)
    if (depth < 9 && worst(c, d, t0, t1, ctrl) > FIT / 2) {
      const m = (t0 + t1) / 2
      add(t0, m, depth + 1)
      add(m, t1, depth + 1)
      return
    }
    poles.push(ctrl[1], ctrl[2], ctrl[3])
    marks.push(t1)
  }
  for (let i = 1; i < breaks.length; i++) add(breaks[i - 1]!, breaks[i]!, 0)
  return joinSpans(3, marks, poles)
}

function offsetPoint(c: Curve, d: number, t: number): { p: P2; d1: P2 } {
  const e = evaluate(c, t)
  const n = left(tangentAt(c, t))
  return { p: along(e.p, n, d), d1: scale(e.d1, 1 - d * curvatureAt(c, t)) }
}

/** Bezier control points; derivatives are taken just inside the interval, where spans may meet. */
function hermite(c: Curve, d: number, t0: number, t1: number): [P2, P2, P2, P2] {
  const inside = 1e-9 * (t1 - t0)
  const a = offsetPoint(c, d, t0 + inside)
  const b = offsetPoint(c, d, t1 - inside)
  const h = (t1 - t0) / 3
  return [a.p, along(a.p, a.d1, h), along(b.p, b.d1, -h), b.p]
}

/** Largest measured error of the piece: off the asked distance along the normal of its foot. */
function worst(c: Curve, d: number, t0: number, t1: number, ctrl: [P2, P2, P2, P2]): number {
  let most = 0
  for (const u of [0.2, 0.5, 0.8]) {
    const v = 1 - u
    const w = [v * v * v, 3 * v * v * u, 3 * v * u * u, u * u * u] as const
    const q: P2 = [
      w[0] * ctrl[0][0] + w[1] * ctrl[1][0] + w[2] * ctrl[2][0] + w[3] * ctrl[3][0],
      w[0] * ctrl[0][1] + w[1] * ctrl[1][1] + w[2] * ctrl[2][1] + w[3] * ctrl[3][1],
    ]
    // One Newton step to the foot of q on the base curve, then the distance along its normal.
    let t = t0 + (t1 - t0) * u
    const e = evaluate(c, t)
    t += dot(sub(q, e.p), e.d1) / (dot(e.d1, e.d1) * Math.max(0.2, 1 - d * curvatureAt(c, t)))
    t = Math.min(t1, Math.max(t0, t))
    const f = evaluate(c, t)
    most = Math.max(most, Math.abs(dot(sub(q, f.p), left(tangentAt(c, t))) - d))
  }
  return most
}
