import { boundsOf } from '../../curve'
import { mm, type P2, type Place } from '../../math'
import { AXIS, type Seg, sideOf } from '../../profile'
import { bodyLoops, type TurnedBody } from '../body'
import { type Turning, turningsOf } from '../necks'
import { offsets } from './walls'

type Side = 'in' | 'out'

/** Walls at which the cavity (or the outside) changes its make-up, mm, for the working range. */
export const shellMarks = (b: TurnedBody, open: ReadonlySet<Seg>, side: Side): number[] =>
  turnings(b, open, side).map((t) => t.distance)

/** Necks among the walls, inside the body. */
export const necksOf = (b: TurnedBody, open: ReadonlySet<Seg>): Turning[] =>
  turnings(b, open, 'in').filter((n) => n.kind === 'neck' && within(b, n.at))

/** The middle of the largest ball among the walls, where a cavity would be left longest. */
export function deepest(b: TurnedBody, open: ReadonlySet<Seg>): Place | null {
  const rooms = turnings(b, open, 'in').filter((t) => t.kind === 'room' && within(b, t.at))
  const best = rooms.reduce<Turning | null>((p, q) => (p && p.distance >= q.distance ? p : q), null)
  return best && { at: best.at, label: `room for walls of ${mm(best.distance)}` }
}

/** Whether a place lies in the body; the axis counts as what lies beside it. */
const within = (b: TurnedBody, p: P2): boolean =>
  sideOf(bodyLoops(b), [Math.max(p[0], 1e-3), p[1]]).inside

const known = new WeakMap<TurnedBody, Map<string, Turning[]>>()

/** Necks and rooms of a body with some faces open, kept by the body: every value tried asks for them. */
function turnings(b: TurnedBody, open: ReadonlySet<Seg>, side: Side): Turning[] {
  const loops = bodyLoops(b)
  const faces = loops.flat()
  const key = `${side} ${faces.flatMap((s, i) => (open.has(s) ? [i] : [])).join(' ')}`
  const ofBody = known.get(b) ?? new Map<string, Turning[]>()
  known.set(b, ofBody)
  const before = ofBody.get(key)
  if (before) return before
  const boxes = faces.map((s) => boundsOf(s.curve))
  const size = Math.max(...boxes.flatMap((x) => [x.max[0], x.max[1] - x.min[1]]))
  // Run-outs as for a wall of that size: a ball within the body never reaches beyond its own radius of
  // them, so that they serve every smaller wall.
  const { walls } = offsets(loops, () => size, open, 'marks', side === 'in' ? 1 : -1)
  const curves = walls.map((w) => w.curve)
  const through = side === 'in' ? faces.filter((s) => s.name === AXIS || open.has(s)) : []
  const found = turningsOf(b, curves, side === 'in' ? 1 : -1, through)
  ofBody.set(key, found)
  return found
}
