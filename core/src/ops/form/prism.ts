import { type ExactPart, type Outline, outlineOf, ringsOf } from '../../exact'
import { dot3, type Frame, good, type Outcome, scale3, sub3, toSpace } from '../../math'
import { type Region, regionArea } from '../../profile'
import type { OpContext } from '../state'

/** How far a body reaches along a plane's normal, from the plane, mm. */
export function reachOf({ measure: { bounds } }: ExactPart, f: Frame): [number, number] {
  const heights: number[] = []
  for (const x of [bounds.min[0], bounds.max[0]])
    for (const y of [bounds.min[1], bounds.max[1]])
      for (const z of [bounds.min[2], bounds.max[2]])
        heights.push(dot3(sub3([x, y, z], f.origin), f.z))
  return [Math.min(...heights), Math.max(...heights)]
}

/** The areas' outlines at a height over the plane. */
const outlines = (f: Frame, areas: readonly Region[], height: number): Outline[] =>
  areas.map((r) => outlineOf(r, (c) => ringsOf(c, (p) => toSpace(f, p[0], p[1], height))))

export const areaSum = (areas: readonly Region[]): number =>
  areas.reduce((sum, r) => sum + regionArea(r), 0)

/** Areas carried from one height over their plane to another, mm. */
export const prismOf = (
  f: Frame,
  areas: readonly Region[],
  from: number,
  to: number,
  ctx: OpContext,
): Outcome<ExactPart> =>
  only(
    ctx.kernel({
      verb: 'prism',
      args: {
        op: ctx.op,
        regions: outlines(f, areas, from),
        way: scale3(f.z, to - from),
        volume: areaSum(areas) * (to - from),
      },
      on: [],
    }),
  )

/** The only part a job makes. */
export const only = (made: Outcome<ExactPart[]>): Outcome<ExactPart> =>
  made.ok ? good(made.value[0]!) : made
