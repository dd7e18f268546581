import type { P2 } from '../math'
import { joinSpans } from './spline'
import type { Curve } from './types'

/** Spans a whole turn is made of: a circle is met to 1e-8 of its radius. */
const SPANS = 24

/**
 * Conjugate half-diameters of the ellipse about `c` through `a` and `b`, which its parameter
 * (rad) reaches `sweep` apart: a = c + u, b = c + u cos(sweep) + v sin(sweep).
 */
export function conjugates(c: P2, a: P2, b: P2, sweep: number): [u: P2, v: P2] {
  const u: P2 = [a[0] - c[0], a[1] - c[1]]
  const [cos, sin] = [Math.cos(sweep), Math.sin(sweep)]
  return [u, [(b[0] - c[0] - u[0] * cos) / sin, (b[1] - c[1] - u[1] * cos) / sin]]
}

/**
 * An ellipse about `c` with conjugate half-diameters `u` and `v` (mm), from parameter angle `from` over
 * `sweep` (rad): the affine image of a circle by cubic pieces (handle 4/3 tan(h/4), Goldapp 1991).
 */
export function ellipse(c: P2, u: P2, v: P2, from = 0, sweep = 2 * Math.PI): Curve {
  const n = Math.max(1, Math.ceil((SPANS * Math.abs(sweep)) / (2 * Math.PI) - 1e-9))
  const h = sweep / n
  const k = (4 / 3) * Math.tan(h / 4)
  const at = (x: number, y: number): P2 => [c[0] + u[0] * x + v[0] * y, c[1] + u[1] * x + v[1] * y]
  const poles: P2[] = []
  for (let i = 0; i < n; i++) {
    const [a, b] = [from + i * h, from + (i + 1) * h]
    const [ca, sa, cb, sb] = [Math.cos(a), Math.sin(a), Math.cos(b), Math.sin(b)]
    if (i === 0) poles.push(at(ca, sa))
    poles.push(at(ca - k * sa, sa + k * ca), at(cb + k * sb, sb - k * cb), at(cb, sb))
  }
  const breaks = Array.from({ length: n + 1 }, (_, i) => i / n)
  return joinSpans(3, breaks, poles)
}
