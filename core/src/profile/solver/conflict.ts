import { RESIDUAL, solveLeast } from './least'
import type { Equation } from './system'

/**
 * The smallest set of relations found that cannot hold together. At the point of least squares the
 * residuals that remain certify the conflict; what they do not need is taken out one by one, in two
 * orders, and the shorter list is kept.
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
  const forward = reduced(whole, holds)
  const backward = reduced([...whole].reverse(), holds)
  return backward.length < forward.length ? backward.reverse() : forward
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
