import {
  arc,
  type Curve,
  endOf,
  intersect,
  line,
  nearest,
  pointAt,
  startOf,
  subCurve,
  tangentAt,
} from '../../curve'
import { bad, dist, good, type Outcome, type P2 } from '../../math'
import { type Drawing, type Drawn, endsOf, pruned } from '../drawing'
import type { Shape } from '../shape'
import { Builder } from './build'

/** Parameters at which others cross a piece, ends left out; the seam of a ring counts as 0. */
function crossings(shape: Shape, piece: Drawn): number[] {
  const ts = shape.drawn
    .filter((o) => o.id !== piece.id)
    .flatMap((o) => intersect(piece.curve, o.curve).map((m) => m.t))
    .map((t) => (isRing(piece.curve) && t > 1 - 1e-7 ? 0 : t))
    .filter((t) => (isRing(piece.curve) ? t >= 0 : t > 1e-7) && t < 1 - 1e-7)
    .sort((a, b) => a - b)
  return ts.filter((t, i) => i === 0 || t - ts[i - 1]! > 1e-7)
}

const isRing = (c: Curve): boolean => dist(startOf(c), endOf(c)) < 1e-9

function pieceOf(shape: Shape, id: string): Outcome<Drawn> {
  const piece = shape.drawn.find((x) => x.id === id)
  return piece ? good(piece) : bad('no-piece', `There is no piece named ${id} to cut.`)
}

/** Replaces a piece by parts of it; its ends stay the points they were. */
function inParts(d: Drawing, shape: Shape, piece: Drawn, parts: Curve[]): Drawing {
  const entity = d.entities.find((e) => e.id === piece.id)!
  const to = new Builder(d).remove(piece.id)
  for (const end of endsOf(entity) ?? []) to.share(end, shape.points[end]!)
  for (const o of shape.drawn) {
    const ends = o.id === piece.id ? null : endsOf(d.entities.find((e) => e.id === o.id)!)
    for (const end of ends ?? []) to.share(end, shape.points[end]!)
  }
  for (const part of parts) to.curve(part, entity)
  return pruned(to.drawing)
}

/** Cuts away the stretch of a piece between the crossings on both sides of `at`. */
export function trimAt(d: Drawing, shape: Shape, id: string, at: P2): Outcome<Drawing> {
  const piece = pieceOf(shape, id)
  if (!piece.ok) return piece
  const { curve } = piece.value
  const ts = crossings(shape, piece.value)
  const t = nearest(curve, at).t
  if (isRing(curve)) {
    if (ts.length < 2)
      return bad('no-crossing', `${id} is crossed fewer than twice: nothing to trim to.`)
    // From the crossing after the place round to the one before it.
    const after = ts.find((x) => x > t) ?? ts[0]!
    const before = [...ts].reverse().find((x) => x < t) ?? ts[ts.length - 1]!
    const rest =
      after < before ? [subCurve(curve, after, before)] : aroundFrom(curve, after, before)
    return good(inParts(d, shape, piece.value, rest))
  }
  if (ts.length === 0)
    return good(pruned({ ...d, entities: d.entities.filter((e) => e.id !== id) }))
  const before = [...ts].reverse().find((x) => x < t)
  const after = ts.find((x) => x > t)
  return good(
    inParts(d, shape, piece.value, [
      ...(before === undefined ? [] : [subCurve(curve, 0, before)]),
      ...(after === undefined ? [] : [subCurve(curve, after, 1)]),
    ]),
  )
}

/** A ring from one parameter over its seam to another: one arc of a circle, else two parts. */
function aroundFrom(c: Curve, from: number, to: number): Curve[] {
  if (c.kind === 'arc')
    return [arc(c.c, c.radius, c.start + c.sweep * from, c.sweep * (1 - from + to))]
  return [subCurve(c, from, 1), ...(to > 1e-9 ? [subCurve(c, 0, to)] : [])]
}

/** Breaks a piece at every place another one crosses it. */
export function breakAtCrossings(d: Drawing, shape: Shape, id: string): Outcome<Drawing> {
  const piece = pieceOf(shape, id)
  if (!piece.ok) return piece
  const { curve } = piece.value
  const ts = crossings(shape, piece.value)
  if (ts.length === 0) return bad('no-crossing', `Nothing crosses ${id}.`)
  if (isRing(curve) && ts.length === 1)
    return bad('no-crossing', `${id} is crossed only once: a ring broken there is the same ring.`)
  const marks = isRing(curve) ? ts : [0, ...ts, 1]
  const parts = marks.slice(1).map((t, i) => subCurve(curve, marks[i]!, t))
  if (isRing(curve)) parts.push(...aroundFrom(curve, ts[ts.length - 1]!, ts[0]!))
  return good(inParts(d, shape, piece.value, parts))
}

/** Lengthens the end of a line or arc nearest to `at` until it meets another piece. */
export function extendAt(d: Drawing, shape: Shape, id: string, at: P2): Outcome<Drawing> {
  const piece = pieceOf(shape, id)
  if (!piece.ok) return piece
  const { curve } = piece.value
  const entity = d.entities.find((e) => e.id === id)!
  if (curve.kind === 'spline' || isRing(curve))
    return bad('not-extended', 'Only lines and arcs are lengthened.')
  const atEnd = dist(endOf(curve), at) < dist(startOf(curve), at)
  const others = shape.drawn.filter((o) => o.id !== id)
  const longer = beyond(curve, atEnd, others)
  const from = atEnd ? endOf(curve) : startOf(curve)
  const hit = others
    .flatMap((o) => intersect(longer, o.curve).map((m) => ({ t: m.t, p: pointAt(longer, m.t) })))
    .filter((m) => m.t > 1e-7 && dist(m.p, from) > 1e-6)
    .sort((a, b) => a.t - b.t)[0]
  if (!hit) return bad('no-crossing', `${id} meets nothing that way.`)
  const to = new Builder(d)
  const point = to.point(hit.p)
  const end = atEnd ? 'b' : 'a'
  const moved = { ...entity, [end]: point }
  if (curve.kind === 'arc' && entity.kind === 'arc') {
    const sweep = curve.sweep + (longer as typeof curve).sweep * hit.t * (atEnd ? 1 : -1)
    const whole = atEnd
      ? arc(curve.c, curve.radius, curve.start, sweep)
      : arc(curve.c, curve.radius, curve.start + curve.sweep, -sweep)
    Object.assign(moved, { via: to.loose(pointAt(whole, 0.5)) })
  }
  return good(pruned(to.replace(moved).drawing))
}

/** The way a line or arc would go on past one end. */
function beyond(c: Exclude<Curve, { kind: 'spline' }>, atEnd: boolean, others: Drawn[]): Curve {
  if (c.kind === 'arc') {
    const rest = (2 * Math.PI - Math.abs(c.sweep)) * Math.sign(c.sweep) * (1 - 1e-9)
    return atEnd ? arc(c.c, c.radius, c.start + c.sweep, rest) : arc(c.c, c.radius, c.start, -rest)
  }
  const from = atEnd ? c.b : c.a
  const u = tangentAt(c, 0)
  const k = atEnd ? 1 : -1
  const span = Math.max(
    ...others.flatMap((o) => [0, 0.5, 1].map((t) => dist(pointAt(o.curve, t), from))),
    1,
  )
  return line(from, [from[0] + 4 * span * k * u[0], from[1] + 4 * span * k * u[1]])
}
