import { without } from '../edit'
import type { Cage, Layout } from '../layout'
import { tableOf } from '../limit/table'
import { unevenFaces } from './fairness'

/** How often what lies about a cure is refined: enough for a figure, few enough to try many. */
const LEVELS = 2
/** Rings of faces about a cure that its figure counts, and that are looked at with them. */
const [NEAR, SEEN] = [2, 3]

/** Faces at each point. */
export function facesAt({ points, faces }: Layout): number[][] {
  const out: number[][] = points.map(() => [])
  for (const [f, { corners }] of faces.entries()) for (const p of corners) out[p]!.push(f)
  return out
}

/** Points within so many rings of faces of some. */
function ringsAbout(
  { faces }: Layout,
  at: readonly number[][],
  points: readonly number[],
  rings: number,
): Set<number> {
  const out = new Set(points)
  let edge: readonly number[] = points
  for (let k = 0; k < rings; k++) {
    const next: number[] = []
    for (const p of edge)
      for (const f of at[p]!)
        for (const q of faces[f]!.corners)
          if (!out.has(q)) {
            out.add(q)
            next.push(q)
          }
    edge = next
  }
  return out
}

/** What lies about some points of a cage, by the names of its points: what counts, and what is looked at. */
export interface About {
  /** All points there were: those that a cure makes count as near. */
  known: ReadonlySet<string>
  near: ReadonlySet<string>
  seen: ReadonlySet<string>
}
export function about(cage: Cage, at: readonly number[][], points: readonly number[]): About {
  const names = (of: Set<number>) => new Set([...of].map((p) => cage.layout.points[p]!))
  return {
    known: new Set(cage.layout.points),
    near: names(ringsAbout(cage.layout, at, points, NEAR)),
    seen: names(ringsAbout(cage.layout, at, points, SEEN)),
  }
}

/** How unevenly something bends, with its stars and without. */
export interface Uneven {
  all: number
  plain: number
}
/**
 * How unevenly a cage bends there. What lies on the edge of what is looked at counts for little, and for the same in a cage that
 * differs only in the middle.
 */
export function unevenAbout(cage: Cage, { known, near, seen }: About): Uneven {
  const within = (of: ReadonlySet<string>, name: string) => of.has(name) || !known.has(name)
  const out = new Set<number>()
  for (const [f, { corners }] of cage.layout.faces.entries())
    if (!corners.every((p) => within(seen, cage.layout.points[p]!))) out.add(f)
  const part = without(cage, out)
  const table = tableOf(part)
  if (!table.ok) return { all: Number.POSITIVE_INFINITY, plain: Number.POSITIVE_INFINITY }
  const uneven = unevenFaces({ table: table.value, at: part.at }, LEVELS)
  const sum = { all: 0, plain: 0 }
  for (const [f, { corners }] of part.layout.faces.entries())
    if (corners.every((p) => within(near, part.layout.points[p]!))) {
      sum.all += uneven.all[f]!
      sum.plain += uneven.plain[f]!
    }
  return sum
}
