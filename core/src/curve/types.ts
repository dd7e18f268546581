import type { P2 } from '../math'

/** Straight from `a` to `b`. */
export interface Line {
  readonly kind: 'line'
  readonly a: P2
  readonly b: P2
}
/** Circular arc from angle `start`, turning by `sweep` (rad, positive to the left). */
export interface Arc {
  readonly kind: 'arc'
  readonly c: P2
  readonly radius: number
  readonly start: number
  readonly sweep: number
}
/** Non-rational B-spline, clamped, knots running from 0 to 1 (degree + 1 equal at each end). */
export interface Spline {
  readonly kind: 'spline'
  readonly degree: number
  readonly knots: readonly number[]
  readonly poles: readonly P2[]
}
/** A plane curve with its parameter t running over [0, 1]. */
export type Curve = Line | Arc | Spline

export const line = (a: P2, b: P2): Line => ({ kind: 'line', a, b })
export const arc = (c: P2, radius: number, start: number, sweep: number): Arc => ({
  kind: 'arc',
  c,
  radius,
  start,
  sweep,
})
