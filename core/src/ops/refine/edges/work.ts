import { type ExactPart, edgesAlike } from '../../../exact'
import { bad, type Diagnosis, good, type Outcome } from '../../../math'
import { pickExactEdges, pickExactFaces } from '../../pick'
import type { OpContext } from '../../state'
import { type Amount, type OwnEdge, ownAmount, type Treatment, type Which } from './which'

/** An edge that is treated, and what is taken off it. */
export interface Work {
  edge: number
  amount: Amount
  /** The reference it is one of; none where a face brought it in. */
  ref: OwnEdge | null
}

/** The edges meant, each once, with what is taken off it. */
export function workOf(
  ctx: OpContext,
  part: ExactPart,
  { edges, round, alike }: Which,
  t: Treatment,
): Outcome<{ work: Work[]; warnings: Diagnosis[] }> {
  const picked = pickExactEdges(part, edges, ctx)
  if (!picked.ok) return picked
  const faces = pickExactFaces(part, round, ctx, 'round')
  if (!faces.ok) return faces
  const work: Work[] = []
  const add = (w: Work) => {
    if (!work.some((x) => x.edge === w.edge)) work.push(w)
  }
  for (const [i, edge] of picked.value.items.entries()) {
    const ref = edges[i]!
    const own = ownAmount(ref, t, ctx)
    if (!own.ok) return own
    add({ edge, amount: own.value ?? t.amount, ref })
  }
  if (alike === 'yes')
    for (const w of [...work]) for (const edge of edgesAlike(part, w.edge)) add({ ...w, edge })
  for (const face of faces.value.items)
    for (const [edge, e] of part.edges.entries())
      if (e.faces.length === 2 && e.faces.includes(face) && e.bend !== 'smooth')
        add({ edge, amount: t.amount, ref: null })
  if (work.length === 0)
    return bad('no-edges', 'These faces have no edge that could be treated: they run on smoothly.')
  return good({ work, warnings: [...picked.value.warnings, ...faces.value.warnings] })
}

/** As much of the amount as a share of it. */
export const scaled = ({ size, end }: Amount, share: number): Amount => ({
  size: size * share,
  ...(end === undefined ? {} : { end: end * share }),
})
