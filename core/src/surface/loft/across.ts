import { type P3, placeAt, scale3 } from '../../math'
import { Interpolation } from '../band'
import { averagedBasis, type Basis, basisOf } from '../basis'
import { at3, type Curve3 } from '../curve3'

/** Interpolation from section to section, with as many derivatives held at the first and at the last. */
export class AcrossSections {
  readonly basis: Basis
  readonly #system: Interpolation | null
  readonly #held: readonly [number, number]

  constructor(params: readonly number[], ruled: boolean, first: number, last: number) {
    this.#held = ruled ? [0, 0] : [first, last]
    if (ruled) {
      this.basis = basisOf(
        1,
        params.slice(1, -1).map((at) => ({ at })),
      )
      this.#system = null
      return
    }
    const [a, b] = this.#held
    const upTo = (n: number) => Array.from({ length: n }, (_, i) => i + 1)
    const at = [...upTo(a).map(() => 0), ...params, ...upTo(b).map(() => 1)]
    const orders = [0, ...upTo(a), ...params.slice(1, -1).map(() => 0), ...upTo(b).reverse(), 0]
    this.basis = averagedBasis(3, at)
    this.#system = new Interpolation(this.basis, at, orders)
  }

  poles(places: readonly P3[], first: readonly P3[], last: readonly P3[]): P3[] {
    if (!this.#system) return [...places]
    const [a, b] = this.#held
    const rows = [
      places[0]!,
      ...first.slice(0, a),
      ...places.slice(1, -1),
      ...last.slice(0, b).reverse(),
      places[places.length - 1]!,
    ]
    const x = Float64Array.from(rows.flat())
    this.#system.solve(x)
    return rows.map((_, i) => placeAt(x, i))
  }
}

/** How a closed run of places goes through its first, by v: the cubic through five rounds of them, in the middle one. */
export function ringSlope(places: readonly P3[], params: readonly number[]): P3 {
  const rounds = 5
  const n = places.length - 1
  const at: number[] = []
  const all: P3[] = []
  for (let r = 0; r < rounds; r++)
    for (let i = 0; i < n; i++) {
      at.push((r + params[i]!) / rounds)
      all.push(places[i]!)
    }
  at.push(1)
  all.push(places[0]!)
  const basis = averagedBasis(3, at)
  const x = Float64Array.from(all.flat())
  new Interpolation(basis, at).solve(x)
  const c: Curve3 = { kind: 'spline', basis, poles: all.map((_, i) => placeAt(x, i)) }
  return scale3(at3(c, Math.floor(rounds / 2) / rounds).d1, 1 / rounds)
}
