import type { P3 } from '../math'
import { selfCrossing } from '../mesh'
import type { Cage } from './layout'
import { limitPoint } from './limit'
import { type Level, refinedLevel } from './refine'
import type { Table } from './table'

/** Triangles the limit is first looked at by, and by which a crossing is believed. */
const [FIRST, BELIEVED] = [6_000, 60_000]
/** Triangles that go no deeper through each other are as near as they are to the limit, mm. */
const DEEP = 0.05

/** Where the limit of a cage goes through itself; null where it does not. What coarse triangles find, finer ones have to find too. */
export function cageCrossing(table: Table, { at }: Pick<Cage, 'at'>): P3 | null {
  let level: Level = refinedLevel({ table, at })
  for (;;) {
    const triangles = 2 * level.table.faces
    const finer = 4 * triangles
    if (finer > FIRST) {
      const found = selfCrossing(limitMesh(level), DEEP)
      if (!found || finer > BELIEVED) return found
    }
    level = refinedLevel(level)
  }
}

/** The points of a refined table where they end, its quads halved; points stay shared over creases. */
function limitMesh({ table, at }: Level) {
  const positions = new Float64Array(3 * table.points)
  for (let p = 0; p < table.points; p++) limitPoint(table, at, p, positions, p)
  const triangles = new Uint32Array(6 * table.faces)
  for (let f = 0; f < table.faces; f++) {
    const [a, b, c, d] = [0, 1, 2, 3].map((k) => table.corners[4 * f + k]!) as [
      number,
      number,
      number,
      number,
    ]
    triangles.set([a, b, c, a, c, d], 6 * f)
  }
  return { positions, triangles }
}
