import { type Drawing, endsOf } from '../drawing'
import { placed, type Variables } from './system'

/** Turns smaller than this (rad) have no side worth keeping. */
const FLAT = 0.05

/** Whether anything turned over between two solutions. */
export const flipped = (...args: Parameters<typeof flips>): boolean => flips(...args) > 0

/**
 * How many turned over between two solutions: arcs bulging the other way, and lines that meet turning the
 * other way.
 */
export function flips(
  drawing: Drawing,
  vars: Variables,
  before: ArrayLike<number>,
  after: ArrayLike<number>,
): number {
  const [a, b] = [turnsOf(drawing, vars, before), turnsOf(drawing, vars, after)]
  return a.filter((t, i) => Math.abs(t) > FLAT && Math.abs(b[i]!) > FLAT && t * b[i]! < 0).length
}

/** Signed turns of all arcs and corners, rad, in a fixed order. */
function turnsOf(drawing: Drawing, vars: Variables, x: ArrayLike<number>): number[] {
  const { points } = placed(vars, x)
  const turn = (a: string, b: string, c: string): number => {
    const [p, q, r] = [points[a]!, points[b]!, points[c]!]
    const [ux, uy, vx, vy] = [q[0] - p[0], q[1] - p[1], r[0] - q[0], r[1] - q[1]]
    return Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy)
  }
  const out: number[] = []
  const lines = drawing.entities.filter((e) => e.kind === 'line')
  for (const e of drawing.entities) if (e.kind === 'arc') out.push(turn(e.a, e.via, e.b))
  const at = new Map<string, string[]>()
  for (const l of lines)
    for (const end of endsOf(l)!) at.set(end, [...(at.get(end) ?? []), end === l.a ? l.b : l.a])
  for (const [corner, ends] of at) if (ends.length === 2) out.push(turn(ends[0]!, corner, ends[1]!))
  return out
}
