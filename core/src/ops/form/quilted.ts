import type { ExactPart } from '../../exact'
import type { SplineFace, WireCurve } from '../../kernel'
import { bad, dot3, good, norm3, type Outcome, type P3, placeAt, sub3 } from '../../math'
import { selfCrossing } from '../../mesh'
import {
  areaVector,
  type Basis,
  columnAt,
  countOf,
  fluxThrough,
  type Patch,
  rowAt,
  shownSkin,
  straightPoles,
  turnedBasis,
} from '../../surface'
import { type OpContext, RoughEnough } from '../state'
import { only } from './prism'

/** A free face of a body to be, and what it is called. */
export interface NamedPatch {
  patch: Patch
  names: string[]
}
/** A side of a patch, as a curve. */
export interface Rim {
  basis: Basis
  poles: P3[]
}
/** A flat face by its loops, which run so that it looks where the patches' u x v look. */
export interface FlatEnd {
  loops: Rim[][]
  names: string[]
}

/** The start or end of a patch's v, along its u. */
export const rimV = (p: Patch, last: boolean): Rim => ({ basis: p.u, poles: rowAt(p, last) })
/** The start or end of a patch's u, along its v. */
export const rimU = (p: Patch, last: boolean): Rim => ({ basis: p.v, poles: columnAt(p, last) })
export const turnedRim = ({ basis, poles }: Rim): Rim => ({
  basis: turnedBasis(basis),
  poles: [...poles].reverse(),
})

/** The flat end of patches that close round, loop by loop, where their v starts or ends. */
export const endOf = (loops: readonly Patch[][], last: boolean, names: string[]): FlatEnd => ({
  loops: loops.map((l) =>
    last ? l.map((p) => rimV(p, true)) : l.map((p) => turnedRim(rimV(p, false))).reverse(),
  ),
  names,
})

const splineOf = ({ u, v, poles }: Patch): SplineFace => ({
  u: { degree: u.degree, knots: [...u.knots] },
  v: { degree: v.degree, knots: [...v.knots] },
  poles: [...poles],
})

/** A curve over a basis for the kernel: a line where all its poles lie on one, in their order. */
function edge({ basis: { degree, knots }, poles }: Rim): WireCurve {
  const [a, b] = [poles[0]!, poles[poles.length - 1]!]
  return straightPoles(poles, FLAT)
    ? { kind: 'line', a, b }
    : { kind: 'spline', degree, knots: [...knots], poles }
}

/** Poles this near to one line, or one plane, lie on it, mm. */
const FLAT = 1e-7

/** What bounds a patch that lies in one plane; null for one that does not. */
function flatOutline(p: Patch): WireCurve[] | null {
  const round = [
    rimV(p, false),
    rimU(p, true),
    turnedRim(rimV(p, true)),
    turnedRim(rimU(p, false)),
  ].filter((r) => !isPoint(r))
  const all = Array.from({ length: countOf(p.u) * countOf(p.v) }, (_, k) => placeAt(p.poles, k))
  return offPlane(round, all) <= FLAT ? round.map(edge) : null
}

/** Whether a side of a patch is drawn in to one place. */
export const isPoint = ({ poles }: Rim): boolean =>
  poles.every((q) => norm3(sub3(q, poles[0]!)) <= FLAT)

/** How far poles lie from the plane of a loop, mm: its own where no others are told; infinite for one that encloses nothing. */
export function offPlane(
  loop: readonly Rim[],
  poles: readonly P3[] = loop.flatMap((r) => r.poles),
): number {
  const area = areaVector(loop)
  const size = norm3(area)
  if (!(size > FLAT)) return Number.POSITIVE_INFINITY
  const from = loop[0]!.poles[0]!
  return Math.max(...poles.map((p) => Math.abs(dot3(sub3(p, from), area)))) / size
}

/** The volume under a flat end as part of a closed skin, mm3. */
const fluxOfEnd = ({ loops }: FlatEnd): number =>
  loops.reduce((sum, loop) => sum + dot3(loop[0]!.poles[0]!, areaVector(loop)) / 3, 0)

/** A wall that is measured on what is made: from each of some of its patches to the nearest of others, mm. */
export interface Wall {
  from: NamedPatch[]
  to: NamedPatch[]
  mm: number
}

/** A body of less than this share of the cube about its skin is none. */
const EMPTY = 1e-10

/**
 * A body of our own surfaces between flat ends. Patches all run the same way round, u along the outline and v from the first
 * end to the last; holes run against it. Its volume by the surfaces is what the kernel has to find.
 */
export function quilted(
  patches: readonly NamedPatch[],
  ends: readonly FlatEnd[],
  ctx: OpContext,
  wall?: Wall,
): Outcome<ExactPart> {
  ctx.shows({ skin: ctx.once('skin shown', () => shownSkin(patches.map((p) => p.patch))) })
  if (ctx.rough) throw new RoughEnough()
  const sides = patches.reduce((sum, p) => sum + fluxThrough(p.patch), 0)
  const flats = ends.reduce((sum, e) => sum + fluxOfEnd(e), 0)
  const volume = Math.abs(sides + flats)
  const rims = patches.flatMap(({ patch }) => [...rowAt(patch, false), ...rowAt(patch, true)])
  const span = Math.max(...rims.map((q) => norm3(sub3(q, rims[0]!))))
  if (volume < EMPTY * span ** 3)
    return bad(
      'encloses-nothing',
      'It encloses no volume: its skin lies flat, on itself, or turned against itself.',
      [{ at: rims[0]! }],
    )
  // What lies in a plane is a flat face for the kernel too.
  const outlines = patches.map((p) => flatOutline(p.patch))
  const free = patches.filter((_, i) => !outlines[i])
  const flat = patches.flatMap((p, i) =>
    outlines[i] ? [{ outline: [outlines[i]!], names: p.names }] : [],
  )
  const pieces = [...free, ...patches.filter((_, i) => outlines[i])]
  const numbers = (of: readonly NamedPatch[]) => of.map((p) => pieces.indexOf(p))
  const made = only(
    ctx.kernel({
      verb: 'quilt',
      args: {
        patches: free.map((p) => ({ ...splineOf(p.patch), names: p.names })),
        flats: [
          ...flat,
          ...ends.map((e) => ({
            outline: e.loops.map((l) => l.map(edge)),
            names: e.names,
          })),
        ],
        volume,
        ...(wall ? { wall: { from: numbers(wall.from), to: numbers(wall.to), mm: wall.mm } } : {}),
      },
      on: [],
    }),
  )
  return made.ok ? uncrossed(made.value) : made
}

/** Thin triangles at a tip overlap by less than this although the skin does not, mm: a tenth of what they may be off it. */
const AS_SHOWN = 0.005

/** A body whose skin goes nowhere through itself, by its triangles. */
export function uncrossed(part: ExactPart): Outcome<ExactPart> {
  const at = selfCrossing(part.mesh, AS_SHOWN)
  return at ? bad('crosses-itself', 'It goes through itself here.', [{ at }]) : good(part)
}
