import { type ExactPart, faceName } from '../../../exact'
import { bad, type Diagnosis, dot3, good, mm, type Outcome, sub3 } from '../../../math'
import type { Value } from '../../../profile'
import type { FaceRef } from '../../../refs'
import { pickExactFaces } from '../../pick'
import type { OpContext } from '../../state'
import { between } from '../faces/between'

/** A face with a wall of its own, mm. */
export interface OwnWall {
  ref: FaceRef
  wall: number
}

/** The walls that faces have for themselves; that of the rest where a face has none. */
export function ownWalls(
  others: readonly (FaceRef & { wall?: Value | undefined })[],
  side: 'in' | 'out',
  t: number,
  ctx: OpContext,
): Outcome<OwnWall[]> {
  if (others.length > 0 && side === 'out')
    return bad(
      'inward-only',
      'Walls of their own are made inward only.',
      [],
      [{ label: 'Hollow it inward', op: ctx.op, inputs: { side: 'in' } }],
    )
  const out: OwnWall[] = []
  for (const { wall, ...ref } of others) {
    const own = wall === undefined ? t : ctx.read(wall, 'length')
    if (!(own > 0)) return bad('not-positive', 'Each wall must be more than 0.')
    out.push({ ref, wall: own })
  }
  return good(out)
}

/** Share by which equal volumes may differ. */
const SAME = 1e-6
/** What a face moved may be off, mm. */
const OFF = 1e-4

/**
 * A body hollowed to an even wall with the faces behind some walls moved to where their own walls are; what
 * stands between both is measured.
 */
export function withOwnWalls(
  outside: ExactPart,
  hollow: ExactPart,
  even: number,
  own: readonly OwnWall[],
  ctx: OpContext,
): Outcome<{ now: ExactPart; warnings: Diagnosis[] }> {
  const warnings: Diagnosis[] = []
  let now = hollow
  for (const { ref, wall } of own) {
    const picked = pickExactFaces(outside, [ref], ctx, 'others')
    if (!picked.ok) return picked
    warnings.push(...picked.value.warnings)
    const face = picked.value.items[0]!
    const more = wall - even
    if (Math.abs(more) < 1e-9) continue
    const behind = `${ctx.op}:wall(${faceName(outside, face)})`
    const inner = now.faces.findIndex((f) => f.names.includes(behind))
    if (inner < 0)
      return bad('no-wall', 'There is no wall behind this face to be made another.', [
        { at: outside.faces[face]!.middle },
      ])
    const tool = between(now, inner, more, ctx)
    if (!tool.ok) return tool
    if (more > 0) {
      // It has to stay within the hollow: what is thicker than that would stand out on the other side.
      const within = ctx.kernel({
        verb: 'combine',
        args: { op: ctx.op, how: 'meet' },
        on: [tool.value.key, outside.key],
      })
      const inside = within.ok ? within.value[0]!.measure.volume : 0
      if (inside < tool.value.measure.volume * (1 - SAME))
        return bad('too-thick', `A wall of ${mm(wall)} is thicker here than the hollow is deep.`, [
          { at: outside.faces[face]!.middle },
        ])
    }
    const how = more > 0 ? 'join' : 'cut'
    const made = ctx.kernel({
      verb: 'combine',
      args: { op: ctx.op, how },
      on: [now.key, tool.value.key],
    })
    if (!made.ok) return made
    now = made.value[0]!
    const off = wallOff(outside, face, now, behind, wall)
    if (off > OFF)
      return bad('not-right', `This wall is off by ${mm(off, 4)}, so it is not used.`, [
        { at: outside.faces[face]!.middle },
      ])
  }
  return good({ now, warnings })
}

/** How far a wall between two flat or two round faces is from what it has to be, mm. */
function wallOff(
  outside: ExactPart,
  face: number,
  now: ExactPart,
  behind: string,
  wall: number,
): number {
  const o = outside.faces[face]!
  const inner = now.faces.find((f) => f.names.includes(behind))
  if (o.flat && inner?.flat)
    return Math.abs(Math.abs(dot3(sub3(inner.flat.origin, o.flat.origin), o.flat.dir)) - wall)
  if (o.round && inner?.round) return Math.abs(Math.abs(o.round.radius - inner.round.radius) - wall)
  return Number.POSITIVE_INFINITY
}
