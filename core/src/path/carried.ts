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

/** Placings along a piece as curves over one basis: of the origin, of x and of y. */
type Track = Record<'at' | 'x' | 'y', Curve3 & { kind: 'spline' }> & { basis: Basis }

function track({ curve, place, still }: Carrying, reach: number): Track {
  const straight = curve.kind === 'line' && still
  let basis = straight ? basisOf(1) : evenBasis(5, 8)
  for (let round = 0; ; round++) {
    const made = interpolatedTrack(basis, place)
    if (straight) return made
    const breaks = breaksOf(basis)
    const worse = new Set<number>()
    for (let i = 1; i < breaks.length; i++)
      for (const f of PROBES) {
        const t = breaks[i - 1]! + f * (breaks[i]! - breaks[i - 1]!)
        const want = place(t)
        const off = (key: 'at' | 'x' | 'y') => norm3(sub3(place3(made[key], t), want[key]))
        if (off('at') + reach * (off('x') + off('y')) > NEAR) worse.add(i - 1)
      }
    if (worse.size === 0 || round === 7) return made
    basis = halved(basis, worse)
  }
}

function interpolatedTrack(basis: Basis, place: (t: number) => Placed): Track {
  const places = Array.from(greville(basis), place)
  const system = new Interpolation(basis, greville(basis))
  const curve = (key: 'at' | 'x' | 'y') => {
    const x = Float64Array.from(places.flatMap((p) => [...p[key]]))
    system.solve(x)
    return { kind: 'spline' as const, basis, poles: places.map((_, i) => placeAt(x, i)) }
  }
  return { basis, at: curve('at'), x: curve('x'), y: curve('y') }
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
    return section.map((c): SweptFace => {
      const poles = new Float64Array(3 * c.poles.length * nv)
      for (const [i, [px, py]] of c.poles.entries())
        for (let j = 0; j < nv; j++)
          poles.set(
            add3(t.at.poles[j]!, add3(scale3(t.x.poles[j]!, px), scale3(t.y.poles[j]!, py))),
            3 * (i * nv + j),
          )
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
