import { bad, type Diagnosis, dot3, type Frame, good, type Outcome, sub3 } from '../../math'
import type { Region } from '../../profile'
import type { FaceRef } from '../../refs'
import { frameOf } from '../draw/datum'
import { exactBody } from '../exact'
import { areaOf } from '../flats/area'
import { pickExactFaces } from '../pick'
import type { OpContext } from '../state'

/** How far flat faces may lie out of one plane and count as lying in it, mm. */
const LEVEL = 1e-5

/** Flat faces of a body that lie in one plane as areas of it, which looks out of the material; each piece is named by what lies beyond it. */
export function facesArea(
  id: string,
  refs: readonly FaceRef[],
  ctx: OpContext,
): Outcome<{ frame: Frame; areas: Region[]; warnings: Diagnosis[] }> {
  const on = exactBody(id, ctx)
  if (!on.ok) return on
  const { part } = on.value
  if (part.kind !== 'exact')
    return bad(
      'needs-surfaces',
      'This body consists of triangles; faces are carried out of surfaces.',
    )
  const picked = pickExactFaces(part, refs, ctx, 'faces')
  if (!picked.ok) return picked
  const [first] = picked.value.items
  if (first === undefined) return bad('no-faces', 'Choose the flat faces that are carried out.')
  const frame = frameOf(part.faces[first]!)
  const areas: Region[] = []
  for (const i of picked.value.items) {
    const face = part.faces[i]!
    const at = [{ at: face.middle }]
    if (face.kind !== 'plane')
      return bad('not-flat', 'This face is not flat: only flat faces are carried out.', at)
    const off = Math.abs(dot3(sub3(face.middle, frame.origin), frame.z))
    if (off > LEVEL || dot3(face.normal, frame.z) < 1 - 1e-9)
      return bad(
        'two-planes',
        'This face lies in another plane: they are carried out together.',
        at,
      )
    const area = areaOf(part, i, frame, (edge) => {
      const other = part.edges[edge]!.faces.find((f) => f !== i) ?? i
      return `${ctx.op}:on(${part.faces[other]!.names[0] ?? '?'})`
    })
    if (!area) return bad('no-loop', 'The edges of this face are no closed chain.', at)
    areas.push(area)
  }
  return good({ frame, areas, warnings: picked.value.warnings })
}
