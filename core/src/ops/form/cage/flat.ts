import type { Cage } from '../../../cage'
import {
  bad,
  cross3,
  dot3,
  freshId,
  norm3,
  type Outcome,
  type P3,
  placeAt,
  sub3,
} from '../../../math'
import type { CageEdit, CageInputs } from './inputs'

/** Whether all points lie in one plane, within rounding: what begins as a sheet is flat until it is pushed or thickened. */
export function isFlat({ layout, at }: Cage): boolean {
  const places = layout.points.map((_, p) => placeAt(at, p))
  const farthest = (off: (p: P3) => number) =>
    places.reduce((a, b) => (off(b) > off(a) ? b : a), places[0]!)
  const o = places[0]!
  const u = sub3(
    farthest((p) => norm3(sub3(p, o))),
    o,
  )
  const v = sub3(
    farthest((p) => norm3(cross3(u, sub3(p, o)))),
    o,
  )
  const n = cross3(u, v)
  return places.every((p) => Math.abs(dot3(n, sub3(p, o))) <= 1e-9 * norm3(u) * norm3(n))
}

/** What is told of one, and the cure. */
export function flatOne({ edits }: CageInputs, op: string): Outcome<never> {
  const id = freshId(
    edits.map((e) => e.id),
    'e',
  )
  const thicken: CageEdit = { id, kind: 'thicken', by: 2.5, side: 'out' }
  return bad(
    'cage-flat',
    'It is flat and encloses nothing yet: thicken it, push it, or lay it on a body first.',
    [],
    [{ label: 'Thicken it by 2.5 mm', op, inputs: { edits: [...edits, thicken] } }],
  )
}
