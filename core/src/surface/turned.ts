import { type Basis, countOf } from './basis'
import type { Patch } from './patch'

/** A basis run through the other way. */
export function turnedBasis({ degree, knots }: Basis): Basis {
  const [first, last] = [knots[0]!, knots[knots.length - 1]!]
  return { degree, knots: Float64Array.from(knots, (k) => first + last - k).reverse() }
}

/** The same surface run through the other way along u. */
export function turnedU({ u, v, poles }: Patch): Patch {
  const [nu, nv] = [countOf(u), countOf(v)]
  const out = new Float64Array(poles.length)
  for (let i = 0; i < nu; i++)
    out.set(poles.subarray(3 * (nu - 1 - i) * nv, 3 * (nu - i) * nv), 3 * i * nv)
  return { u: turnedBasis(u), v, poles: out }
}

/** The same surface with u and v exchanged. */
export function swapped({ u, v, poles }: Patch): Patch {
  const [nu, nv] = [countOf(u), countOf(v)]
  const out = new Float64Array(poles.length)
  for (let i = 0; i < nu; i++)
    for (let j = 0; j < nv; j++)
      out.set(poles.subarray(3 * (i * nv + j), 3 * (i * nv + j) + 3), 3 * (j * nu + i))
  return { u: v, v: u, poles: out }
}

/** The same surface with u and v from 0 to 1. */
export function unitary({ u, v, poles }: Patch): Patch {
  const scaled = ({ degree, knots }: Basis): Basis => {
    const [from, to] = [knots[0]!, knots[knots.length - 1]!]
    return { degree, knots: Float64Array.from(knots, (k) => (k - from) / (to - from)) }
  }
  return { u: scaled(u), v: scaled(v), poles }
}
