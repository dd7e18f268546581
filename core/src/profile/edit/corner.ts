import {
  arc,
  arcAbout,
  type Curve,
  intersect,
  nearest,
  offsetCurve,
  pointAt,
  reverse,
  subCurve,
  tangentAt,
} from '../../curve'
import { bad, dist, good, mm, type Outcome, type P2 } from '../../math'
import { type Drawing, type Entity, endsOf, pruned } from '../drawing'
import type { Shape } from '../shape'
import { Builder } from './build'
import { withHolds } from './holds'

interface Meeting {
  entity: Entity
  /** Running away from the corner. */
  curve: Curve
}

/** The two pieces that end at a point, each running away from it. */
function piecesAt(d: Drawing, shape: Shape, point: string): Outcome<[Meeting, Meeting]> {
  const there = d.entities.flatMap((entity): Meeting[] => {
    const ends = endsOf(entity)
    const drawn = shape.drawn.find((x) => x.id === entity.id)
    if (!ends?.includes(point) || !drawn) return []
    return [{ entity, curve: ends[0] === point ? drawn.curve : reverse(drawn.curve) }]
  })
  if (there.length === 2) return good([there[0]!, there[1]!])
  return bad('no-corner', `At ${point} ${there.length} pieces end; a corner has two.`)
}

/**
 * Rounds the corner at a point with an arc tangent to both pieces. Too large a radius is refused with
 * the largest that holds.
 */
export function filletAt(
  d: Drawing,
  shape: Shape,
  point: string,
  radius: number,
): Outcome<Drawing> {
  if (!(radius > 1e-6)) return bad('size', 'The radius must be more than 0.')
  const pieces = piecesAt(d, shape, point)
  if (!pieces.ok) return pieces
  const at = shape.points[point]!
  const found = tangentArc(pieces.value, at, radius)
  if (!found) {
    const most = largest((r) => tangentArc(pieces.value, at, r) !== null, radius)
    return bad(
      'too-large',
      most > 0
        ? `A radius of ${mm(radius)} is too large here; ${mm(most)} is the largest that fits.`
        : 'These two pieces run on without a corner to round.',
      [{ at }],
    )
  }
  return good(rejoined(d, shape, pieces.value, found.cuts, (to) => to.curve(found.arc), 'tangent'))
}

/** Cuts the corner at a point off, `setback` mm along both pieces. */
export function chamferAt(
  d: Drawing,
  shape: Shape,
  point: string,
  setback: number,
): Outcome<Drawing> {
  if (!(setback > 1e-6)) return bad('size', 'The size must be more than 0.')
  const pieces = piecesAt(d, shape, point)
  if (!pieces.ok) return pieces
  const at = shape.points[point]!
  const cutsFor = (s: number) => pieces.value.map((p) => reachOf(p.curve, at, s))
  const cuts = cutsFor(setback)
  if (cuts.some((t) => t === null)) {
    const most = largest((s) => cutsFor(s).every((t) => t !== null), setback)
    return bad(
      'too-large',
      `${mm(setback)} is too large here; ${mm(most)} is the largest that fits.`,
      [{ at }],
    )
  }
  const [s, t] = cuts as [number, number]
  const [p, q] = [pointAt(pieces.value[0].curve, s), pointAt(pieces.value[1].curve, t)]
  return good(rejoined(d, shape, pieces.value, [s, t], (to) => to.line(p, q)))
}

/** Where a curve has come `s` mm from the corner as the crow flies; null when it never does. */
function reachOf(c: Curve, at: P2, s: number): number | null {
  const hits = intersect(c, arc(at, s, 0, 2 * Math.PI))
    .map((m) => m.t)
    .filter((t) => t > 1e-9 && t < 1 - 1e-9)
  return hits.length > 0 ? Math.min(...hits) : null
}

/** The arc of a radius that touches both pieces nearest to the corner, and where. */
function tangentArc([p, q]: [Meeting, Meeting], at: P2, radius: number) {
  // The inside of the corner: left of p where q turns off to its left.
  const [u, v] = [tangentAt(p.curve, 0), tangentAt(q.curve, 0)]
  const turn = u[0] * v[1] - u[1] * v[0]
  if (Math.abs(turn) < 1e-6) return null
  const side = Math.sign(turn)
  const centres = offsetCurve(p.curve, side * radius).flatMap((a) =>
    offsetCurve(q.curve, -side * radius).flatMap((b) =>
      intersect(a, b).map((m) => pointAt(a, m.t)),
    ),
  )
  const centre = centres.sort((a, b) => dist(a, at) - dist(b, at))[0]
  if (!centre) return null
  const [s, t] = [nearest(p.curve, centre), nearest(q.curve, centre)]
  const touches = [s, t].every(
    (n) => Math.abs(n.d - radius) < 1e-3 * radius + 1e-4 && n.t > 1e-7 && n.t < 1 - 1e-9,
  )
  if (!touches) return null
  const [a, b] = [pointAt(p.curve, s.t), pointAt(q.curve, t.t)]
  return { arc: arcAbout(centre, a, b, side < 0), cuts: [s.t, t.t] as [number, number] }
}

/** The largest size up to `from` that still works, found by halving. */
function largest(works: (size: number) => boolean, from: number): number {
  let [good, over] = [0, from]
  for (let i = 0; i < 30; i++) {
    const mid = (good + over) / 2
    if (works(mid)) good = mid
    else over = mid
  }
  return Math.floor(good * 1000) / 1000
}

/** Cuts both pieces back and puts a new one between; what held them stays where it still can. */
function rejoined(
  d: Drawing,
  shape: Shape,
  pieces: [Meeting, Meeting],
  cuts: [number, number],
  between: (to: Builder) => string,
  relation?: 'tangent',
): Drawing {
  const to = new Builder(d)
  const ids = pieces.map(({ entity, curve }, i) => {
    const rest = subCurve(curve, cuts[i]!, 1)
    const start = pointAt(rest, 0)
    if (entity.kind === 'line' || entity.kind === 'arc') {
      const at = endsOf(entity)!
      const corner = dist(shape.points[at[0]]!, pointAt(curve, 0)) < 1e-6 ? 'a' : 'b'
      const moved = { ...entity, [corner]: to.point(start) }
      if (entity.kind === 'arc') Object.assign(moved, { via: to.loose(pointAt(rest, 0.5)) })
      to.replace(moved)
      return entity.id
    }
    to.remove(entity.id)
    const far = endsOf(entity)!.find((p) => dist(shape.points[p]!, pointAt(rest, 1)) < 1e-6)
    if (far) to.share(far, shape.points[far]!)
    return to.curve(rest, entity)
  })
  const made = between(to)
  const drawing = pruned(to.drawing)
  return relation
    ? withHolds(
        drawing,
        ids.map((id) => ({ kind: relation, points: [], entities: [id, made] })),
      )
    : drawing
}
