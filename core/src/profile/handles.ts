import { type Curve, curvatureAt, fitSpline, HANDLE_REACH, tangentAt } from '../curve'
import { brent, type P2, scale } from '../math'
import { type Drawing, type Entity, endsOf } from './drawing'
import { followsCurve, type Relation } from './solver'

type Fit = Extract<Entity, { kind: 'fit' }>

/** Lengths of a handle tried for an equal curvature, mm. */
const LENGTHS = [1, 1.6, 2.5, 4, 6.3, 10, 16, 25, 40, 63, 100]

/**
 * A curve through points with its end handles turned to go on from what it is tangent to, or sized so
 * that the curvature there is equal too. `curveOf` gives the curve of another piece, null for none.
 */
export function heldHandles(
  fit: Fit,
  drawing: Drawing,
  points: Readonly<Record<string, P2>>,
  curveOf: (id: string) => Curve | null,
): { handles: Fit['handles']; unmet: string[] } {
  const unmet: string[] = []
  let handles = fit.handles
  for (const r of drawing.relations ?? []) {
    if (!followsCurve(drawing, r) || !r.entities.includes(fit.id)) continue
    const end = joinOf(fit, r, drawing)
    const other = end && curveOf(end.other)
    if (!end || !other) {
      unmet.push(r.id)
      continue
    }
    const i = end.first ? 0 : fit.points.length - 1
    const t = end.otherEnds ? 1 : 0
    // The way through the join: on along the other piece, or back along it.
    const along = tangentAt(other, t)
    const dir = end.first === end.otherEnds ? along : scale(along, -1)
    const known = handles[i]!
    const length = known.hold === 'free' ? Math.hypot(...known.d) : HANDLE_REACH
    const withLength = (l: number): Fit['handles'] =>
      handles.map((h, k) =>
        k === i ? { hold: 'free', d: [dir[0] * l, dir[1] * l] as [number, number] } : h,
      )
    if (r.kind === 'tangent') {
      handles = withLength(length)
      continue
    }
    const at = fit.points.map((id) => points[id]!)
    const sense = end.first === end.otherEnds ? 1 : -1
    const want = sense * curvatureAt(other, t)
    const off = (l: number) =>
      curvatureAt(fitSpline(at, withLength(l), fit.ends), end.first ? 0 : 1) - want
    const found = crossing(off, length)
    if (found === null) unmet.push(r.id)
    handles = withLength(found ?? length)
  }
  return { handles, unmet }
}

/** Which end of the curve meets which end of the other piece. */
function joinOf(fit: Fit, r: Relation, drawing: Drawing) {
  const id = r.entities.find((x) => x !== fit.id)
  const other = drawing.entities.find((e) => e.id === id)
  const ends = other && endsOf(other)
  if (!other || !ends) return null
  // Of two curves through points the one named second follows the first.
  if (other.kind === 'fit' && r.entities[0] === fit.id) return null
  for (const first of [true, false]) {
    const p = fit.points[first ? 0 : fit.points.length - 1]!
    if (ends.includes(p)) return { first, other: other.id, otherEnds: ends[1] === p }
  }
  return null
}

/** The length nearest to `near` at which `off` changes sign; null when it never does. */
function crossing(off: (l: number) => number, near: number): number | null {
  const values = LENGTHS.map(off)
  const roots: number[] = []
  for (let i = 1; i < LENGTHS.length; i++) {
    if (values[i - 1]! * values[i]! <= 0)
      roots.push(brent(off, LENGTHS[i - 1]!, LENGTHS[i]!, 1e-12))
  }
  const by = (l: number) => Math.abs(Math.log(l / near))
  return roots.sort((a, b) => by(a) - by(b))[0] ?? null
}
