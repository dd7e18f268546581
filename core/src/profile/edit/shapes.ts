import { arc, arcThrough } from '../../curve'
import { bad, dist, good, type Outcome, type P2 } from '../../math'
import type { Drawing } from '../drawing'
import type { Relation } from '../solver'
import { Builder } from './build'
import { withHolds } from './holds'

const SMALL = 1e-6
const apart = (a: P2, b: P2): boolean => dist(a, b) > SMALL

const ofPieces = (kind: Relation['kind'], ...entities: string[]): Omit<Relation, 'id'> => ({
  kind,
  points: [],
  entities,
})

/** A rectangle between two opposite corners, its sides held level and upright. */
export function rectangle(d: Drawing, a: P2, b: P2): Outcome<Drawing> {
  if (Math.abs(a[0] - b[0]) < SMALL || Math.abs(a[1] - b[1]) < SMALL)
    return bad('flat', 'The corners of a rectangle must differ in width and height.')
  const to = new Builder(d)
  const corners: P2[] = [a, [b[0], a[1]], b, [a[0], b[1]]]
  const sides = corners.map((p, i) => to.line(p, corners[(i + 1) % 4]!))
  return good(
    withHolds(
      to.drawing,
      sides.map((s, i) => ofPieces(i % 2 === 0 ? 'level' : 'upright', s)),
    ),
  )
}

/** A rectangle about a middle point, with a corner. */
export const rectangleAbout = (d: Drawing, middle: P2, corner: P2): Outcome<Drawing> =>
  rectangle(d, [2 * middle[0] - corner[0], 2 * middle[1] - corner[1]], corner)

/** A regular polygon about a centre with one corner given; corners held on a circle, sides equal. */
export function polygon(d: Drawing, centre: P2, corner: P2, sides: number): Outcome<Drawing> {
  if (!Number.isInteger(sides) || sides < 3 || sides > 200)
    return bad('sides', 'A polygon has 3 to 200 sides.')
  if (!apart(centre, corner)) return bad('flat', 'The corner lies on the centre.')
  const to = new Builder(d)
  const r = dist(centre, corner)
  const from = Math.atan2(corner[1] - centre[1], corner[0] - centre[0])
  const at = Array.from({ length: sides }, (_, i): P2 => {
    const a = from + (2 * Math.PI * i) / sides
    return [centre[0] + r * Math.cos(a), centre[1] + r * Math.sin(a)]
  })
  const lines = at.map((p, i) => to.line(p, at[(i + 1) % sides]!))
  const round = to.curve(arc(centre, r, 0, 2 * Math.PI), { construction: true })
  return good(
    withHolds(to.drawing, [
      ...at.map((p) => ({ kind: 'on' as const, points: [to.point(p)], entities: [round] })),
      ...lines.slice(1).map((l) => ofPieces('equal', lines[0]!, l)),
    ]),
  )
}

/** A slot: two half circles of one width about two places, joined by tangents. */
export function slot(d: Drawing, a: P2, b: P2, radius: number): Outcome<Drawing> {
  if (!apart(a, b)) return bad('flat', 'The ends of a slot must be apart.')
  if (!(radius > SMALL)) return bad('flat', 'A slot needs a width.')
  const to = new Builder(d)
  const n = dist(a, b)
  const u: P2 = [(b[0] - a[0]) / n, (b[1] - a[1]) / n]
  const off = (p: P2, k: number): P2 => [p[0] - u[1] * radius * k, p[1] + u[0] * radius * k]
  const beyond = (p: P2, k: number): P2 => [p[0] + u[0] * radius * k, p[1] + u[1] * radius * k]
  const low = to.line(off(a, -1), off(b, -1))
  const right = to.curve(arcThrough(off(b, -1), beyond(b, 1), off(b, 1)))
  const high = to.line(off(b, 1), off(a, 1))
  const left = to.curve(arcThrough(off(a, 1), beyond(a, -1), off(a, -1)))
  return good(
    withHolds(to.drawing, [
      ofPieces('tangent', low, right),
      ofPieces('tangent', right, high),
      ofPieces('tangent', high, left),
      ofPieces('tangent', left, low),
      ofPieces('equal', left, right),
    ]),
  )
}

/** A circle through three places. */
export function circleThrough(d: Drawing, a: P2, b: P2, c: P2): Outcome<Drawing> {
  const made = apart(a, b) && apart(b, c) && apart(a, c) ? arcThrough(a, b, c) : null
  if (made?.kind !== 'arc') return bad('in-line', 'The three points lie in one line.')
  const to = new Builder(d)
  to.curve(arc(made.c, made.radius, 0, 2 * Math.PI))
  return good(to.drawing)
}

/** An ellipse about a centre, with the end of one axis and the half length of the other. */
export function ellipseAbout(d: Drawing, centre: P2, end: P2, half: number): Outcome<Drawing> {
  if (!apart(centre, end) || !(half > SMALL)) return bad('flat', 'An ellipse needs both half-axes.')
  const to = new Builder(d)
  const ratio = half / dist(centre, end)
  to.add({ kind: 'ellipse', c: to.point(centre), end: to.point(end), ratio }, 'ellipse')
  return good(to.drawing)
}
