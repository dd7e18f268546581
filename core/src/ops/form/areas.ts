import type { Outcome } from '../../math'
import { liveSegs, type Region, regionsOf, type Seg, type Shape } from '../../profile'

/** Areas are found once for each drawing: an op that waits for the kernel asks again and again. */
const known = new WeakMap<Shape, Outcome<Region[]>>()

/** The closed areas of a profile, their pieces named by `mark` and what they were drawn as. */
export function closedAreas(shape: Shape, mark: string): Outcome<Region[]> {
  const areas = known.get(shape) ?? regionsOf(liveSegs(shape, ''))
  known.set(shape, areas)
  if (!areas.ok) return areas
  const marked = (loop: readonly Seg[]) => loop.map((s) => ({ ...s, name: mark + s.name }))
  return {
    ok: true,
    value: areas.value.map((r) => ({ outer: marked(r.outer), holes: r.holes.map(marked) })),
  }
}
