import { Bundle, boundsOf } from '../../../curve'
import type { ExactPart } from '../../../exact'
import {
  bad,
  dot3,
  good,
  mm,
  type Outcome,
  type P2,
  placeAt,
  shift,
  sub3,
  toSpace,
} from '../../../math'
import { loopsOf, segsOf, sideOf } from '../../../profile'
import { closedAreas } from '../../form/areas'
import { gridOver } from '../../layout'
import type { OpContext } from '../../state'
import type { Laid } from './count'
import { MOST, type PatternInputs } from './inputs'

/** All over the closed areas of a profile, whole pieces only: each has the circle about its outline free. */
export function overField(i: PatternInputs, part: ExactPart, ctx: OpContext): Outcome<Laid> {
  const profile = ctx.profile(i.field ?? '')
  if (!profile) return bad('no-profile', 'Choose the profile whose areas are filled.')
  const areas = closedAreas(profile.shape, '')
  if (!areas.ok) return areas
  if (areas.value.length === 0)
    return bad('open-profile', 'The profile encloses nothing: it is open.')
  const [pitch, margin] = [ctx.read(i.pitch, 'length'), ctx.read(i.margin, 'length')]
  if (!(pitch > 0)) return bad('not-positive', 'The pitch must be more than 0.')
  if (!(margin >= 0)) return bad('margin', 'What stays clear must not be less than 0.')
  const { frame } = profile
  const { middle, radius } = footprint(part, (p) => [
    dot3(sub3(p, frame.origin), frame.x),
    dot3(sub3(p, frame.origin), frame.y),
  ])
  const loops = loopsOf(areas.value)
  const curves = segsOf(areas.value).map((s) => s.curve)
  const border = new Bundle(curves)
  const boxes = curves.map(boundsOf)
  const box = {
    min: [0, 1].map((k) => Math.min(...boxes.map((b) => b.min[k]!))) as unknown as P2,
    max: [0, 1].map((k) => Math.max(...boxes.map((b) => b.max[k]!))) as unknown as P2,
  }
  const grid = gridOver(box, pitch, i.layout, 8 * MOST)
  if (!grid.ok) return grid
  // A hair within: a piece that just fits is whole.
  const clear = radius + margin - 1e-6
  const places = grid.value.filter(
    (p) => sideOf(loops, p).inside && !border.nearest(p[0], p[1], clear),
  )
  if (places.length === 0)
    return bad(
      'no-room',
      `No whole piece, ${mm(2 * radius, 2)} across, has room in the area with this margin.`,
    )
  if (places.length > MOST)
    return bad(
      'too-many',
      `${places.length} places are more than the ${MOST} that a pattern takes.`,
    )
  const to = (p: P2, from: P2) =>
    shift(sub3(toSpace(frame, p[0], p[1]), toSpace(frame, from[0], from[1])))
  return good({ first: to(places[0]!, middle), all: places.map((p) => to(p, places[0]!)) })
}

/** The middle of the box about a body as seen on a plane, and the circle about it there that holds all of it. */
function footprint(part: ExactPart, seen: (p: readonly [number, number, number]) => P2) {
  const { positions } = part.mesh
  const pts = Array.from({ length: positions.length / 3 }, (_, v) => seen(placeAt(positions, v)))
  const reach = (k: 0 | 1) => [
    pts.reduce((a, p) => Math.min(a, p[k]), Number.POSITIVE_INFINITY),
    pts.reduce((a, p) => Math.max(a, p[k]), Number.NEGATIVE_INFINITY),
  ]
  const [[a, b], [c, d]] = [reach(0), reach(1)] as [[number, number], [number, number]]
  const middle: P2 = [(a + b) / 2, (c + d) / 2]
  const radius = pts.reduce(
    (m, p) => Math.max(m, Math.hypot(p[0] - middle[0], p[1] - middle[1])),
    0,
  )
  return { middle, radius }
}
