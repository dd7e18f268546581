import { line } from '../curve'
import { bad, good, mm, type Outcome, type P2, POINT } from '../math'
import { AXIS, CUT, combine, MEET, type Region } from '../profile'
import type { TurnedBody } from './body'
import { sectionBounds } from './properties'

/** The body below and the body above the plane across the axis at height z (mm along the axis). */
export function splitAt(
  b: TurnedBody,
  z: number,
  name: string,
): Outcome<{ below: TurnedBody; above: TurnedBody }> {
  const box = sectionBounds(b)
  if (z <= box.min[1] + POINT || z >= box.max[1] - POINT) {
    return bad(
      'misses',
      `The plane at ${mm(z)} misses the body, which reaches from ${mm(box.min[1])} to ${mm(box.max[1])}.`,
      [{ at: [box.max[0], z] }],
    )
  }
  const [r, low] = [box.max[0] + 1, box.min[1] - 1]
  const p: P2[] = [
    [0, low],
    [r, low],
    [r, z],
    [0, z],
  ]
  const tool: Region = {
    outer: p.map((a, i) => ({ curve: line(a, p[(i + 1) % 4]!), name: i === 3 ? AXIS : name })),
    holes: [],
  }
  return good({
    below: { ...b, regions: combine(b.regions, [tool], MEET) },
    above: { ...b, regions: combine(b.regions, [tool], CUT) },
  })
}
