import type { ExactPart } from '../../exact'
import type { SplineFace, WireCurve } from '../../kernel'
import { bad, dot3, good, norm3, type Outcome, type P3, placeAt, scale3, sub3 } from '../../math'
import { selfCrossing } from '../../mesh'
import { areaVector, type Basis, countOf, fluxThrough, type Patch, rowAt } from '../../surface'
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

/** A curve over a basis for the kernel: a line where all its poles lie on one, in their order. */
function edge({ degree, knots }: Basis, poles: P3[]): WireCurve {
  const [a, b] = [poles[0]!, poles[poles.length - 1]!]
  const way = sub3(b, a)
  const length = norm3(way)
  let before = 0
  const straight =
    length > FLAT &&
    poles.every((p) => {
      const out = sub3(p, a)
      const on = dot3(out, way) / length
      const ahead = on >= before - FLAT
      before = on
      return ahead && norm3(sub3(out, scale3(way, on / length))) < FLAT
    })
  return straight ? { kind: 'line', a, b } : { kind: 'spline', degree, knots: [...knots], poles }
}

/** Poles this near to one line, or one plane, lie on it, mm. */
const FLAT = 1e-7

/** What bounds a patch that lies in one plane; null for one that does not. */
function flatOutline(p: Patch): WireCurve[] | null {
  const [nu, nv] = [countOf(p.u), countOf(p.v)]
  const [from, to] = [rowAt(p, false), rowAt(p, true)]
  const column = (i: number): P3[] =>
    Array.from({ length: nv }, (_, j) => placeAt(p.poles, i * nv + j))
  const [left, right] = [column(0), column(nu - 1)]
  const round = [
    { basis: p.u, poles: from },
    { basis: p.v, poles: right },
    { basis: turnedOver(p.u), poles: [...to].reverse() },
    { basis: turnedOver(p.v), poles: [...left].reverse() },
  ].filter(({ poles }) => poles.some((q) => norm3(sub3(q, poles[0]!)) > FLAT))
  const area = areaVector(round)
  const size = norm3(area)
  if (!(size > FLAT)) return null
  const n = scale3(area, 1 / size)
  for (let k = 0; k < nu * nv; k++)
    if (Math.abs(dot3(sub3(placeAt(p.poles, k), from[0]!), n)) > FLAT) return null
  return round.map(({ basis, poles }) => edge(basis, poles))
}

/** The basis of a curve that is run through the other way. */
function turnedOver({ degree, knots }: Basis): Basis {
  const [first, last] = [knots[0]!, knots[knots.length - 1]!]
  return { degree, knots: Float64Array.from(knots, (k) => first + last - k).reverse() }
}

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
  // What lies in a plane is a flat face for the kernel too.
  const free: NamedPatch[] = []
  const flat: { outline: WireCurve[][]; names: string[] }[] = []
  for (const p of patches) {
    const outline = flatOutline(p.patch)
    if (outline) flat.push({ outline: [outline], names: p.names })
    else free.push(p)
  }
  const made = only(
    ctx.kernel({
      verb: 'quilt',
      args: {
        patches: free.map((p) => ({ ...numbers(p.patch), names: p.names })),
        flats: [
          ...flat,
          ...ends.map((e) => ({
            outline: e.loops.map((l) => l.map((p) => edge(p.u, rowAt(p, e.last)))),
            names: e.names,
          })),
        ],
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
