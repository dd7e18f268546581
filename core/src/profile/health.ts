import {
  boundsOf,
  type Curve,
  extremes,
  intersect,
  lengthOf,
  nearest,
  type Placing,
  placeCurve,
  pointAt,
  selfIntersect,
  tangentAt,
} from '../curve'
import { ANGLE, dist, fixed, freshId, mm, type P2, POINT } from '../math'
import { type Drawing, type Entity, endsOf, pointsOf, pruned, renamed } from './drawing'
import type { Axis, Shape } from './shape'

/** A weak spot of a profile: what, where, and the drawing as it would be after the fix. */
export interface Finding {
  code: 'gap' | 'crossing' | 'over-axis' | 'twice' | 'no-length' | 'not-square'
  grave: boolean
  message: string
  at: P2
  entities: string[]
  /** For `gap` the width (mm), for `not-square` the angle off square (rad). */
  amount: number
  fix?: { label: string; drawing: Drawing }
}

/** From drawing coordinates to [r, z] about the axis (r negative on the left of the axis). */
export const axisPlacing = (axis: Axis): Placing => {
  const [dx, dy] = axis.dir
  const [ox, oy] = axis.origin
  // rows of the rotation taking the axis direction to +z
  return {
    origin: [-(ox * dy - oy * dx), -(ox * dx + oy * dy)],
    x: [dy, dx],
    y: [-dx, dy],
  }
}

/** What a profile is for: turning about its axis, closed areas, or lines that may cross and end anywhere. */
export type ProfileUse = 'turn' | 'flat' | 'open'

/** Everything that would keep this profile from being what it is for, worst first. */
export function profileHealth(drawing: Drawing, shape: Shape, use: ProfileUse = 'turn'): Finding[] {
  const live = shape.drawn.filter((d) => !d.construction)
  const byId = new Map(drawing.entities.map((e) => [e.id, e]))
  const placing = axisPlacing(shape.axis)
  const local = live.map((d) => ({ ...d, local: placeCurve(d.curve, placing) }))
  // Copies a pattern makes are as sound as the pieces they are made of.
  const own = live.filter((d) => byId.has(d.id))
  const ownLocal = local.filter((d) => byId.has(d.id))
  const findings = [
    ...noLength(drawing, shape),
    ...twice(drawing, own),
    ...(use === 'open' ? [] : [...gaps(drawing, shape, ownLocal, byId), ...crossings(live)]),
    ...(use === 'turn' ? [...overAxis(local), ...notSquare(drawing, ownLocal, byId)] : []),
  ]
  return findings.sort((a, b) => Number(b.grave) - Number(a.grave))
}

const without = (d: Drawing, ids: string[]): Drawing =>
  pruned({ ...d, entities: d.entities.filter((e) => !ids.includes(e.id)) })

function noLength(drawing: Drawing, shape: Shape): Finding[] {
  return shape.empty.map((id) => {
    const e = drawing.entities.find((x) => x.id === id)!
    return {
      code: 'no-length',
      grave: false,
      message: `${id} has no length and is left out.`,
      at: shape.points[pointsOf(e)[0]!]!,
      entities: [id],
      amount: 0,
      fix: { label: `Remove ${id}`, drawing: without(drawing, [id]) },
    }
  })
}

type Live = { id: string; curve: Curve }

function twice(drawing: Drawing, live: Live[]): Finding[] {
  const out: Finding[] = []
  for (const [i, a] of live.entries()) {
    for (const b of live.slice(i + 1)) {
      const lies = [0, 0.25, 0.5, 0.75, 1].every(
        (t) => nearest(a.curve, pointAt(b.curve, t)).d < 10 * POINT,
      )
      if (!lies) continue
      out.push({
        code: 'twice',
        grave: true,
        message: `${b.id} lies on top of ${a.id}.`,
        at: pointAt(b.curve, 0.5),
        entities: [a.id, b.id],
        amount: lengthOf(b.curve),
        fix: { label: `Remove ${b.id}`, drawing: without(drawing, [b.id]) },
      })
    }
  }
  return out
}

function gaps(
  drawing: Drawing,
  shape: Shape,
  live: (Live & { local: Curve })[],
  byId: Map<string, Entity>,
): Finding[] {
  const open: { point: string; at: P2; entity: string }[] = []
  for (const d of live) {
    const ends = endsOf(byId.get(d.id)!)
    if (!ends) continue
    for (const [k, point] of ends.entries()) {
      const r = pointAt(d.local, k)[0]
      const at = shape.points[point]!
      const met = live.some((o) =>
        o.id === d.id
          ? dist(at, shape.points[ends[1 - k]!]!) < 10 * POINT
          : nearest(o.curve, at).d < 10 * POINT,
      )
      if (!met && Math.abs(r) > 10 * POINT) open.push({ point, at, entity: d.id })
    }
  }
  const out: Finding[] = []
  while (open.length > 0) {
    const a = open.shift()!
    open.sort((x, y) => dist(a.at, x.at) - dist(a.at, y.at))
    const b = open.shift()
    if (!b) {
      out.push({
        code: 'gap',
        grave: true,
        message: `${a.entity} ends in the open.`,
        at: a.at,
        entities: [a.entity],
        amount: Number.POSITIVE_INFINITY,
      })
      continue
    }
    const width = dist(a.at, b.at)
    out.push({
      code: 'gap',
      grave: true,
      message: `The outline is open by ${mm(width)} between ${a.entity} and ${b.entity}.`,
      at: [(a.at[0] + b.at[0]) / 2, (a.at[1] + b.at[1]) / 2],
      entities: [a.entity, b.entity],
      amount: width,
      fix: closeGap(drawing, shape, a.point, b.point, width),
    })
  }
  return out
}

