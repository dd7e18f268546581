import { corneredOf } from './corners'
import { homotopy } from './homotopy'
import { MET, type Solved, solveLeast } from './least'
import { equationsOf, type Loose } from './loose'
import { evenNumbers } from './starts'
import { type Equation, placed, unknownsOf, type Variables } from './system'

/** Starts beside the drawn state for going there at once, as shares of its size, each so many times. */
const BESIDE = [0.01, 0.02, 0.04, 0.06, 0.08, 0.12, 0.2, 0.3]
const TIMES = 6
/** Starts for the ways that take longer. */
const LONGER = [0, 0.01, 0.02, 0.04, 0.04, 0.08, 0.12, 0.2]

/**
 * Looks for where everything holds from a drawing in which even its relations do not: from the drawn state
 * and from places beside it by going there at once, which is soon seen to lead somewhere or not; then by
 * letting go little by little what is off, and by taking one dimension after the other. Gives what each way led to, null where it led nowhere.
 * Directions of dimensions are read anew at each start.
 */
export function* farOff(
  loose: Loose,
  vars: Variables,
  reach: number,
): Generator<Float64Array | null> {
  const cornered = corneredOf(loose.drawing, vars)
  const bare = cornered?.vars ?? vars
  const relations = new Set((loose.drawing.relations ?? []).map((r) => r.id))
  const dimensions = (loose.drawing.dimensions ?? []).map((d) => d.id)
  const read = (at: Float64Array) =>
    equationsOf(loose, { ...bare, x: at }, loose.targets, []).filter(
      (e) => !cornered?.held.has(e.of),
    )
  /** From the bare unknowns to what holds in all. */
  const whole = (x: Float64Array | null): Float64Array | null => {
    if (!x || !cornered) return x
    const start = unknownsOf(vars, placed(bare, x), bare, x)
    const there = equationsOf(loose, { ...vars, x: start }, loose.targets, [])
    return solved(solveLeast(there, start, { reach }))
  }
  const random = evenNumbers(20_261)
  const beside = (share: number) => bare.x.map((v) => v + 8 * share * reach * (random() - 0.5))
  const once = (start: Float64Array) => whole(solved(solveLeast(read(start), start, { reach })))
  yield once(bare.x)
  for (let k = 0; k < TIMES; k++) for (const share of BESIDE) yield once(beside(share))
  for (const share of LONGER) {
    const start = beside(share)
    const eqs = read(start)
    yield whole(homotopy(eqs, start, reach))
    const related = eqs.filter((e) => e.of === '' || relations.has(e.of))
    const first = solved(solveLeast(related, start, { reach }))
    if (!first) continue
    const order = share === 0 ? dimensions : shuffled(dimensions, random)
    yield whole(oneByOne(related, order, read, first, reach))
  }
}

const solved = (s: Solved) => (s.residual <= MET ? s.x : null)

/**
 * Takes one dimension after the other to its target while what came before holds; those that do not get
 * there wait for another round.
 */
function oneByOne(
  related: readonly Equation[],
  dimensions: readonly string[],
  read: (at: Float64Array) => Equation[],
  start: Float64Array,
  reach: number,
): Float64Array | null {
  let [x, held, waiting] = [start, related, dimensions]
  while (waiting.length > 0) {
    const next: string[] = []
    for (const id of waiting) {
      const more = [...held, ...read(x).filter((e) => e.of === id)]
      const there = homotopy(more, x, reach, { step: 1, solves: 10 })
      if (there) [x, held] = [there, more]
      else next.push(id)
    }
    if (next.length === waiting.length) return null
    waiting = next
  }
  return x
}

/** In another order (Fisher and Yates). */
function shuffled<T>(items: readonly T[], random: () => number): T[] {
  const out = [...items]
  for (let i = out.length - 1; i > 0; i--) {
    const k = Math.floor(random() * (i + 1))
    ;[out[i], out[k]] = [out[k]!, out[i]!]
  }
  return out
}
