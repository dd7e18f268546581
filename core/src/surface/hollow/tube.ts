import { dot3, norm3, type P3, sub3 } from '../../math'
import { type Patch, pointOn } from '../patch'
import { swapped, turnedU } from '../turned'

/** A face of a body as a whole surface, u x v out of the material; `id` is what the caller knows it by. */
export interface TubeFace {
  patch: Patch
  id: number
}
/** A flat end of a tube. */
export interface TubeEnd {
  at: P3
  /** Out of the material, of unit length. */
  normal: P3
}
/** Faces round a hollow to be, between two flat ends: rows from one to the other, in each u runs on round and u x v looks out. */
export interface Tube {
  rows: TubeFace[][]
}

/** How near sides of faces lie that are one, mm. */
const NEAR = 1e-4

/** The sides of a patch: where v starts, where u ends, where v ends, where u starts. */
const SIDES: ((t: number) => [number, number])[] = [
  (t) => [t, 0],
  (t) => [1, t],
  (t) => [t, 1],
  (t) => [0, t],
]
const [FROM, RIGHT, TO] = [0, 1, 2]
const spots = (p: Patch, side: number): P3[] =>
  [0.2, 0.5, 0.8].map((t) => pointOn(p, ...SIDES[side]!(t)))

function alike(a: readonly P3[], b: readonly P3[]): boolean {
  const near = (p: P3, q: P3) => norm3(sub3(p, q)) < NEAR
  return a.every((p, i) => near(p, b[i]!)) || a.every((p, i) => near(p, b[2 - i]!))
}

const onEnd = (p: Patch, side: number, end: TubeEnd): boolean =>
  spots(p, side).every((q) => Math.abs(dot3(sub3(q, end.at), end.normal)) < NEAR)

/** Faces put in order as a tube between two flat ends, all run the same way; null where they are none. */
export function tubeOf(faces: readonly TubeFace[], ends: readonly [TubeEnd, TubeEnd]): Tube | null {
  const taken = new Set<number>()
  /** The face not taken yet that has a side here, run so that it is the `side` of it. */
  const taking = (test: (p: Patch, side: number) => boolean, as: number): TubeFace | null => {
    for (const f of faces) {
      if (taken.has(f.id)) continue
      for (let side = 0; side < 4; side++)
        if (test(f.patch, side)) {
          taken.add(f.id)
          return { id: f.id, patch: quartered(f.patch, (as - side + 4) % 4) }
        }
    }
    return null
  }
  /** Round from a first face, each with its `from` on what `below` says. */
  const round = (first: TubeFace, count: number): TubeFace[] | null => {
    const row = [first]
    for (;;) {
      const right = spots(row[row.length - 1]!.patch, RIGHT)
      if (alike(right, spots(first.patch, 3)))
        return count === 0 || row.length === count ? row : null
      const next = taking((p, side) => alike(spots(p, side), right), 3)
      if (!next) return null
      row.push(next)
    }
  }
  const first = taking((p, side) => onEnd(p, side, ends[0]), FROM)
  if (!first) return null
  const rows: TubeFace[][] = []
  let start: TubeFace | null = first
  while (start) {
    const row: TubeFace[] | null = round(start, rows[0]?.length ?? 0)
    if (!row) return null
    const under = rows[rows.length - 1]
    const stands = row.every((f, i) =>
      under
        ? alike(spots(f.patch, FROM), spots(under[i]!.patch, TO))
        : onEnd(f.patch, FROM, ends[0]),
    )
    if (!stands) return null
    rows.push(row)
    if (row.every((f) => onEnd(f.patch, TO, ends[1]))) break
    const above = spots(row[0]!.patch, TO)
    start = taking((p, side) => alike(spots(p, side), above), FROM)
    if (!start) return null
  }
  return taken.size === faces.length ? { rows } : null
}

/** The patch with its parameters turned on by quarters: side k becomes side k + 1 with each; u x v stays. */
function quartered(p: Patch, quarters: number): Patch {
  let now = p
  // Exchanged and turned over once each: the normal stays.
  for (let k = 0; k < quarters; k++) now = turnedU(swapped(now))
  return now
}
