import { type Curve, nearest, pointAt, startOf, tangentAt } from '../curve'
import { cross, dot, goldenMin, type P2, POINT, sub } from '../math'
import { AXIS, type Seg } from '../profile'
import {
  type Ball,
  Balls,
  cornerTrack,
  curveTrack,
  parametersOf,
  type Stand,
  type Track,
} from './balls'
import { bodyLoops, type TurnedBody } from './body'

/**
 * A distance at which what lies farther than it from the walls changes its make-up: at a `neck` it falls
 * apart, in a `room` the last of a part vanishes, at a `mouth` it parts from or leaves an opening. `at` is
 * the middle of the ball that fits there.
 */
export interface Turning {
  kind: 'neck' | 'room' | 'mouth'
  /** Radius of that ball, mm. */
  distance: number
  at: P2
}

/** A ball and where it was looked for. */
interface Held {
  ball: Ball
  stand: Stand
}

/** Places tried in every smooth stretch. */
const EACH = 6

/**
 * Necks and rooms among the walls of a half-section, on their left (side 1) or right (-1): extremes of the
 * largest ball along each wall and round each corner that points there, and of the distance to the walls
 * along the axis and the openings (`through`), where what is left may end.
 */
export function turningsOf(
  b: TurnedBody,
  walls: readonly Curve[],
  side: 1 | -1,
  through: readonly Seg[] = [],
): Turning[] {
  if (walls.length === 0) return []
  const balls = new Balls(walls)
  const known = new Set(walls)
  const tracks: Track[] = walls.map((c) => curveTrack(c, side))
  for (const loop of bodyLoops(b)) {
    for (const [i, after] of loop.entries()) {
      const before = loop[(i + loop.length - 1) % loop.length]!
      if (!known.has(before.curve) || !known.has(after.curve) || after.name === AXIS) continue
      const [u, v] = [tangentAt(before.curve, 1), tangentAt(after.curve, 0)]
      const at = startOf(after.curve)
      if (side * cross(u, v) < -1e-9 && at[0] > POINT) tracks.push(cornerTrack(at, u, v, side))
    }
  }
  const corners = bodyLoops(b)
    .flat()
    .map((s) => startOf(s.curve))
  return [
    ...tracks.flatMap((t) => turningsAlong(t, balls)),
    ...through.flatMap((s) => turningsThrough(s, corners, balls)),
  ]
}

/** Places tried along the axis or an opening, besides those beside the corners. */
const THROUGH = 24

/** Extremes of the distance to the walls along the axis or an opening. */
function turningsThrough(seg: Seg, corners: readonly P2[], balls: Balls): Turning[] {
  const far = (t: number) => balls.nearest(pointAt(seg.curve, t), balls.reach)
  const distance = (t: number) => far(t)?.d ?? balls.reach
  const beside = corners.map((p) => nearest(seg.curve, p).t)
  const steps = Array.from({ length: THROUGH + 1 }, (_, i) => i / THROUGH)
  const ts = [...new Set([...steps, ...beside])].sort((p, q) => p - q)
  const ds = ts.map(distance)
  return ts.flatMap((t, i) => {
    const near = [ds[i - 1], ds[i + 1]]
    return [1, -1].flatMap((sign): Turning[] => {
      if (near.some((d) => d !== undefined && sign * (d - ds[i]!) < 0)) return []
      const [a, b] = [ts[Math.max(0, i - 1)]!, ts[Math.min(ts.length - 1, i + 1)]!]
      const inner = goldenMin((x) => sign * distance(x), a, b, 1e-9)
      const best = sign * distance(t) <= inner.value ? t : inner.x
      const [at, hit] = [pointAt(seg.curve, best), far(best)]
      if (!hit) return []
      // On the axis the mirror image stands across: level with its middle a ball is held as in a neck.
      const held = Math.abs(hit.q[1] - at[1]) < 0.05 * hit.d
      const kind = seg.name !== AXIS ? 'mouth' : sign < 0 ? 'room' : held ? 'neck' : 'mouth'
      return [{ kind, distance: hit.d, at }]
    })
  })
}

function turningsAlong(track: Track, balls: Balls): Turning[] {
  const ball = (t: number): Held | null => {
    const stand = track.stand(t)
    const found = balls.at(stand)
    return found && { ball: found, stand }
  }
  const ts = parametersOf(track, EACH)
  const seen = ts.map(ball)
  const out: Turning[] = []
  for (const [i, b] of seen.entries()) {
    if (!b) continue
    for (const kind of ['neck', 'room'] as const) {
      const sign = kind === 'neck' ? 1 : -1
      const near = [seen[i - 1], seen[i + 1]]
      if (near.some((o) => o && sign * (o.ball.radius - b.ball.radius) < 0)) continue
      const best = closeIn(
        ball,
        ts[Math.max(0, i - 1)]!,
        ts[Math.min(ts.length - 1, i + 1)]!,
        b,
        sign,
      )
      if (kind === 'neck' && !facing(best)) continue
      const { radius, centre } = best.ball
      out.push({ kind, distance: radius, at: [Math.abs(centre[0]), centre[1]] })
    }
  }
  return out
}

/** Whether a ball is held between two places that face each other, as in a neck. */
function facing({ ball: { centre, q }, stand }: Held): boolean {
  const [u, v] = [sub(stand.at, centre), sub(q, centre)]
  return dot(u, v) < FACING * Math.hypot(...u) * Math.hypot(...v)
}
/** Cosine of the angle between the two contacts of a neck's ball, with room for a search that stopped. */
const FACING = -0.99

/** Golden section to the extreme ball between two places. */
function closeIn(
  ball: (t: number) => Held | null,
  a: number,
  b: number,
  start: Held,
  sign: 1 | -1,
): Held {
  let best = start
  const score = (t: number) => {
    const found = ball(t)
    if (found && sign * found.ball.radius < sign * best.ball.radius) best = found
    return found ? sign * found.ball.radius : Number.MAX_VALUE
  }
  goldenMin(score, a, b, 1e-4 * (b - a), 1e-9)
  return best
}
