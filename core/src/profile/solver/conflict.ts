import { linearise, RESIDUAL, solveLeast } from './least'
import { dependentRows } from './rank'
import type { Equation } from './system'

/**
 * The smallest set of relations that cannot hold together. At the point of least squares the residuals
 * that remain certify the conflict. What it does not need is taken out one by one; then smaller sets are
 * looked for until there is none, or until so many solves are spent and what was found so far is given.
 */
export function conflictOf(
  eqs: readonly Equation[],
  start: ArrayLike<number>,
  reach: number,
): string[] {
  const { x } = solveLeast(eqs, start, { reach })
  const left = new Map<string, number>()
  for (const e of eqs) {
    if (e.of) left.set(e.of, Math.max(left.get(e.of) ?? 0, Math.abs(e.value(x).v)))
  }
  const most = Math.max(...left.values(), 0)
  const involved = [...left].filter(([, r]) => r > 1e-5 * most).map(([id]) => id)
  const holds = (ids: readonly string[]) =>
    solveLeast(
      eqs.filter((e) => e.of === '' || ids.includes(e.of)),
      start,
      { reach },
    ).residual <=
    100 * RESIDUAL
  const whole = holds(involved) ? [...left.keys()] : involved
  // All equations can be met, only not on this branch: then every one of them is named.
  if (holds(whole)) return whole
  const all = [...left.keys()]
  return smallest(all, reduced(whole, holds), holds, (first) => dependents(eqs, x, first))
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
