import type { ExactPart } from '../../../exact'
import { dot3, type Outcome, placeAt, sub3 } from '../../../math'
import { frameOf } from '../../draw/datum'
import type { OpContext } from '../../state'

/** How far beyond the plane of an open face a body may reach that lies behind it, mm. */
const BEHIND = 1e-6

/**
 * A wall outside a body that is open at flat faces, where the kernel makes none at once: all round it first, then parted in the planes
 * of these. Null where the body does not lie behind each of them, or no wall is found that way either.
 */
export function outwardParted(
  part: ExactPart,
  open: readonly number[],
  wall: number,
  op: string,
  ctx: OpContext,
): (Outcome<ExactPart> & { ok: true }) | null {
  const planes = open.flatMap((i) => (part.faces[i]!.flat ? [frameOf(part.faces[i]!)] : []))
  if (planes.length === 0 || planes.length < open.length) return null
  const { positions } = part.mesh
  for (let v = 0; v < positions.length / 3; v++)
    if (planes.some((f) => dot3(sub3(placeAt(positions, v), f.origin), f.z) > BEHIND)) return null
  const args = { op, open: [], wall, side: 'out' as const }
  const around = ctx.kernel({ verb: 'shell', args, on: [part.key] })
  if (!around.ok) return null
  const parts = ctx.kernel({ verb: 'part', args: { op, planes }, on: [around.value[0]!.key] })
  if (!parts.ok) return null
  const kept = parts.value.filter((p) =>
    planes.every((f) => dot3(sub3(p.measure.centroid, f.origin), f.z) < 0),
  )
  return kept.length === 1 ? { ok: true, value: kept[0]! } : null
}
