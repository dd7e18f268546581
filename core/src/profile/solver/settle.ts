import { farOff } from './far'
import { flips } from './flips'
import { homotopy } from './homotopy'
import { MET, type Solved, solveLeast } from './least'
import { equationsOf, isFar, type Loose, measuresOf, reachOf } from './loose'
import type { Equation, Variables } from './system'

/** Steps in which dimensions are brought to their targets when going there at once leaves the branch. */
const STEPS = [4, 16]
/** What an equation of the drawn sides is off by where a dimension is met on the other side, mm. */
const SIDE = 1e-6
/** Ways still tried after a first solution off the branch, for one with fewer corners turned over. */
const MORE = 8

/**
 * The unknowns at which everything holds, on the branch of the drawn state; null where no way there was
 * found. A drawing that is far off (its relations do not hold either) is looked for from further starts
 * too, and may turn corners over where none without was found: then the one with the fewest is taken.
 * With brief effort only what a changed dimension needs is tried.
 */
export function settle(
  loose: Loose,
  vars: Variables,
  eqs: Equation[],
  effort: 'full' | 'brief' = 'full',
): Float64Array | null {
  const reach = reachOf(vars)
  let best: { x: Float64Array; turned: number } | null = null
  /** Keeps a solution; true where it is on the branch. */
  const keeps = (x: Float64Array | null): boolean => {
    if (!x) return false
    // A dimension met on its other side leaves the branch as a corner does that turns over.
    const sides = eqs.filter((e) => Math.abs(e.value(x).v) > SIDE).length
    const turned = flips(loose.drawing, vars, vars.x, x) + sides
    if (!best || turned < best.turned) best = { x, turned }
    return turned === 0
  }
  const solved = (s: Solved) => (s.residual <= MET ? s.x : null)
  const found = () => best!.x
  if (keeps(solved(solveLeast(eqs, vars.x, { reach })))) return found()
  const far = effort === 'full' && isFar(loose, eqs, vars)
  for (const steps of far ? [] : STEPS)
    if (keeps(inSteps(loose, vars, eqs, steps, reach))) return found()
  if (effort === 'brief') return null
  if (!far) return keeps(homotopy(eqs, vars.x, reach)) ? found() : null
  let more = MORE
  for (const x of farOff(loose, vars, reach)) {
    if (keeps(x)) return found()
    if (best && more-- === 0) break
  }
  return (best as { x: Float64Array } | null)?.x ?? null
}

/** Solves for targets that go from what is measured to what is asked in so many steps. */
function inSteps(
  loose: Loose,
  vars: Variables,
  eqs: Equation[],
  steps: number,
  reach: number,
): Float64Array | null {
  const from = measuresOf(loose, vars, vars.x)
  let x = vars.x
  for (let k = 1; k <= steps; k++) {
    const share = k / steps
    const onTheWay = () =>
      Object.fromEntries(
        Object.entries(loose.targets).map(([id, t]) => [
          id,
          (from[id] ?? t) * (1 - share) + t * share,
        ]),
      )
    const solved = solveLeast(k === steps ? eqs : equationsOf(loose, vars, onTheWay(), []), x, {
      reach,
    })
    if (solved.residual > MET) return null
    x = solved.x
  }
  return x
}
