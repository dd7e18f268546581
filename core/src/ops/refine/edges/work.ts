import { type ExactPart, edgesAlike } from '../../../exact'
import { bad, type Diagnosis, good, type Outcome, type Place } from '../../../math'
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
  const smooth: Place[] = []
  const add = (w: Work) => {
    if (!work.some((x) => x.edge === w.edge)) work.push(w)
  }
  for (const [i, edge] of picked.value.items.entries()) {
    const ref = edges[i]!
    if (part.edges[edge]!.bend === 'smooth') {
      smooth.push({ at: part.edges[edge]!.middle })
      continue
    }
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
    return bad('no-edges', 'There is no edge here to treat: faces run on in each other.', smooth)
  const warnings = [...picked.value.warnings, ...faces.value.warnings]
  if (smooth.length > 0)
    warnings.push({
      code: 'runs-on',
      message: `${smooth.length === 1 ? 'One of the edges is' : `${smooth.length} of the edges are`} none: faces run on in each other here, and nothing is taken off.`,
      places: smooth,
      fixes: [],
    })
  return good({ work, warnings })
}

/** As much of the amount as a share of it. */
export const scaled = ({ size, end }: Amount, share: number): Amount => ({
  size: size * share,
  ...(end === undefined ? {} : { end: end * share }),
})

/** Whether faces meet in a corner. */
export const meetIn = (corner: ExactPart['vertices'][number], faces: readonly number[]): boolean =>
  faces.every((f) => corner.faces.includes(f))
