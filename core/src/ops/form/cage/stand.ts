import { type Cage, finer, type Orbits, orbitsOf, type Symmetry } from '../../../cage'
import { bad, type Diagnosis, good, type Outcome } from '../../../math'
import type { CageEdit } from './inputs'

/** A cage between two edits. */
export interface Stand {
  cage: Cage
  /** Names of points that the symmetry was let go for. */
  free: ReadonlySet<string>
  /** How its symmetry moves it, where that is known: it goes along with points, wherever they are moved. */
  orbits?: Orbits
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
  /** What the last of its warnings offers to do instead. */
  instead?: { label: string; edit: CageEdit }
}
export const numbersOf = ({ cage, free }: Pick<Stand, 'cage' | 'free'>): Set<number> =>
  new Set(cage.layout.points.flatMap((name, p) => (free.has(name) ? [p] : [])))

/** The symmetry of a cage as it stands, carried on from what it was `before`; a diagnosis where it has it not. */
export function symmetric(stand: Stand, symmetry: Symmetry, before?: Stand): Outcome<Orbits> {
  if (stand.orbits) return good(stand.orbits)
  const known = before?.orbits && { cage: before.cage, orbits: before.orbits }
  const orbits = orbitsOf(stand.cage, symmetry, numbersOf(stand), undefined, known)
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

/**
 * A cage refined once, with its symmetry: all that a face becomes which touches a point that was let go, its other corners too, is let
 * go with it, since it draws them after it.
 */
export function finerStand(from: Stand, symmetry: Symmetry, id: string): Outcome<Stand> {
  const made = finer(from.cage, id)
  if (!made.ok) return made
  const cage = made.value
  const { points, faces } = from.cage.layout
  const drawn = new Set(
    faces.flatMap(({ name, corners }) =>
      corners.some((p) => from.free.has(points[p]!)) ? [name] : [],
    ),
  )
  const free = new Set(from.free)
  for (const { name, corners } of cage.layout.faces) {
    // Faces are called after the face and the corner they come from.
    const [, whole] = /^(.*)\.\d+$/.exec(name.slice(id.length + 1))!
    if (drawn.has(whole!)) for (const p of corners) free.add(cage.layout.points[p]!)
  }
  const orbits = symmetric({ cage, free }, symmetry, from)
  return orbits.ok ? good({ cage, free, orbits: orbits.value }) : orbits
}
