import {
  type Box2,
  dist,
  emptyBox,
  growBox,
  integrateTo,
  lerp,
  type P2,
  polar,
  scale,
  sub,
  unit,
} from '../math'
import { signChanges } from './signs'
import { evalSpline, spansOf, subSpline } from './spline'
import { type Arc, arc, type Curve, line } from './types'

/** Point and the first two derivatives by t. */
export function evaluate(c: Curve, t: number): { p: P2; d1: P2; d2: P2 } {
  if (c.kind === 'line') return { p: lerp(c.a, c.b, t), d1: sub(c.b, c.a), d2: [0, 0] }
  if (c.kind === 'spline') return evalSpline(c, t)
  const a = c.start + c.sweep * t
  const [cos, sin] = [Math.cos(a), Math.sin(a)]
  const k = c.radius * c.sweep
  return {
    p: [c.c[0] + c.radius * cos, c.c[1] + c.radius * sin],
    d1: [-k * sin, k * cos],
    d2: [-k * c.sweep * cos, -k * c.sweep * sin],
  }
}

export function pointAt(c: Curve, t: number): P2 {
  if (c.kind === 'line') return lerp(c.a, c.b, t)
  if (c.kind === 'arc') return polar(c.c, c.radius, c.start + c.sweep * t)
  if (t <= 0) return c.poles[0]!
  if (t >= 1) return c.poles[c.poles.length - 1]!
  return evalSpline(c, t).p
}
export const startOf = (c: Curve): P2 => pointAt(c, 0)
export const endOf = (c: Curve): P2 => pointAt(c, 1)

/** Unit direction of travel at t. Where the derivative vanishes, that of a point close by. */
export function tangentAt(c: Curve, t: number): P2 {
  const d = evaluate(c, t).d1
  if (Math.hypot(d[0], d[1]) > 1e-12) return unit(d)
  const h = t > 0.5 ? -1e-6 : 1e-6
  return unit(scale(sub(pointAt(c, t + h), pointAt(c, t)), Math.sign(h)))
}

/** Signed curvature at t, 1/mm, positive where the curve bends to the left. */
export function curvatureAt(c: Curve, t: number): number {
  if (c.kind === 'line') return 0
  if (c.kind === 'arc') return Math.sign(c.sweep) / c.radius
  const { d1, d2 } = evaluate(c, t)
  const v = Math.hypot(d1[0], d1[1])
  return (d1[0] * d2[1] - d1[1] * d2[0]) / (v * v * v)
}

export function reverse(c: Curve): Curve {
  if (c.kind === 'line') return line(c.b, c.a)
  if (c.kind === 'arc') return arc(c.c, c.radius, c.start + c.sweep, -c.sweep)
  const knots = c.knots.map((k) => 1 - k).reverse()
  return { kind: 'spline', degree: c.degree, knots, poles: [...c.poles].reverse() }
}

/** The part from t0 to t1, t0 < t1. */
export function subCurve(c: Curve, t0: number, t1: number): Curve {
  if (t0 <= 0 && t1 >= 1) return c
  if (c.kind === 'line') return line(pointAt(c, t0), pointAt(c, t1))
  if (c.kind === 'arc') return arc(c.c, c.radius, c.start + c.sweep * t0, c.sweep * (t1 - t0))
  return subSpline(c, t0, t1)
}

/** Length in mm, to about 1e-12 relative. */
export function lengthOf(c: Curve): number {
  if (c.kind === 'line') return dist(c.a, c.b)
  if (c.kind === 'arc') return c.radius * Math.abs(c.sweep)
  let sum = 0
  for (const s of spansOf(c)) sum += integrateTo((t) => speed(c, t), s.t0, s.t1)
  return sum
}
const speed = (c: Curve, t: number): number => {
  const { d1 } = evaluate(c, t)
  return Math.hypot(d1[0], d1[1])
}

/** Parameters of an arc at which its direction from the centre is `angle`. */
export function arcParamsAt(c: Arc, angle: number): number[] {
  const out: number[] = []
  const turnBy = 2 * Math.PI
  const k0 = Math.ceil((Math.min(c.start, c.start + c.sweep) - angle) / turnBy - 1e-12)
  for (
    let a = angle + k0 * turnBy;
    a <= Math.max(c.start, c.start + c.sweep) + 1e-12;
    a += turnBy
  ) {
    out.push(Math.min(1, Math.max(0, (a - c.start) / c.sweep)))
  }
  return out
}

/** Inner parameters where the curve runs level (axis 1: top and bottom points) or upright (axis 0). */
export function extremes(c: Curve, axis: 0 | 1): number[] {
  if (c.kind === 'line') return []
  if (c.kind === 'arc') {
    const at = axis === 0 ? [0, Math.PI] : [Math.PI / 2, -Math.PI / 2]
    return at.flatMap((a) => arcParamsAt(c, a)).filter((t) => t > 0 && t < 1)
  }
  const out: number[] = []
  for (const { t0, t1, ctrl } of spansOf(c)) {
    // A held handle puts the extreme right on a span's end, where rounding hides the change of sign.
    if (t0 > 0 && runsAlong(c, t0, axis)) out.push(t0)
    signChanges(
      ctrl.slice(1).map((p, i) => p[axis] - ctrl[i]![axis]),
      t0,
      t1,
      out,
    )
  }
  return out
}

/** True where the component of the direction along the axis vanishes but for rounding. */
const runsAlong = (c: Curve, t: number, axis: 0 | 1): boolean => {
  const d = evaluate(c, t).d1
  return Math.abs(d[axis]) <= 1e-9 * Math.hypot(d[0], d[1])
}
const boxCache = new WeakMap<Curve, Box2>()

/** Tight bounding box. */
export function boundsOf(c: Curve): Box2 {
  const known = boxCache.get(c)
  if (known) return known
  const box = growBox(growBox(emptyBox(), startOf(c)), endOf(c))
  for (const axis of [0, 1] as const) for (const t of extremes(c, axis)) growBox(box, pointAt(c, t))
  boxCache.set(c, box)
  return box
}

/** Parameters cutting the curve into pieces an even rule integrates well (span and quarter-turn ends). */
export function smoothBreaks(c: Curve): number[] {
  if (c.kind === 'line') return [0, 1]
  if (c.kind === 'spline') return [0, ...spansOf(c).map((s) => s.t1)]
  const n = Math.max(1, Math.ceil(Math.abs(c.sweep) / (Math.PI / 2) - 1e-9))
  return Array.from({ length: n + 1 }, (_, i) => i / n)
}

/** A rigid placing in the plane: local axes given as unit vectors in the target, mirrored or not. */
export interface Placing {
  origin: P2
  x: P2
  y: P2
}

/** The curve carried by `m`: local (u, v) goes to origin + u x + v y. */
export function placeCurve(c: Curve, m: Placing): Curve {
  const put = (p: P2): P2 => [
    m.origin[0] + m.x[0] * p[0] + m.y[0] * p[1],
    m.origin[1] + m.x[1] * p[0] + m.y[1] * p[1],
  ]
  if (c.kind === 'line') return line(put(c.a), put(c.b))
  if (c.kind === 'spline') return { ...c, poles: c.poles.map(put) }
  const mirrored = m.x[0] * m.y[1] - m.x[1] * m.y[0] < 0 ? -1 : 1
  const centre = put(c.c)
  const from = put(polar(c.c, c.radius, c.start))
  const start = Math.atan2(from[1] - centre[1], from[0] - centre[0])
  return arc(centre, c.radius, start, c.sweep * mirrored)
}
