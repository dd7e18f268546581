import { mean3, type P3, placeAt } from '../../math'
import { creased, dissolved, insertLoops, relaxed, turnedAlike } from '../edit'
import { type Cage, facesAtEdges } from '../layout'
import { tableOf } from '../limit/table'
import { edgesAlike, movedAlike, type Orbits, withCopies } from '../symmetry'
import {
  type Cure,
  edgeCures,
  moveCures,
  pointsOf,
  spreadCures,
  starsOf,
  strayCreases,
} from './cures'
import { unevenFaces } from './fairness'
import { about, facesAt, type Uneven, unevenAbout } from './region'

/** A cure that was tried, with how unevenly the form bends about it before and after. */
export interface Finding {
  cure: Cure
  before: Uneven
  after: Uneven
  at: P3
}

/** How often a cage is refined to find where it bends unevenly. */
const LEVELS = 3
/** Cures of each kind that are tried. */
const TRIED = { edges: 24, moves: 24, relax: 6, loops: 4 }
/**
 * A cure that takes less of the unevenness about it away is none. A crease that ends in the open is told whatever it does; more lines
 * make anything a little more even.
 */
const LEAST: Record<Cure['kind'], number> = {
  crease: 0,
  move: 0.08,
  relax: 0.08,
  rotate: 0.08,
  dissolve: 0.08,
  loop: 0.4,
}

/**
 * Examines a cage: what can be tried where it bends unevenly is tried on a copy, on all places alike, and ranked by what it gains; best
 * first. Stars that have to be there score too, so that a score alone says nothing.
 */
export function examined(cage: Cage, orbits: Orbits): Finding[] {
  const table = tableOf(cage)
  if (!table.ok) return []
  const uneven = unevenFaces({ table: table.value, at: cage.at }, LEVELS)
  const at = facesAt(cage.layout)
  const edges = facesAtEdges(cage.layout.faces)
  // Stars that have to be there would take all places.
  const score = (p: number) => at[p]!.reduce((sum, f) => sum + uneven.plain[f]!, 0)
  const stars = starsOf(cage, edges)
  const { relax, loops } = spreadCures(cage, stars, uneven.all, score)
  const some = (of: readonly Cure[], most: number) => once(of, orbits).slice(0, most)
  const cures = [
    ...once(strayCreases(cage, edges), orbits),
    ...some(edgeCures(cage, edges, stars, uneven.all), TRIED.edges),
    ...some(moveCures(cage, stars, score), TRIED.moves),
    ...some(relax, TRIED.relax),
    ...some(loops, TRIED.loops),
  ]
  const findings = cures.flatMap((cure): Finding[] => {
    const points = pointsOf(cure)
    const where = about(cage, at, points)
    const before = unevenAbout(cage, where)
    const cured = curedBy(cage, cure, orbits)
    const after = cured ? unevenAbout(cured, where) : before
    const found = { cure, before, after }
    return !(before.all > after.all && shareOf(found) > LEAST[cure.kind])
      ? []
      : [{ ...found, at: mean3(points.map((p) => placeAt(cage.at, p))) }]
  })
  return findings.sort((x, y) => worth(y) - worth(x))
}

type Tried = Omit<Finding, 'at'>
/** The share of the unevenness about it that a cure takes away; near a star that has to be there, of what is not the star's. */
export const shareOf = ({ before, after }: Tried): number =>
  Math.max(1 - after.all / before.all, before.plain > 0 ? 1 - after.plain / before.plain : 0)

/** What a cure takes away, the more the cleaner what it leaves and the less it touches. */
export const worth = (f: Tried): number =>
  ((f.before.all - f.after.all) * shareOf(f)) / (f.cure.kind === 'relax' ? f.cure.points.length : 1)

/** Of cures that are copies of each other, the first. */
function once(cures: readonly Cure[], { points }: Orbits): Cure[] {
  const told = new Set<string>()
  return cures.filter((cure) => {
    const own = pointsOf(cure)
    const keys = points.map((of) =>
      own
        .map((p) => of[p]!)
        .sort((a, b) => a - b)
        .join(' '),
    )
    const known = keys.some((k) => told.has(`${cure.kind} ${k} ${wayOf(cure)}`))
    told.add(`${cure.kind} ${keys[0]} ${wayOf(cure)}`)
    return !known
  })
}
const wayOf = (c: Cure): string => (c.kind === 'rotate' ? c.way : '')

/** A cage with a cure on all copies; null where it cannot be done. */
export function curedBy(cage: Cage, cure: Cure, orbits: Orbits): Cage | null {
  switch (cure.kind) {
    case 'move':
      return movedAlike(cage, orbits, new Map([[cure.point, cure.by]])).cage
    case 'relax': {
      const all = withCopies(orbits.points, cure.points)
      return movedAlike(cage, orbits, relaxed(cage, all, 1)).cage
    }
    case 'crease':
      return creased(cage, edgesAlike(cure.edges, orbits), [], 0)
    case 'loop':
      return insertLoops(cage, edgesAlike([cure.edge], orbits), 0.5, 'loop')
    case 'dissolve':
      return dissolved(cage, edgesAlike([cure.edge], orbits))
    case 'rotate': {
      const made = turnedAlike(cage, [cure.edge], cure.way, orbits)
      return made.ok ? made.value : null
    }
  }
}
