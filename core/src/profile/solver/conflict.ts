import { linearise, MET, solveLeast } from './least'
import { dependentRows } from './rank'
import { evenNumbers } from './starts'
import type { Equation } from './system'

/**
 * The smallest set of relations that cannot hold together. At the point of least squares the residuals
 * that remain certify the conflict. What it does not need is taken out one by one; then smaller sets are
 * looked for until there is none, or until so many solves are spent and what was found so far is given.
 * Empty where even that can be met from somewhere about the drawn state: then no conflict is shown.
 * `anew` gives the equations as read from another state, where the sides of the drawn one mean little.
 */
export function conflictOf(
  eqs: readonly Equation[],
  start: ArrayLike<number>,
  reach: number,
  anew: ((start: Float64Array) => Equation[]) | null,
): string[] {
  const { x } = solveLeast(eqs, start, { reach })
  const left = new Map<string, number>()
  for (const e of eqs) {
    if (e.of) left.set(e.of, Math.max(left.get(e.of) ?? 0, Math.abs(e.value(x).v)))
  }
  const most = Math.max(...left.values(), 0)
  const involved = [...left].filter(([, r]) => r > 1e-5 * most).map(([id]) => id)
  const beside = placesAbout(start, reach)
  const named = (all: readonly Equation[], ids: readonly string[]) =>
    all.filter((e) => e.of === '' || ids.includes(e.of))
  const met = (ids: readonly string[], share: number): boolean => {
    const from = share === 0 ? Float64Array.from(start) : beside(share, named(eqs, ids))
    const read = share > 0 && anew ? anew(from) : eqs
    return solveLeast(named(read, ids), from, { reach }).residual <= MET
  }
  // A drawing may stand just where a solver sees no way, such as level lines that have to tilt.
  const holds = (ids: readonly string[]) => [0, ...BESIDE].some((share) => met(ids, share))
  const whole = holds(involved) ? [...left.keys()] : involved
  // All equations can be met, only not on this branch: no conflict.
  if (holds(whole)) return []
  const all = [...left.keys()]
  const found = smallest(all, reduced(whole, holds), holds, (first) => dependents(eqs, x, first))
  const elsewhere = Array.from({ length: TRIES }, (_, k) => (SPREAD * (k + 1)) / TRIES)
  return elsewhere.some((share) => met(found, share)) ? [] : found
}

/** Starts tried before a set is called a conflict, and how far from the drawn state, shares of its size. */
const TRIES = 24
const SPREAD = 0.6
/** Starts beside the drawn state that every set is tried from. */
const BESIDE = [0.03] as const

/** Gives places beside the drawn state in which what the equations speak of is moved; the same each time. */
function placesAbout(start: ArrayLike<number>, reach: number) {
  const random = evenNumbers(90_001)
  return (share: number, eqs: readonly Equation[]): Float64Array => {
    const moves = new Set(eqs.flatMap((e) => e.vars))
    return Float64Array.from(start, (v, i) =>
      moves.has(i) ? v + 8 * share * reach * (random() - 0.5) : v,
    )
  }
}

/** Takes out, one by one, whatever the conflict does not need. */
function reduced(ids: readonly string[], holds: (ids: readonly string[]) => boolean): string[] {
  let kept = [...ids]
  for (const id of ids) {
    const without = kept.filter((k) => k !== id)
    if (!holds(without)) kept = without
  }
  return kept
}

/** Solves spent at most on looking for a smaller conflict. */
const SOLVES = 300

/**
 * A smallest conflict among `ids`, given one that is irreducible: every conflict has a member in what a
 * greatest set without conflict leaves out, so the smallest sets with a member in each such remainder
 * are tried until one conflicts (Ignatiev, Previti, Liffiton and Marques-Silva 2015).
 */
function smallest(
  ids: readonly string[],
  found: string[],
  holds: (ids: readonly string[]) => boolean,
  dependentOn: (first: readonly string[]) => ReadonlySet<string>,
): string[] {
  let solves = 0
  const remainders: string[][] = []
  while (solves < SOLVES) {
    const pick = hitting(remainders, found.length - 1)
    if (!pick) return found
    solves++
    if (!holds(pick)) return ids.filter((id) => pick.includes(id))
    // What is independent of the rest can be met with it; only what is not need be tried.
    const dependent = dependentOn(pick)
    const independent = ids.filter((id) => pick.includes(id) || !dependent.has(id))
    let kept = holds(independent) ? independent : pick
    for (const id of ids) {
      if (kept.includes(id)) continue
      solves++
      if (holds([...kept, id])) kept = [...kept, id]
    }
    remainders.push(ids.filter((id) => !kept.includes(id)))
  }
  return found
}

/** Relations whose equations depend on others, those of `first` being taken before the rest. */
function dependents(
  eqs: readonly Equation[],
  x: Float64Array,
  first: readonly string[],
): ReadonlySet<string> {
  const rank = (e: Equation) => (e.of === '' ? 0 : first.includes(e.of) ? 1 : 2)
  const ordered = [...eqs].sort((a, b) => rank(a) - rank(b))
  return new Set(dependentRows(linearise(ordered, x), x.length).map((row) => ordered[row]!.of))
}

/** A smallest set of at most `most` members with one in each of the sets; null when there is none. */
function hitting(sets: readonly string[][], most: number): string[] | null {
  const within = (chosen: string[], size: number): string[] | null => {
    const missed = sets.find((s) => !s.some((id) => chosen.includes(id)))
    if (!missed) return chosen
    if (chosen.length === size) return null
    for (const id of missed) {
      const done = within([...chosen, id], size)
      if (done) return done
    }
    return null
  }
  for (let size = 0; size <= most; size++) {
    const done = within([], size)
    if (done) return done
  }
  return null
}
