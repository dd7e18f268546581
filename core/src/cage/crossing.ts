import type { P3 } from '../math'
import { selfCrossing } from '../mesh'
import type { Cage } from './layout'
import { limitPoint } from './limit/limit'
import { halvedQuads, type Level, refinedLevel } from './limit/refine'
import type { Table } from './limit/table'

/** The limit is looked at by more triangles than the first; a crossing is believed by more than the second. */
const [FIRST, BELIEVED] = [1_500, 15_000]
/** Triangles that go no deeper through each other are as near as they are to the limit, mm. */
const DEEP = 0.05

/** Where the limit of a cage goes through itself; null where it does not. What coarse triangles find, finer ones have to find too. */
export function cageCrossing(table: Table, { at }: Pick<Cage, 'at'>): P3 | null {
  let level: Level = refinedLevel({ table, at })
  for (;;) {
    const triangles = 2 * level.table.faces
    if (triangles > FIRST) {
      const found = selfCrossing(limitMesh(level), DEEP)
      if (!found || triangles > BELIEVED) return found
    }
    level = refinedLevel(level)
  }
}

/** The points of a refined table where they end, its quads halved; points stay shared over creases. */
function limitMesh({ table, at }: Level) {
  const positions = new Float64Array(3 * table.points)
  for (let p = 0; p < table.points; p++) limitPoint(table, at, p, positions, p)
  return { positions, triangles: halvedQuads(table.corners) }
}
