import type { Curve } from '../curve'
import {
  add3,
  cross3,
  dot3,
  type Frame,
  norm3,
  type P2,
  type P3,
  scale3,
  sub3,
  toSpace,
} from '../math'
import { type Basis, basisOf, breaksOf, evenBasis } from './basis'
import { bend3, type Curve3, fitted3, place3, speed3 } from './curve3'

/**
 * A rational B-spline as a polynomial one within `tolerance` mm: conics among edges come so from other programs and
 * the kernel. Knots run from 0 to 1 then.
 */
export function polynomial3(
  degree: number,
  knots: readonly number[],
  poles: readonly P3[],
  weights: readonly number[] | undefined,
  tolerance = 1e-6,
): Curve3 {
  const [from, to] = [knots[0]!, knots[knots.length - 1]!]
  const basis: Basis = { degree, knots: Float64Array.from(knots, (k) => (k - from) / (to - from)) }
  if (!weights) return { kind: 'spline', basis, poles }
  const above: Curve3 = {
    kind: 'spline',
    basis,
    poles: poles.map((p, i) => scale3(p, weights[i]!)),
  }
  const below: Curve3 = { kind: 'spline', basis, poles: weights.map((w): P3 => [w, 0, 0]) }
  const place = (t: number) => scale3(place3(above, t), 1 / place3(below, t)[0])
  const inner = breaksOf(basis).slice(1, -1)
  // Conic pieces meet smoothly, or at a corner: whole in place at each break.
  const start = basisOf(
    5,
    inner.map((at) => ({ at, times: 5 })),
  )
  return fitted3(start, place, tolerance).curve
}

/** A plane curve in the plane of a frame. */
export function onFrame(c: Curve, f: Frame): Curve3 {
  const put = (p: readonly [number, number]) => toSpace(f, p[0], p[1])
  if (c.kind === 'line') return { kind: 'line', a: put(c.a), b: put(c.b) }
  if (c.kind === 'arc') {
    const [cos, sin] = [Math.cos(c.start), Math.sin(c.start)]
    const s = Math.sign(c.sweep)
    return {
      kind: 'arc',
      centre: put(c.c),
      x: add3(scale3(f.x, cos), scale3(f.y, sin)),
      y: add3(scale3(f.x, -s * sin), scale3(f.y, s * cos)),
      radius: c.radius,
      sweep: Math.abs(c.sweep),
    }
  }
  const basis = { degree: c.degree, knots: Float64Array.from(c.knots) }
  return { kind: 'spline', basis, poles: c.poles.map(put) }
}

/** A curve that lies in the plane of a frame, as a plane curve. */
export function offFrame(c: Curve3, f: Frame): Curve {
  const put = (p: P3): P2 => {
    const d = sub3(p, f.origin)
    return [dot3(d, f.x), dot3(d, f.y)]
  }
  if (c.kind === 'line') return { kind: 'line', a: put(c.a), b: put(c.b) }
  if (c.kind === 'spline')
    return {
      kind: 'spline',
      degree: c.basis.degree,
      knots: [...c.basis.knots],
      poles: c.poles.map(put),
    }
  const [x, y] = [dot3(c.x, f.x), dot3(c.x, f.y)]
  const left = dot3(cross3(c.x, c.y), f.z) > 0 ? 1 : -1
  return {
    kind: 'arc',
    c: put(c.centre),
    radius: c.radius,
    start: Math.atan2(y, x),
    sweep: left * c.sweep,
  }
}

/** A curve as it is seen square to a plane, in the plane's coordinates (third 0); of tilted arcs within 1e-6 mm. */
export function seenOn(c: Curve3, f: Frame): Curve3 {
  const turn = (v: P3): P3 => [dot3(v, f.x), dot3(v, f.y), 0]
  const put = (p: P3): P3 => turn(sub3(p, f.origin))
  if (c.kind === 'line') return { kind: 'line', a: put(c.a), b: put(c.b) }
  if (c.kind === 'spline') return { ...c, poles: c.poles.map(put) }
  const level = norm3(turn(c.x)) > 1 - 1e-12 && norm3(turn(c.y)) > 1 - 1e-12
  if (level) return { ...c, centre: put(c.centre), x: turn(c.x), y: turn(c.y) }
  return fitted3(evenBasis(5, 8), (t) => put(place3(c, t)), 1e-6).curve
}

/** Places along a curve so that chords stay within `chord` mm of it, ends included. */
export function polyline3(c: Curve3, chord: number): P3[] {
  if (c.kind === 'line') return [c.a, c.b]
  const spans = c.kind === 'arc' ? [0, 1] : breaksOf(c.basis)
  const out: P3[] = [place3(c, spans[0]!)]
  for (let i = 1; i < spans.length; i++) {
    const [from, to] = [spans[i - 1]!, spans[i]!]
    // The sag of a chord is bend x length² / 8; the span is looked at in its middle and at its ends.
    const bend = Math.max(...[0.05, 0.5, 0.95].map((f) => norm3(bend3(c, from + f * (to - from)))))
    const length = speed3(c, (from + to) / 2) * (to - from)
    const n = Math.max(1, Math.min(400, Math.ceil(length * Math.sqrt(bend / (8 * chord)))))
    for (let k = 1; k <= n; k++) out.push(place3(c, from + (k / n) * (to - from)))
  }
  return out
}
