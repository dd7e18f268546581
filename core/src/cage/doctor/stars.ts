import { type Cage, ENDLESS, edgeOfKey } from '../layout'

/** How many edges meet in each point, and whether it lies on a border or a crease that never smooths out. */
export interface Stars {
  count: number[]
  held: boolean[]
}
export function starsOf({ layout }: Cage, at: ReadonlyMap<string, readonly number[]>): Stars {
  const count = layout.points.map(() => 0)
  const held = layout.points.map(() => false)
  for (const [key, faces] of at) {
    const sharp = faces.length < 2 || (layout.creases.get(key) ?? 0) >= ENDLESS
    for (const p of edgeOfKey(key)) {
      count[p]!++
      if (sharp) held[p] = true
    }
  }
  return { count, held }
}
/** How far points are from four edges each; on borders and creases nothing is asked. */
export const starred = ({ count, held }: Stars, points: readonly number[], change = 0): number =>
  points.reduce((sum, p) => sum + (held[p] ? 0 : (count[p]! + change - 4) ** 2), 0)
