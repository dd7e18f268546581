import { asPatch, type WholeFace } from '../kernel'
import { type Patch, turnedU, unitary } from '../surface'

/** A whole free face as a surface of our own, its parameters from 0 to 1 and u x v out of the material. */
export function patchOf(face: WholeFace): Patch {
  const patch = unitary(asPatch(face))
  return face.reversed ? turnedU(patch) : patch
}
