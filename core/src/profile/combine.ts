import { pointAt } from '../curve'
import { arrange, flip, type Piece } from './arrangement'
import { loopsOf, type Region, regionsFrom, segsOf, sideOf } from './region'

/** Which points belong to the result, told from whether they lie in a and in b. */
export type Keep = (inA: boolean, inB: boolean) => boolean
export const JOIN: Keep = (a, b) => a || b
export const CUT: Keep = (a, b) => a && !b
export const MEET: Keep = (a, b) => a && b
/** The same by their words. */
export const KEEP = { join: JOIN, cut: CUT, meet: MEET } as const

/** Two sets of regions combined; every boundary piece keeps the name of the curve it lies on. */
export function combine(a: readonly Region[], b: readonly Region[], keep: Keep): Region[] {
  const segs = [...segsOf(a), ...segsOf(b)]
  const countA = segsOf(a).length
  const curves = segs.map((s) => s.curve)
  const [loopsA, loopsB] = [loopsOf(a), loopsOf(b)]
  const kept: Piece[] = []
  for (const p of arrange(curves).pieces) {
    const [la, ra] = sides(p, (i) => i < countA, loopsA)
    const [lb, rb] = sides(p, (i) => i >= countA, loopsB)
    const onLeft = keep(la, lb)
    if (onLeft === keep(ra, rb)) continue
    kept.push(onLeft ? p : flip(p))
  }
  return regionsFrom(kept, curves, (p) => segs[p.part.index]!.name)
}

/** Whether the left and the right of the piece lie inside the set with these loops. */
function sides(
  p: Piece,
  mine: (index: number) => boolean,
  loops: ReturnType<typeof loopsOf>,
): [boolean, boolean] {
  const own = p.sources.filter((s) => mine(s.index))
  if (own.length === 0) {
    const inside = sideOf(loops, pointAt(p.curve, 0.5)).inside
    return [inside, inside]
  }
  return [own.some((s) => s.same), own.some((s) => !s.same)]
}
