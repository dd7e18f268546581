import {
  arcAbout,
  type Curve,
  endOf,
  intersect,
  lengthOf,
  line,
  nearest,
  offsetCurve,
  pointAt,
  reverse,
  startOf,
  subCurve,
  tangentAt,
} from '../../curve'
import { bad, dist, FIT, good, mm, type Outcome, type P2, POINT } from '../../math'
import type { Drawing } from '../drawing'
import type { Shape } from '../shape'
import { Builder } from './build'

export type Gap = 'round' | 'sharp'

/**
 * Offsets of a chain of curves by `d` mm (left of the way they run for positive d): each piece is
 * offset, gaps at outer corners are closed by an arc or by running on to the meeting point, and what
 * comes nearer than `d` to the chain is taken out.
 */
export function offsetChain(curves: readonly Curve[], d: number, gap: Gap): Curve[] {
  const raw: Curve[] = []
  const closed = dist(startOf(curves[0]!), endOf(curves[curves.length - 1]!)) < 10 * POINT
  for (const [i, c] of curves.entries()) {
    raw.push(...offsetCurve(c, d))
    const next = curves[i + 1] ?? (closed ? curves[0] : undefined)
    if (next) raw.push(...closing(c, next, d, gap))
  }
  const parts = raw.flatMap((c, i) => {
    const ts = [
      0,
      ...raw
        .flatMap((o, k) => (k === i ? [] : intersect(c, o).map((m) => m.t)))
        .sort((a, b) => a - b),
      1,
    ]
    return ts.slice(1).flatMap((t, k) => (t - ts[k]! > 1e-9 ? [subCurve(c, ts[k]!, t)] : []))
  })
  const least = Math.abs(d) - 4 * FIT
  return parts.filter((p) => {
    if (lengthOf(p) < 10 * POINT) return false
    return [0.25, 0.5, 0.75].every((t) => {
      const at = pointAt(p, t)
      return curves.every((c) => nearest(c, at).d >= least)
    })
  })
}

/** What closes the gap between the offsets of two pieces that follow each other; nothing at an inner corner. */
function closing(a: Curve, b: Curve, d: number, gap: Gap): Curve[] {
  const corner = endOf(a)
  const [u, v] = [tangentAt(a, 1), tangentAt(b, 0)]
  const turn = Math.atan2(u[0] * v[1] - u[1] * v[0], u[0] * v[0] + u[1] * v[1])
  // A turn away from the offset side opens a gap.
  if (turn * d > -1e-9) return []
  const from: P2 = [corner[0] - u[1] * d, corner[1] + u[0] * d]
  const to: P2 = [corner[0] - v[1] * d, corner[1] + v[0] * d]
  if (dist(from, to) < POINT) return []
  if (gap === 'round' || Math.abs(turn) > Math.PI * 0.9)
    return [arcAbout(corner, from, to, turn > 0)]
  const k = d * Math.tan(turn / 2)
  const tip: P2 = [from[0] - u[0] * k, from[1] - u[1] * k]
  return [line(from, tip), line(tip, to)]
}

/** The chosen pieces as one chain running one way; a sentence when they are not one. */
function chained(shape: Shape, ids: readonly string[]): Outcome<Curve[]> {
  const left = shape.drawn.filter((x) => ids.includes(x.id)).map((x) => x.curve)
  const out = left.splice(0, 1)
  if (out.length === 0) return bad('nothing', 'Choose the pieces to offset.')
  const meets = (a: P2, b: P2) => dist(a, b) < 10 * POINT
  while (left.length > 0) {
    const [head, tail] = [startOf(out[0]!), endOf(out[out.length - 1]!)]
    const i = left.findIndex((c) =>
      [startOf(c), endOf(c)].some((p) => meets(p, tail) || meets(p, head)),
    )
    if (i < 0) return bad('not-one', 'The chosen pieces are not one chain: offset them one by one.')
    const [c] = left.splice(i, 1) as [Curve]
    if (meets(startOf(c), tail)) out.push(c)
    else if (meets(endOf(c), tail)) out.push(reverse(c))
    else if (meets(endOf(c), head)) out.unshift(c)
    else out.unshift(reverse(c))
  }
  return good(out)
}

/** Adds the offset of the chosen pieces to the drawing; `sides` 1 left, -1 right, 0 both. */
export function offsetPieces(
  d: Drawing,
  shape: Shape,
  ids: readonly string[],
  by: number,
  sides: -1 | 0 | 1,
  gap: Gap,
): Outcome<Drawing> {
  if (!(by > 1e-6)) return bad('size', 'The distance must be more than 0.')
  const curves = chained(shape, ids)
  if (!curves.ok) return curves
  const to = new Builder(d)
  for (const side of sides === 0 ? [1, -1] : [sides]) {
    const made = offsetChain(curves.value, side * by, gap)
    if (made.length === 0)
      return bad(
        'vanished',
        `Nothing is left ${mm(by)} away on that side: the shape is too narrow.`,
      )
    for (const c of made) to.curve(c)
  }
  return good(to.drawing)
}
