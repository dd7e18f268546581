import { type Basis, countOf, derivatives, MOST, spanOf } from './basis'
import type { Patch } from './patch'

const row = new Float64Array(MOST)

/** Functions of a basis at many parameters: where the first of each is, and their values, degree + 1 numbers a parameter. */
export function functionsAlong(b: Basis, at: ArrayLike<number>) {
  const w = b.degree + 1
  const first = new Int32Array(at.length)
  const values = new Float64Array(at.length * w)
  for (let i = 0; i < at.length; i++) {
    const span = spanOf(b, at[i]!)
    derivatives(b, span, at[i]!, 0, row)
    first[i] = span - b.degree
    for (let k = 0; k < w; k++) values[i * w + k] = row[k]!
  }
  return { first, values, w }
}

/**
 * Places of a patch over a grid, mm: that of us[i] and vs[j] at 3 (i nv + j). Each column of poles is summed up
 * once for all of its v, so a place costs the functions of one direction only.
 */
export function placesOver(s: Patch, us: ArrayLike<number>, vs: ArrayLike<number>): Float64Array {
  const [fu, fv] = [functionsAlong(s.u, us), functionsAlong(s.v, vs)]
  const across = 3 * countOf(s.v)
  const column = new Float64Array(across)
  const out = new Float64Array(3 * us.length * vs.length)
  let to = 0
  for (let i = 0; i < us.length; i++) {
    column.fill(0)
    for (let k = 0; k < fu.w; k++) {
      const f = fu.values[i * fu.w + k]!
      const from = (fu.first[i]! + k) * across
      for (let c = 0; c < across; c++) column[c]! += f * s.poles[from + c]!
    }
    for (let j = 0; j < vs.length; j++, to += 3) {
      let at = 3 * fv.first[j]!
      let [x, y, z] = [0, 0, 0]
      for (let k = 0; k < fv.w; k++, at += 3) {
        const f = fv.values[j * fv.w + k]!
        x += f * column[at]!
        y += f * column[at + 1]!
        z += f * column[at + 2]!
      }
      out[to] = x
      out[to + 1] = y
      out[to + 2] = z
    }
  }
  return out
}
