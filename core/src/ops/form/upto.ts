import { boundsOf } from '../../curve'
import type { ExactPart } from '../../exact'
import {
  add3,
  bad,
  dot3,
  type Frame,
  good,
  type Outcome,
  type P3,
  scale3,
  sub3,
  toSpace,
} from '../../math'
import { type Region, segsOf } from '../../profile'
import { exactBody, loose } from '../exact'
import type { OpContext } from '../state'
import { only, prismOf, reachOf } from './prism'

/** From the profile's plane to another, which may be oblique. */
export function upToPlane(
  id: string,
  f: Frame,
  offset: number,
  areas: readonly Region[],
  ctx: OpContext,
): Outcome<ExactPart> {
  const plane = ctx.plane(id)
  if (!plane) return bad('no-plane', 'Choose the plane to go up to.')
  const to = plane.frame
  const slope = dot3(f.z, to.z)
  if (Math.abs(slope) < 1e-6) return bad('alongside', 'The extrusion runs alongside that plane.')
  const heights = cornersOf(areas).map(
    ([u, v]) => dot3(sub3(to.origin, toSpace(f, u, v)), to.z) / slope,
  )
  const [low, high] = [Math.min(...heights), Math.max(...heights)]
  if (low < offset && high > offset)
    return bad('through-profile', 'That plane goes through the profile itself.')
  if (high - low < 1e-9) return level(low, f, offset, areas, ctx)
  const ahead = low >= offset
  const spare = high - low + 1
  const long = prismOf(f, areas, ahead ? offset : low - spare, ahead ? high + spare : offset, ctx)
  if (!long.ok) return long
  const parts = ctx.kernel({
    verb: 'part',
    args: { op: ctx.op, planes: [to] },
    on: [long.value.key],
  })
  if (!parts.ok) return parts
  // The parts behind the plane come first.
  const behind = dot3(sub3(add3(f.origin, scale3(f.z, offset)), to.origin), to.z) < 0
  const [first] = parts.value
  return good(behind ? first! : parts.value[parts.value.length - 1]!)
}

/** From the profile's plane to the level of a place. */
export function upToPoint(
  at: P3,
  f: Frame,
  offset: number,
  areas: readonly Region[],
  ctx: OpContext,
): Outcome<ExactPart> {
  return level(dot3(sub3(at, f.origin), f.z), f, offset, areas, ctx)
}

function level(to: number, f: Frame, offset: number, areas: readonly Region[], ctx: OpContext) {
  return Math.abs(to - offset) < 1e-9
    ? bad('not-positive', 'That is the level the extrusion starts from.')
    : prismOf(f, areas, Math.min(to, offset), Math.max(to, offset), ctx)
}

/**
 * From the profile's plane to where a body stands in the way, all over the profile: what is beyond the body,
 * and what it takes up itself, is left out.
 */
export function upToBody(
  id: string,
  way: 'along' | 'against',
  f: Frame,
  offset: number,
  areas: readonly Region[],
  ctx: OpContext,
): Outcome<ExactPart> {
  const found = exactBody(id, ctx)
  if (!found.ok) return bad(found.diagnosis.code, 'Choose the body to go up to.')
  const { body, part } = found.value
  const [low, high] = reachOf(part, f)
  const ahead = way === 'along'
  const far = ahead ? high + 1 : low - 1
  if (ahead ? high <= offset : low >= offset)
    return bad('misses', `${body.name} does not stand that way; turn the way it goes round.`)
  const long = prismOf(f, areas, Math.min(offset, far), Math.max(offset, far), ctx)
  if (!long.ok) return long
  const cut = ctx.kernel({
    verb: 'combine',
    args: { op: ctx.op, how: 'cut' },
    on: [long.value.key, part.key],
  })
  if (!cut.ok)
    return bad('misses', `${body.name} takes up all there is between: ${cut.diagnosis.message}`)
  const [start, end] = ahead ? ['start', 'end'] : ['end', 'start']
  const named = (p: ExactPart, word: string) =>
    p.faces.filter((x) => x.names.includes(`${ctx.op}:${word}`))
  const areaOf = (list: readonly { area: number }[]) => list.reduce((sum, x) => sum + x.area, 0)
  const before = areaOf(named(long.value, start))
  const apart = loose(cut.value[0]!, ctx)
  if (!apart.ok) return apart
  const kept = apart.value.filter((p) => named(p, start).length > 0)
  const left = kept.reduce((sum, p) => sum + areaOf(named(p, start)), 0)
  if (left < before * (1 - 1e-6))
    return bad(
      'through-profile',
      `${body.name} already covers part of the profile where it starts.`,
    )
  const open = kept.flatMap((p) => named(p, end))[0]
  if (open)
    return bad(
      'overhangs',
      `${body.name} does not stand in the way of all of the profile: it goes past here.`,
      [{ at: open.middle }],
    )
  const [first, ...rest] = kept
  if (rest.length === 0) return good(first!)
  return only(
    ctx.kernel({
      verb: 'combine',
      args: { op: ctx.op, how: 'join' },
      on: [first!.key, ...rest.map((p) => p.key)],
    }),
  )
}

/** Corners of the box about the areas, in the drawing. */
function cornersOf(areas: readonly Region[]): [number, number][] {
  const boxes = segsOf(areas).map((s) => boundsOf(s.curve))
  const at = (k: 0 | 1) => [
    Math.min(...boxes.map((b) => b.min[k])),
    Math.max(...boxes.map((b) => b.max[k])),
  ]
  return at(0).flatMap((u) => at(1).map((v): [number, number] => [u, v]))
}
