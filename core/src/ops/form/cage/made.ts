import { type Cage, movedAlike, type Orbits, type Ways } from '../../../cage'
import { type Diagnosis, good, type Outcome, placeAt } from '../../../math'

/** A cage changed, and what there is to be told of that. */
export type Made = Outcome<{ cage: Cage; warnings: Diagnosis[] }>
export const only = (made: Outcome<Cage>): Made =>
  made.ok ? good({ cage: made.value, warnings: [] }) : made

/** A way shorter than this is none, mm. */
const STILL = 1e-9

/** Points moved by ways, on all copies; told where the symmetry leaves nothing of them. */
export function alike(cage: Cage, orbits: Orbits, ways: Ways): Made {
  const { cage: moved, most } = movedAlike(cage, orbits, ways)
  let asked = 0
  for (const d of ways.values()) asked = Math.max(asked, Math.hypot(...d))
  const warnings: Diagnosis[] =
    asked > STILL && most < asked * 1e-9
      ? [
          {
            code: 'cage-held',
            message: 'The symmetry leaves nothing of this: its copies ask for opposite ways.',
            places: [...ways.keys()].slice(0, 8).map((p) => ({ at: placeAt(cage.at, p) })),
            fixes: [],
          },
        ]
      : []
  return good({ cage: moved, warnings })
}
