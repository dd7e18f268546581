import type { ExactPart } from '../../../exact'
import {
  add3,
  bad,
  cross3,
  dot3,
  mm,
  type Outcome,
  type P3,
  scale3,
  sub3,
  unit3,
} from '../../../math'
import type { Placed, SweptFace } from '../../../path'
import type { Region } from '../../../profile'
import { at3, basisOf, way3 } from '../../../surface'
import type { OpContext, Path } from '../../state'
import { sectionCurves } from '../section'
import { closedOff } from './carried'

/**
 * A section along straight pieces in space, mitred: on each piece its curves run straight from the plane half-way of one corner to that
 * of the next, turned over each corner about what is square to both pieces. Exact, as the curves are only moved along the piece.
 */
export function mitred(
  path: Path,
  region: Region,
  start: Placed,
  ctx: OpContext,
): Outcome<ExactPart> {
  const loops = [region.outer, ...region.holes].map(sectionCurves)
  const dirs = path.pieces.map((c) => way3(c, 0))
  const cuts = path.pieces.map((c, k) => ({
    at: at3(c, 0).p,
    normal: k === 0 ? dirs[0]! : unit3(add3(dirs[k - 1]!, dirs[k]!)),
  }))
  cuts.push({ at: at3(path.pieces.at(-1)!, 1).p, normal: dirs.at(-1)! })
  let { x, y } = start
  const faces: SweptFace[] = []
  for (const [k, dir] of dirs.entries()) {
    if (k > 0) [x, y] = [x, y].map((d) => turned(d, dirs[k - 1]!, dir)) as [P3, P3]
    const { at } = cuts[k]!
    const on = (q: P3, { at: plane, normal }: (typeof cuts)[number]) =>
      dot3(sub3(plane, q), normal) / dot3(dir, normal)
    for (const { basis, poles, name } of loops.flat()) {
      const out = new Float64Array(6 * poles.length)
      for (const [i, [u, v]] of poles.entries()) {
        const q = add3(at, add3(scale3(x, u), scale3(y, v)))
        const [from, to] = [on(q, cuts[k]!), on(q, cuts[k + 1]!)]
        if (!(to > from))
          return bad(
            'folds',
            `The section reaches past the corners of a straight piece of ${mm(dot3(sub3(cuts[k + 1]!.at, cuts[k]!.at), dir), 2)}: it would fold over.`,
            [{ at: cuts[k]!.at }, { at: cuts[k + 1]!.at }],
          )
        out.set(add3(q, scale3(dir, from)), 6 * i)
        out.set(add3(q, scale3(dir, to)), 6 * i + 3)
      }
      faces.push({
        patch: { u: basis, v: basisOf(1), poles: out },
        section: name,
        along: path.names[k]!,
      })
    }
  }
  return closedOff(
    path,
    faces,
    loops.map((l) => l.length),
    ctx,
  )
}

/** A direction turned as one unit direction turns into another the short way (Rodrigues' formula). */
function turned(d: P3, from: P3, to: P3): P3 {
  const [axis, c] = [cross3(from, to), dot3(from, to)]
  const across = cross3(axis, d)
  return add3(add3(scale3(d, c), across), scale3(axis, dot3(axis, d) / (1 + c)))
}

/** Whether a path is one of straight pieces alone that ends. */
export const isOpenPolyline = ({ pieces, closed }: Path): boolean =>
  !closed && pieces.every((c) => c.kind === 'line')
