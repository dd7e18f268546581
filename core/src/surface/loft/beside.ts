import { cross3, dot3, norm3, type P3, scale3, sub3, unit3 } from '../../math'
import { at3, type Curve3, place3, through3, way3 } from '../curve3'

/** The surface that ends at a section, at a place of it. */
export interface Beside {
  /** Directions along the section, out of that surface across it, and out of the material. */
  along: P3
  away: P3
  out: P3
  /** Its second fundamental form over `along` and `away`: along both, mixed, away both, 1/mm. */
  bends: P3
}
/** The same along a curve of the section, by the curve's parameter from 0 to 1. */
export type BesideCurve = (t: number) => Beside

/** Through what was read at places along a curve, from its start to its end; `along` runs the way the curve does. */
export function besideOf(spots: readonly (Beside & { at: P3 })[], curve: Curve3): BesideCurve {
  const list = dot3(spots[0]!.along, way3(curve, 0)) < 0 ? spots.map(turned) : spots
  // The curve's own parameter of each: that of the edge it was read from may run otherwise.
  const last = spots.length - 1
  const at = spots.map((s, i) => (i === 0 || i === last ? i / last : footOn(curve, s.at, i / last)))
  const field = (of: (s: Beside) => P3) => through3(list.map(of), 5, {}, at)
  const [along, away, out, bends] = [
    field((s) => s.along),
    field((s) => s.away),
    field((s) => s.out),
    field((s) => s.bends),
  ]
  return (t) => {
    const n = unit3(place3(out, t))
    const a = square(place3(along, t), n)
    return { along: a, away: square(place3(away, t), n), out: n, bends: place3(bends, t) }
  }
}

/** Where a curve passes a place on it, near a parameter, by Newton's way. */
function footOn(curve: Curve3, place: P3, near: number): number {
  let t = near
  for (let k = 0; k < 30; k++) {
    const { p, d1 } = at3(curve, t)
    const step = dot3(sub3(place, p), d1) / dot3(d1, d1)
    t = Math.min(1, Math.max(0, t + step))
    if (Math.abs(step) < 1e-12) break
  }
  return t
}

/** The same with the section run the other way. */
export const turnedBeside =
  (of: BesideCurve): BesideCurve =>
  (t) =>
    turned(of(1 - t))

const turned = ({ along, bends: [a, m, b], ...rest }: Beside): Beside => ({
  ...rest,
  along: scale3(along, -1),
  bends: [a, -m, b],
})

/** Of unit length and square to a unit direction. */
function square(v: P3, n: P3): P3 {
  const flat = cross3(cross3(n, v), n)
  return norm3(flat) > 0 ? unit3(flat) : v
}
