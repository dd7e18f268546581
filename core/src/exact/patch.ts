import type { WholeFace } from '../kernel'
import { type Patch, turnedU, unitary } from '../surface'

/** A whole free face as a surface of our own, its parameters from 0 to 1 and u x v out of the material. */
export function patchOf(face: WholeFace): Patch {
  const patch = unitary({
    u: { degree: face.u.degree, knots: Float64Array.from(face.u.knots) },
    v: { degree: face.v.degree, knots: Float64Array.from(face.v.knots) },
    poles: Float64Array.from(face.poles),
  })
  return face.reversed ? turnedU(patch) : patch
}
