import { add3, monotone, type P3, scale3 } from '../math'
import { type Basis, countOf, evenBasis } from '../surface'
import { type Carrying, type SweptFace, tracked } from './carried'

/** One side of a section that changes on the way: its poles over one basis where it is told, x and y in the section's plane. */
export interface ChangingSide {
  basis: Basis
  /** Of each station, its poles. */
  rows: readonly (readonly P3[])[]
  name: string
}

/**
 * The faces that sides of a section sweep which is another at each of some shares of the way (`shares`, rising from 0 to 1): between
 * two it goes over from the one to the other without overshooting. Within 1e-5 mm.
 */
export function changingFaces(
  sides: readonly ChangingSide[],
  shares: readonly number[],
  pieces: readonly Carrying[],
): SweptFace[] {
  const level = shares.length > 2 ? 'level' : 'chord'
  const moving = sides.map((side) =>
    side.rows[0]!.map((_, i) =>
      ([0, 1] as const).map((k) =>
        monotone(
          shares,
          side.rows.map((row) => row[i]![k]),
          level,
        ),
      ),
    ),
  )
  return pieces.flatMap((piece) => {
    /** Where all poles of all sides are at t. */
    const poles = (t: number): P3[] => {
      const { at, x, y } = piece.place(t)
      const share = piece.share(t)
      return moving.flatMap((side) =>
        side.map(([px, py]) => add3(at, add3(scale3(x, px!(share)), scale3(y, py!(share))))),
      )
    }
    const { basis, curves } = tracked(evenBasis(5, 12), poles, (d) => Math.max(...d))
    let from = 0
    return sides.map((side): SweptFace => {
      const own = curves.slice(from, from + side.rows[0]!.length)
      from += own.length
      const nv = countOf(basis)
      const out = new Float64Array(3 * own.length * nv)
      for (const [i, c] of own.entries())
        for (let j = 0; j < nv; j++) out.set(c.poles[j]!, 3 * (i * nv + j))
      return {
        patch: { u: side.basis, v: basis, poles: out },
        section: side.name,
        along: piece.name,
      }
    })
  })
}
