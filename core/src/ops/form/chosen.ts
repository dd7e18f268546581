import { z } from 'zod'
import { bad, type Diagnosis, good, type Outcome } from '../../math'
import {
  type CellRef,
  cellOf,
  cellsOf,
  combine,
  JOIN,
  liveSegs,
  type Region,
  type Shape,
} from '../../profile'

export const cellRefSchema = z.object({
  pieces: z.array(z.string().min(1).max(40)).min(1).max(200),
  at: z.tuple([z.number().finite(), z.number().finite()]),
})

/** Cells are found once for each drawing. */
const known = new WeakMap<Shape, Region[]>()

/** The smallest closed areas of a profile, their pieces by what they were drawn as. */
export function profileCells(shape: Shape): Region[] {
  const cells = known.get(shape) ?? cellsOf(liveSegs(shape, ''))
  known.set(shape, cells)
  return cells
}

/**
 * The areas chosen of a profile, those beside each other as one, pieces named by `mark` and what they were
 * drawn as. One that is gone stops the op; one found by its place only comes with a warning.
 */
export function chosenAreas(
  shape: Shape,
  refs: readonly CellRef[],
  mark: string,
  op: string,
): Outcome<{ areas: Region[]; warnings: Diagnosis[] }> {
  const cells = profileCells(shape)
  const found: Region[] = []
  const warnings: Diagnosis[] = []
  for (const [i, ref] of refs.entries()) {
    const hit = cellOf(cells, ref)
    const others = refs.filter((_, k) => k !== i)
    const leave = { label: 'Leave this area out', op, inputs: { areas: others } }
    if (!hit)
      return bad(
        'lost-area',
        'One of the chosen areas is gone: nothing in the drawing bounds it any more.',
        [{ at: ref.at }],
        [leave],
      )
    if (!hit.sure)
      warnings.push({
        code: 'likeness',
        message: 'One of the chosen areas was found by its place only; choose it again to be sure.',
        places: [{ at: ref.at }],
        fixes: [leave],
      })
    if (!found.includes(hit.cell)) found.push(hit.cell)
  }
  const marked = found.map((r): Region => {
    const loop = (l: Region['outer']) => l.map((s) => ({ ...s, name: mark + s.name }))
    return { outer: loop(r.outer), holes: r.holes.map(loop) }
  })
  const areas = marked.reduce<Region[]>((sum, r) => combine(sum, [r], JOIN), [])
  return good({ areas, warnings })
}
