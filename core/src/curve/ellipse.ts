import type { P2 } from '../math'
import { joinSpans } from './spline'
import type { Curve } from './types'

/** Spans a whole turn is made of: a circle is met to 1e-8 of its radius. */
const SPANS = 24

/**
 * An ellipse about `c` with the half-axis `major` (mm) and the other one `ratio` times as long, from
 * parameter angle `from` over `sweep` (rad): the affine image of a circle by cubic pieces
 * (handle 4/3 tan(h/4), Goldapp 1991).
 */
export function ellipse(c: P2, major: P2, ratio: number, from = 0, sweep = 2 * Math.PI): Curve {
  const n = Math.max(1, Math.ceil((SPANS * Math.abs(sweep)) / (2 * Math.PI) - 1e-9))
  const h = sweep / n
  const k = (4 / 3) * Math.tan(h / 4)
  const minor: P2 = [-major[1] * ratio, major[0] * ratio]
  const at = (x: number, y: number): P2 => [
    c[0] + major[0] * x + minor[0] * y,
    c[1] + major[1] * x + minor[1] * y,
  ]
  const poles: P2[] = []
  for (let i = 0; i < n; i++) {
    const [a, b] = [from + i * h, from + (i + 1) * h]
    const [ca, sa, cb, sb] = [Math.cos(a), Math.sin(a), Math.cos(b), Math.sin(b)]
    if (i === 0) poles.push(at(ca, sa))
    poles.push(at(ca - k * sa, sa + k * ca), at(cb + k * sb, sb - k * cb), at(cb, sb))
  }
  return joinSpans(
    3,
    Array.from({ length: n + 1 }, (_, i) => i / n),
    poles,
  )
}
