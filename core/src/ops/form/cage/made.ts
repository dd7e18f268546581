import { type Cage, movedAlike, type Orbits, type Ways } from '../../../cage'
import { bad, type Diagnosis, good, mm, norm3, type Outcome, placeAt, sub3 } from '../../../math'

/** A cage changed, and what there is to be told of that. */
export type Made = Outcome<{ cage: Cage; warnings: Diagnosis[] }>
export const only = (made: Outcome<Cage>): Made =>
  made.ok ? good({ cage: made.value, warnings: [] }) : made

/** The code of what the symmetry does not allow. */
export const LOST = 'cage-loses'

/** A way shorter than this is none, mm; the same as a share of the longest that is asked. */
const STILL = 1e-9
const SHARE = 1e-6
/** Places that are shown. */
const SHOWN = 8

/**
 * Points moved by ways, on all copies. Refused where a point is asked to go one way by itself and another as the copy of others; told
 * where one (of those `chosen`, else of all) cannot go as it is asked, lying on what the symmetry leaves where it is.
 */
export function alike(
  cage: Cage,
  orbits: Orbits,
  ways: Ways,
  chosen: Iterable<number> = ways.keys(),
): Made {
  const { cage: moved, apart } = movedAlike(cage, orbits, ways)
  let asked = 0
  for (const d of ways.values()) asked = Math.max(asked, norm3(d))
  const places = (points: Iterable<number>) =>
    [...points].slice(0, SHOWN).map((p) => ({ at: placeAt(cage.at, p) }))
  if (apart.by > Math.max(STILL, SHARE * asked))
    return bad(
      LOST,
      `The symmetry does not allow this: points are asked to go one way and, as copies of others, another, up to ${mm(apart.by)} apart. Choose them on one copy only.`,
      places(apart.points),
    )
  const leftOut = (p: number) =>
    norm3(sub3(ways.get(p) ?? [0, 0, 0], sub3(placeAt(moved.at, p), placeAt(cage.at, p))))
  const held = [...chosen].filter((p) => ways.has(p) && leftOut(p) > Math.max(STILL, SHARE * asked))
  if (held.length === 0) return good({ cage: moved, warnings: [] })
  const off = Math.max(...held.map(leftOut))
  const warning: Diagnosis = {
    code: 'cage-held',
    message: `${held.length === 1 ? 'A point stays' : `${held.length} points stay`} where the symmetry keeps ${held.length === 1 ? 'it' : 'them'}: ${mm(off)} of this is left out.`,
    places: places(held),
    fixes: [],
  }
  return good({ cage: moved, warnings: [warning] })
}