/** A narrow gap is closed by making the two ends one point, a wide one by a line. */
function closeGap(drawing: Drawing, shape: Shape, a: string, b: string, width: number) {
  const size = Math.max(...Object.values(shape.points).map((p) => Math.hypot(p[0], p[1])), 1)
  if (width < 0.05 * size) {
    const swap = (id: string) => (id === b ? a : id)
    const entities = drawing.entities.map((e) => renamed(e, e.id, swap))
    const one = <T extends { points: string[] }>(r: T): T => ({ ...r, points: r.points.map(swap) })
    const relations = drawing.relations?.map(one)
    const dimensions = drawing.dimensions?.map(one)
    const joined = {
      ...drawing,
      entities,
      ...(relations ? { relations } : {}),
      ...(dimensions ? { dimensions } : {}),
    }
    return { label: 'Bring the ends together', drawing: without(joined, []) }
  }
  const ids = drawing.entities.map((e) => e.id)
  const entity: Entity = { id: freshId(ids, 'close'), kind: 'line', a, b }
  return {
    label: 'Close with a line',
    drawing: { ...drawing, entities: [...drawing.entities, entity] },
  }
}

function crossings(live: Live[]): Finding[] {
  const out: Finding[] = []
  const at = (ids: string[], p: P2) =>
    out.push({
      code: 'crossing',
      grave: true,
      message: ids.length === 1 ? `${ids[0]} crosses itself.` : `${ids[0]} and ${ids[1]} cross.`,
      at: p,
      entities: ids,
      amount: 0,
    })
  for (const [i, a] of live.entries()) {
    for (const m of selfIntersect(a.curve)) at([a.id], pointAt(a.curve, m.t))
    for (const b of live.slice(i + 1)) {
      for (const m of intersect(a.curve, b.curve)) {
        const inner = (t: number) => t > 1e-9 && t < 1 - 1e-9
        if (!inner(m.t) || !inner(m.s)) continue
        const [u, v] = [tangentAt(a.curve, m.t), tangentAt(b.curve, m.s)]
        if (Math.abs(u[0] * v[1] - u[1] * v[0]) > ANGLE) at([a.id, b.id], pointAt(a.curve, m.t))
      }
    }
  }
  return out
}

function overAxis(live: (Live & { local: Curve })[]): Finding[] {
  const boxes = live.map((d) => boundsOf(d.local))
  const most = Math.max(0, ...boxes.map((b) => b.max[0]))
  const least = Math.min(0, ...boxes.map((b) => b.min[0]))
  if (least > -10 * POINT || most < 10 * POINT) return []
  // The smaller side is the one that strayed.
  const sign = most >= -least ? -1 : 1
  return live.flatMap((d, i): Finding[] => {
    const reach = sign < 0 ? -boxes[i]!.min[0] : boxes[i]!.max[0]
    if (reach <= 10 * POINT) return []
    const ts = [0, ...extremes(d.local, 0), 1]
    const t = ts.reduce((a, b) =>
      sign * pointAt(d.local, b)[0] > sign * pointAt(d.local, a)[0] ? b : a,
    )
    return [
      {
        code: 'over-axis',
        grave: true,
        message: `${d.id} reaches ${mm(reach)} over the axis.`,
        at: pointAt(d.curve, t),
        entities: [d.id],
        amount: reach,
      },
    ]
  })
}

function notSquare(
  drawing: Drawing,
  live: (Live & { local: Curve })[],
  byId: Map<string, Entity>,
): Finding[] {
  const out: Finding[] = []
  for (const d of live) {
    if (boundsOf(d.local).max[0] - boundsOf(d.local).min[0] < 10 * POINT) continue
    for (const t of [0, 1]) {
      if (Math.abs(pointAt(d.local, t)[0]) > 10 * POINT) continue
      const u = tangentAt(d.local, t)
      const off = Math.atan2(Math.abs(u[1]), Math.abs(u[0]))
      if (off <= ANGLE) continue
      const e = byId.get(d.id)!
      out.push({
        code: 'not-square',
        grave: false,
        message: `${d.id} meets the axis ${fixed((off * 180) / Math.PI, 2)} deg off square: the pole would be a ${u[1] * (t === 0 ? 1 : -1) > 0 ? 'dimple' : 'point'}.`,
        at: pointAt(d.curve, t),
        entities: [d.id],
        amount: off,
        fix: e.kind === 'fit' ? squareHandle(drawing, e, t) : undefined,
      })
    }
  }
  return out
}

function squareHandle(drawing: Drawing, e: Extract<Entity, { kind: 'fit' }>, t: number) {
  const k = t === 0 ? 0 : e.points.length - 1
  const handles = e.handles.map((h, i) => (i === k ? ({ hold: 'level' } as const) : h))
  return {
    label: 'Square the handle',
    drawing: {
      ...drawing,
      entities: drawing.entities.map((x) => (x === e ? { ...e, handles } : x)),
    },
  }
}
