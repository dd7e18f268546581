import { lengthOf, nearest, type Spline, spline, uniformSpline } from '../../curve'
import type { Entity } from '../drawing'

type P2 = readonly [number, number]
export type Poles = Extract<Entity, { kind: 'poles' }>

/** A spline of control points where they are. */
export const splineOf = (e: Poles, at: readonly P2[]): Spline =>
  e.knots ? spline(e.degree, e.knots, at) : uniformSpline(at, e.degree)

/** How far along a spline, mm, its place nearest to a point lies, and how long it is. */
export function runAlong(e: Poles, at: readonly P2[], p: P2): { run: number; length: number } {
  const s = splineOf(e, at)
  const length = Math.max(lengthOf(s), 1e-6)
  return { run: nearest(s, p).t * length, length }
}
