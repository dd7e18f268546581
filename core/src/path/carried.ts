import { add3, dot3, norm3, type P2, type P3, placeAt, scale3, sub3 } from '../math'
import {
  type Basis,
  basisOf,
  bend3,
  breaksOf,
  type Curve3,
  countOf,
  evenBasis,
  greville,
  halved,
  Interpolation,
  type Patch,
  PROBES,
  place3,
} from '../surface'

/** Where the section's origin is along a piece of a path, and where its x and y directions then point, mm a mm. */
export interface Placed {
  at: P3
  x: P3
  y: P3
}
/** How a section is carried along a piece of a path, or a part of it. */
export interface Carrying {
  curve: Curve3
  /** The part of the curve, by its parameter. */
  from: number
  to: number
  name: string
  /** Its placing at t from 0 to 1 along that part. */
  place: (t: number) => Placed
  /** The share of the whole way at t. */
  share: (t: number) => number
  /** Whether its directions stay as they are on a straight piece. */
  still: boolean
}

/** A curve of a section in its own plane, as a B-spline. */
export interface SectionCurve {
  basis: Basis
  poles: readonly P2[]
  name: string
}

/** How near the carried frames are met, mm, at the reach of the section. */
const NEAR = 1e-5

/** Places that move with t as curves over one basis. */
export interface Tracks {
  basis: Basis
  curves: (Curve3 & { kind: 'spline' })[]
}

/**
 * Places that move with t as curves over one basis, from `basis` on with spans halved until nowhere `off` (of the distances of all
 * curves from their places, mm) is more than 1e-5 mm.
 */
export function tracked(
  start: Basis,
  places: (t: number) => readonly P3[],
  off: (distances: readonly number[]) => number,
): Tracks {
  let basis = start
  for (let round = 0; ; round++) {
    const made = interpolatedTracks(basis, places)
    const breaks = breaksOf(basis)
    const worse = new Set<number>()
    for (let i = 1; i < breaks.length; i++)
      for (const f of PROBES) {
        const t = breaks[i - 1]! + f * (breaks[i]! - breaks[i - 1]!)
        const want = places(t)
        if (off(made.curves.map((c, k) => norm3(sub3(place3(c, t), want[k]!)))) > NEAR)
          worse.add(i - 1)
      }
    if (worse.size === 0 || round === 7) return made
    basis = halved(basis, worse)
  }
}

function interpolatedTracks(basis: Basis, places: (t: number) => readonly P3[]): Tracks {
  const at = greville(basis)
  const rows = Array.from(at, places)
  const system = new Interpolation(basis, at)
  const curves = rows[0]!.map((_, i) => {
    const x = Float64Array.from(rows.flatMap((r) => [...r[i]!]))
    system.solve(x)
    return { kind: 'spline' as const, basis, poles: rows.map((_, j) => placeAt(x, j)) }
  })
  return { basis, curves }
}

/** Placings along a piece: of the origin, of x and of y. */
function track({ curve, place, still }: Carrying, reach: number): Tracks {
  const placing = (t: number) => {
    const { at, x, y } = place(t)
    return [at, x, y]
  }
  return curve.kind === 'line' && still
    ? interpolatedTracks(basisOf(1), placing)
    : tracked(evenBasis(5, 8), placing, ([at, x, y]) => at! + reach * (x! + y!))
}

/** A face swept by one curve of a section along one piece of a path. */
export interface SweptFace {
  patch: Patch
  section: string
  along: string
}

/** The faces a section's curves sweep: what the section is made of is kept as it is, the placings are met within 1e-5 mm. */
export function sweptFaces(
  section: readonly SectionCurve[],
  pieces: readonly Carrying[],
  reach: number,
): SweptFace[] {
  return pieces.flatMap((piece) => {
    const t = track(piece, reach)
    const nv = countOf(t.basis)
    const [at, x, y] = t.curves.map((c) => c.poles) as [P3[], P3[], P3[]]
    return section.map((c): SweptFace => {
      const poles = new Float64Array(3 * c.poles.length * nv)
      for (const [i, [px, py]] of c.poles.entries())
        for (let j = 0; j < nv; j++)
          poles.set(add3(at[j]!, add3(scale3(x[j]!, px), scale3(y[j]!, py))), 3 * (i * nv + j))
      return { patch: { u: c.basis, v: t.basis, poles }, section: c.name, along: piece.name }
    })
  })
}

/** How many places of a piece are looked at for folds. */
const LOOKS = 64

/**
 * Where a section folds over because it reaches past the middle of the path's bend: the place and how far past it goes, mm;
 * null where it nowhere does. `outline` are places of the section.
 */
export function foldAlong(
  outline: readonly P2[],
  pieces: readonly Carrying[],
): { at: P3; radius: number; reach: number } | null {
  let worst: { at: P3; radius: number; reach: number } | null = null
  let least = 1e-3
  for (const { curve, from, to, place } of pieces) {
    if (curve.kind === 'line') continue
    const n = curve.kind === 'arc' ? 8 : LOOKS
    for (let i = 0; i <= n; i++) {
      const t = i / n
      const bend = bend3(curve, from + t * (to - from))
      const k = norm3(bend)
      if (k === 0) continue
      const { at, x, y } = place(t)
      for (const [px, py] of outline) {
        const inward = dot3(add3(scale3(x, px), scale3(y, py)), bend)
        if (1 - inward < least) {
          least = 1 - inward
          worst = { at, radius: 1 / k, reach: inward / k }
        }
      }
    }
  }
  return worst
}
