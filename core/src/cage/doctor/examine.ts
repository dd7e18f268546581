import { mean3, type P3, placeAt } from '../../math'
import { creased, dissolved, insertLoops, relaxed, turnedAlike, type Ways } from '../edit'
import { type Cage, facesAtEdges } from '../layout'
import { tableOf } from '../limit/table'
import { edgesAlike, movedAlike, type Orbits, withCopies } from '../symmetry'
import { type Cure, pointsOf } from './cure'
import { edgeCures, loopCures, strayCreases } from './cures'
import { unevenFaces } from './fairness'
import { about, facesAt, type Uneven, unevenAbout } from './region'
import { lineCures, pointCures, relaxCures, settles, shapedBy } from './shapes'
import { starsOf } from './stars'
import { straightOf, wantedOf } from './wanted'

/** A cure that was tried, with how unevenly the form bends about it before and after. */
export interface Finding {
  cure: Cure
  before: Uneven
  after: Uneven
  at: P3
}

/** How often a cage is refined to find where it bends unevenly. */
const LEVELS = 3
/** And how often to see whether it is more even all over. */
const SEEN = 2
/** Cures of each kind that are tried. */
const TRIED = { edges: 24, lines: 12, points: 24, relax: 6, loops: 4 }
/**
 * A cure that takes less of the unevenness about it away is none. A crease that ends in the open is told whatever it does; more lines
 * make anything a little more even.
 */
const LEAST: Record<Cure['kind'], number> = {
  crease: 0,
  shape: 0.03,
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
  const straight = straightOf(cage, stars)
  const wanted = wantedOf(cage, stars, straight)
  const some = (of: readonly Cure[], most: number) => once(of, orbits).slice(0, most)
  const cures = [
    ...once(strayCreases(cage, edges), orbits),
    ...some(edgeCures(cage, edges, stars, uneven.all), TRIED.edges),
    ...some(lineCures(wanted), TRIED.lines),
    ...some(pointCures(wanted, score), TRIED.points),
    ...some(relaxCures(wanted, stars.held, score), TRIED.relax),
    ...some(loopCures(cage, uneven.all), TRIED.loops),
  ]
  const findings = cures.flatMap((cure): (Finding & { cured: Cage })[] => {
    const points = pointsOf(cure)
    const where = about(cage, at, points)
    const before = unevenAbout(cage, where)
    const cured = curedBy(cage, cure, orbits)
    const after = cured ? unevenAbout(cured, where) : before
    const found = { cure, before, after }
    if (!(cured && before.all > after.all && shareOf(found) > LEAST[cure.kind])) return []
    const ways = waysOf(cage, cure)
    if (ways && !settles(wanted, wantedOf(cured, stars, straight), ways)) return []
    return [{ ...found, cured, at: mean3(points.map((p) => placeAt(cage.at, p))) }]
  })
  const whole = unevenAllOver(cage)
  return findings
    .sort((x, y) => worth(y) - worth(x))
    .slice(0, SHOWN)
    .filter(({ cure, cured }) => cure.kind === 'crease' || unevenAllOver(cured) < whole)
    .map(({ cured: _, ...f }) => f)
}

/** Cures that are looked at all over. */
const SHOWN = 16

/** How unevenly a whole form bends; endless where there is none. */
function unevenAllOver(cage: Cage): number {
  const table = tableOf(cage)
  if (!table.ok) return Number.POSITIVE_INFINITY
  return unevenFaces({ table: table.value, at: cage.at }, SEEN).all.reduce((a, b) => a + b, 0)
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

/** How far points go that a cure moves, mm; those it draws towards their neighbours on all copies. Null where it moves none. */
const waysOf = (cage: Cage, cure: Cure, orbits?: Orbits): Ways | null => {
  if (cure.kind === 'shape') return shapedBy(cage, cure.points, cure.how)
  if (cure.kind !== 'relax') return null
  return relaxed(cage, orbits ? withCopies(orbits.points, cure.points) : cure.points, 1)
}
/** Copies that are asked to go two ways farther apart than this (mm) let a cure be. */
const TORN = 1e-9

/** A cage with a cure on all copies; null where it cannot be done. */
export function curedBy(cage: Cage, cure: Cure, orbits: Orbits): Cage | null {
  switch (cure.kind) {
    case 'shape':
    case 'relax': {
      const made = movedAlike(cage, orbits, waysOf(cage, cure, orbits)!)
      return made.apart.by > TORN ? null : made.cage
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
