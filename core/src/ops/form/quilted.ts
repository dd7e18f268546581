import type { ExactPart } from '../../exact'
import type { SplineFace, WireCurve } from '../../kernel'
import { bad, dot3, good, type Outcome } from '../../math'
import { selfCrossing } from '../../mesh'
import { areaVector, fluxThrough, type Patch, rowAt } from '../../surface'
import type { OpContext } from '../state'
import { only } from './prism'

/** A free face of a body to be, and what it is called. */
export interface NamedPatch {
  patch: Patch
  names: string[]
}
/** A flat end: rows of patches at the start or end of their v that bound it, loop by loop. */
export interface FlatEnd {
  loops: Patch[][]
  last: boolean
  names: string[]
}

const numbers = ({ u, v, poles }: Patch): SplineFace => ({
  u: { degree: u.degree, knots: [...u.knots] },
  v: { degree: v.degree, knots: [...v.knots] },
  poles: [...poles],
})

const edge = (p: Patch, last: boolean): WireCurve => ({
  kind: 'spline',
  degree: p.u.degree,
  knots: [...p.u.knots],
  poles: rowAt(p, last),
})

/** The volume under a flat end as part of a closed skin, its normal along the area vector of its loops, mm3. */
function fluxOfEnd({ loops, last }: FlatEnd): number {
  return loops.reduce((sum, loop) => {
    const area = areaVector(loop.map((p) => ({ basis: p.u, poles: rowAt(p, last) })))
    return sum + dot3(rowAt(loop[0]!, last)[0]!, area) / 3
  }, 0)
}

/**
 * A body of our own surfaces between flat ends. Patches all run the same way round, u along the outline and v from the first
 * end to the last; holes run against it. Its volume by the surfaces is what the kernel has to find.
 */
export function quilted(
  patches: readonly NamedPatch[],
  ends: readonly FlatEnd[],
  ctx: OpContext,
): Outcome<ExactPart> {
  const sides = patches.reduce((sum, p) => sum + fluxThrough(p.patch), 0)
  // Along u and then v the sides look out where the first end looks back: its area counts against theirs.
  const flats = ends.reduce((sum, e) => sum + (e.last ? 1 : -1) * fluxOfEnd(e), 0)
  const made = only(
    ctx.kernel({
      verb: 'quilt',
      args: {
        patches: patches.map((p) => ({ ...numbers(p.patch), names: p.names })),
        flats: ends.map((e) => ({
          outline: e.loops.map((l) => l.map((p) => edge(p, e.last))),
          names: e.names,
        })),
        volume: Math.abs(sides + flats),
      },
      on: [],
    }),
  )
  return made.ok ? uncrossed(made.value) : made
}

/** A body whose skin goes nowhere through itself, by its triangles. */
export function uncrossed(part: ExactPart): Outcome<ExactPart> {
  const at = selfCrossing(part.mesh)
  return at ? bad('crosses-itself', 'It goes through itself here.', [{ at }]) : good(part)
}
