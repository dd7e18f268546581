import { type Cage, type Orbits, orbitsOf, type Symmetry } from '../../../cage'
import { bad, type Diagnosis, good, type Outcome } from '../../../math'

/** A cage between two edits. */
export interface Stand {
  cage: Cage
  /** Names of points that the symmetry was let go for. */
  free: ReadonlySet<string>
}

/** How the form that an edit laid onto a body lies there: places, how far each is off, and how far they may be, mm. */
export interface Laid {
  edit: string
  places: Float64Array
  offs: Float64Array
  within: number
}

/** A cage after an edit, what there is to be told of it, and what was measured, in words. */
export interface Edited extends Stand {
  warnings: Diagnosis[]
  words?: string
  /** How it lies on a body. */
  laid?: Laid
}
const numbersOf = ({ cage, free }: Stand): Set<number> =>
  new Set(cage.layout.points.flatMap((name, p) => (free.has(name) ? [p] : [])))

/** The symmetry of a cage as it stands; a diagnosis where it has it not. */
export function symmetric(stand: Stand, symmetry: Symmetry): Outcome<Orbits> {
  const orbits = orbitsOf(stand.cage, symmetry, numbersOf(stand))
  return 'without' in orbits
    ? bad(
        'cage-symmetry',
        'Here the cage has not the symmetry it was given.',
        orbits.without.map((at) => ({ at })),
      )
    : good(orbits)
}

export const lostOf = (lost: readonly string[]): Diagnosis[] =>
  lost.length === 0
    ? []
    : [
        {
          code: 'cage-lost',
          message: `${lost.length === 1 ? `“${lost[0]}” is` : `${lost.length} of what it works on are`} not on the cage any more.`,
          places: [],
          fixes: [],
        },
      ]
