import type { ExactPart } from '../../../exact'
import { bad, dot3, type Frame, fixed, good, type Outcome, sub3 } from '../../../math'
import { exactOf, loose } from '../../exact'
import type { Body, OpContext, OpMade, OpResult } from '../../state'

/** A body of loose pieces as a body each. */
export function intoPieces(body: Body, ctx: OpContext): Outcome<OpMade> {
  const part = exactOf(body, ctx)
  if (!part.ok) return part
  if (part.value.measure.solids < 2)
    return bad('in-one-piece', `${body.name || 'The body'} is in one piece.`)
  const parts = loose(part.value, ctx)
  if (!parts.ok) return parts
  return good(numbered(body, parts.value, ctx.op))
}

/** At several planes at once; the parts in the order of the planes' sides, those behind them all first. */
export function atPlanes(
  body: Body,
  first: Frame,
  also: readonly string[],
  ctx: OpContext,
): Outcome<OpMade> {
  const part = exactOf(body, ctx)
  if (!part.ok) return part
  const planes = [first]
  for (const id of also) {
    const plane = ctx.plane(id)
    if (!plane)
      return bad('no-plane', `The plane "${id}" does not exist at this point of the route.`)
    planes.push(plane.frame)
  }
  const made = ctx.kernel({
    verb: 'part',
    args: { op: ctx.op, planes },
    on: [part.value.key],
  })
  if (!made.ok)
    return made.diagnosis.code === 'misses'
      ? bad('misses', `None of the planes goes through ${body.name}.`)
      : made
  const missed = planes.findIndex(
    (_, i) =>
      !made.value.some((p) => p.faces.some((f) => f.names.includes(`${ctx.op}:cut${i + 1}`))),
  )
  const result = numbered(body, made.value, ctx.op)
  if (missed >= 0)
    result.warnings.push({
      code: 'misses',
      message: `Plane ${missed + 1} of ${planes.length} does not go through ${body.name}.`,
      places: [{ at: planes[missed]!.origin }],
      fixes: [],
    })
  return good(result)
}

/** Parts as bodies: the first goes on as the body, the others are numbered. */
export function numbered(body: Body, parts: readonly ExactPart[], op: string): OpResult {
  const bodies: OpResult['bodies'] = {}
  for (const [i, shape] of parts.entries()) {
    const id = i === 0 ? body.id : i === 1 ? op : `${op}-${i}`
    bodies[id] = { id, name: i === 0 ? body.name : `${body.name} ${i + 1}`, shape }
  }
  return { bodies, warnings: [], consequence: `${parts.length} parts` }
}

/** By the exact kernel: along any plane. What lies in front of it is the upper part. */
export function splitExact(
  body: Body,
  plane: Frame,
  keep: 'both' | 'below' | 'above',
  ctx: OpContext,
): Outcome<OpMade> {
  const part = exactOf(body, ctx)
  if (!part.ok) return part
  const made = ctx.kernel({
    verb: 'part',
    args: { op: ctx.op, planes: [plane] },
    on: [part.value.key],
  })
  if (!made.ok)
    return made.diagnosis.code === 'misses'
      ? bad('misses', `The plane does not go through ${body.name}.`)
      : made
  const front = (p: ExactPart) => dot3(sub3(p.measure.centroid, plane.origin), plane.z) > 0
  const below = made.value.filter((p) => !front(p))
  const above = made.value.filter(front)
  const kept = keep === 'both' ? [...below, ...above] : keep === 'below' ? below : above
  const cm3 = (list: ExactPart[]) =>
    `${fixed(list.reduce((v, p) => v + p.measure.volume, 0) / 1000, 1)} cm³`
  const bodies: OpResult['bodies'] = {}
  for (const [i, p] of kept.entries()) {
    const id = i === 0 ? body.id : i === 1 ? ctx.op : `${ctx.op}-${i}`
    const name =
      i === 0 ? body.name : `${body.name} ${front(p) ? 'upper' : 'lower'}${i > 1 ? ` ${i}` : ''}`
    bodies[id] = { id, name, shape: p }
  }
  return good({
    bodies,
    warnings: [],
    consequence: `${cm3(below)} below, ${cm3(above)} above`,
  })
}
