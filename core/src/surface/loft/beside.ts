import { cross3, dot3, norm3, type P3, scale3, unit3 } from '../../math'
import { place3, through3 } from '../curve3'

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

/** Through what was read at even shares of a curve; `along` runs the way the curve does. */
export function besideOf(spots: readonly Beside[], way: P3): BesideCurve {
  const list = dot3(spots[0]!.along, way) < 0 ? spots.map(turned) : spots
  const at = list.map((_, i) => i / (list.length - 1))
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
