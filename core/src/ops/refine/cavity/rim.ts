import { lengthOf, pointAt } from '../../../curve'
import type { ExactPart } from '../../../exact'
import { bad, type Frame, fixed, good, mm, type Outcome, type P3, toSpace } from '../../../math'
import type { Region } from '../../../profile'
import { frameOf } from '../../draw/datum'
import { areaOf } from '../../flats/area'
import { nearestOf } from '../../flats/nearest'
import { grown } from '../../flats/outlines'
import { prismOf } from '../../form/prism'
import type { OpContext } from '../../state'

/** How far a rim runs on beyond the open face, farther than the room, mm. */
const BEYOND = 1.5
/** How far apart places are at which the wall beside a rim is measured, mm, and how many there are at most along a piece and up. */
const [STEP, MOST] = [0.75, 200]
/** What is left beside a rim may be less than asked by so much, mm. */
const SHORT = 2e-3

/** How a room opens. */
interface AskedRim {
  face: number
  /** What is left of the outline of the open face, and how far down it is followed, mm. */
  wide: number
  deep: number
  /** The least wall, mm. */
  wall: number
  /** Whether a place lies in the material. */
  holds: (at: P3) => boolean
}

/** What a rim takes, and the least wall beside it, mm, with its place. */
export interface Rim {
  tool: ExactPart
  wall: number
  at: P3
}

/**
 * Where a room opens it follows the outline of the flat open face, set off inward, straight down; nowhere on the way may the outside be
 * nearer than the least wall, measured on true surfaces.
 */
export function rimOf(
  part: ExactPart,
  { face, wide, deep, wall, holds }: AskedRim,
  ctx: OpContext,
): Outcome<Rim> {
  const { middle } = part.faces[face]!
  const plane = frameOf(part.faces[face]!)
  const inner = ctx.once('rim', () => {
    const area = areaOf(part, face, plane)
    if (!area)
      return bad('no-outline', 'The edges of the open face do not close to an outline.', [
        { at: middle },
      ])
    return grown([{ outer: area.outer, holes: [] }], -wide, `${ctx.op}:rim`)
  })
  if (!inner.ok) return inner
  if (inner.value.length === 0)
    return bad('too-narrow', `The open face is too narrow for a rim of ${mm(wide)}.`, [
      { at: middle },
    ])
  const tool = prismOf(plane, inner.value, -deep, BEYOND, ctx)
  if (!tool.ok) return tool
  const { places, out } = ctx.once('beside', () => {
    const places = placesBeside(inner.value, plane, deep)
    return { places, out: places.find((at) => !holds(at)) }
  })
  if (out)
    return bad(
      'thin-rim',
      `The rim comes out of the body at height ${fixed(out[2], 1)}: the outside is drawn in there. Make the rim wider, or less deep.`,
      [{ at: out }],
    )
  const nearest = nearestOf(() => places, part, ctx, face)
  if (!nearest.ok) return nearest
  const { d, at } = nearest.value
  if (d < wall - SHORT)
    return bad(
      'thin-rim',
      `Beside the rim ${mm(d)} are left at height ${fixed(at[2], 1)}, where ${mm(wall)} were asked: the outside is drawn in there. Make the rim wider, or less deep.`,
      [{ at }],
    )
  return good({ tool: tool.value, wall: d, at })
}

/** Places on the side of a rim, from its lower end up to below the open face. */
function placesBeside(areas: readonly Region[], plane: Frame, deep: number): P3[] {
  const parts = (long: number) => Math.min(MOST, Math.max(4, Math.ceil(long / STEP)))
  const heights = parts(deep)
  return areas.flatMap(({ outer }) =>
    outer.flatMap(({ curve }) => {
      const along = parts(lengthOf(curve))
      return Array.from({ length: along }, (_, i) => pointAt(curve, i / along)).flatMap(([x, y]) =>
        Array.from({ length: heights }, (_, k) => toSpace(plane, x, y, deep * (k / heights - 1))),
      )
    }),
  )
}
