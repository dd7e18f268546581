import {
  add3,
  bad,
  cross3,
  dot3,
  gaussRule,
  good,
  monotone,
  norm3,
  type Outcome,
  type P2,
  type P3,
  scale3,
  sub3,
  unit3,
} from '../../../math'
import {
  angleBetween,
  type Carrying,
  type ChainFinding,
  EvenFrames,
  type Placed,
} from '../../../path'
import { at3, bend3, type Curve3, length3, place3, way3 } from '../../../surface'
import type { Path } from '../../state'

/** How wide, how high and how much turned (rad) a section is at a share of the way. */
export interface Station {
  at: number
  w: number
  h: number
  turn: number
  /** Another drawing for the section from here on. */
  profile?: string | undefined
}

/** How a section stands along a path: turning least, parallel to itself, or with one side towards something all along. */
export type Standing = 'even' | 'parallel' | Toward

/** What the up side of a section keeps to. */
export interface Toward {
  /** Its direction at t of a piece, of any length, and how large the section is there against the start. */
  at(piece: number, t: number): { dir: P3; size: number }
  /** Where the path runs along that direction. */
  steep: { code: string; message: string }
}

/** Its up side stays up. */
export const UPRIGHT: Toward = {
  at: () => ({ dir: UP, size: 1 }),
  steep: {
    code: 'steep',
    message: 'The path runs straight up here: nothing says which way is up for the section.',
  },
}

const UP: P3 = [0, 0, 1]

/**
 * Directions of a section at the start of a path: x to the right and y up for who looks along it; of a path that starts
 * upright, those of the level plane.
 */
export function startFrame(path: Path): Placed {
  const at = place3(path.pieces[0]!, 0)
  const t = way3(path.pieces[0]!, 0)
  if (Math.abs(t[2]) > 0.999) return { at, ...squared(t, [1, 0, 0]) }
  return { at, ...facing(t, UP) }
}

function squared(t: P3, x: P3): { x: P3; y: P3 } {
  const ux = unit3(sub3(x, scale3(t, dot3(t, x))))
  return { x: ux, y: cross3(t, ux) }
}

/** The section's placing all along: pieces that are curved more than a half turn come in two. */
export function carryings(
  path: Path,
  start: Placed,
  standing: Standing,
  stations: readonly Station[],
): Outcome<Carrying[]> {
  const { pieces } = path
  const t0 = way3(pieces[0]!, 0)
  const frames = new EvenFrames(pieces, start.x)
  const hand = dot3(cross3(start.x, start.y), t0) < 0 ? -1 : 1
  const closing = path.closed && standing === 'even' ? angleBetween(frames.end, frames.at(0, 0)) : 0
  const lengths = pieces.map((c) => length3(c))
  const whole = lengths.reduce((a, b) => a + b, 0)
  const plain = stations.length === 0 && Math.abs(closing) < 1e-9
  const station = between(stations)
  const towards = kept(start, t0, typeof standing === 'string' ? start.y : standing.at(0, 0).dir)
  const out: Carrying[] = []
  let before = 0
  for (const [i, curve] of pieces.entries()) {
    const from = before
    before += lengths[i]!
    const shareAt = (t: number): number => (from + length3(curve, t)) / whole
    const place = (t: number): Placed => {
      const f = frames.at(i, t)
      const share = plain ? 0 : shareAt(t)
      const stood =
        standing === 'even'
          ? { x: f.x, y: scale3(f.y, hand), size: 1 }
          : standing === 'parallel'
            ? { ...start, size: 1 }
            : towards(f.t, standing.at(i, t))
      const s = station(share)
      const { x, y } = turned({ ...stood, at: f.at }, s.turn + hand * closing * share)
      return { at: f.at, x: scale3(x, s.w * stood.size), y: scale3(y, s.h * stood.size) }
    }
    const still = plain && typeof standing === 'string'
    const long =
      curve.kind === 'arc' ? curve.sweep > Math.PI * 0.99 : path.closed && pieces.length === 1
    const parts = long ? [0, 0.5, 1] : [0, 1]
    for (const [k, to] of parts.slice(1).entries()) {
      const first = parts[k]!
      out.push({
        curve,
        from: first,
        to,
        name: path.names[i]!,
        place: (t) => place(first + t * (to - first)),
        share: (t) => shareAt(first + t * (to - first)),
        still,
      })
    }
  }
  const lost = standing === 'even' ? null : outOfSquare(pieces, standing, start)
  return lost ?? good(out)
}

/** As the section was turned at the start against what it keeps to, so it is all along. */
function kept(start: Placed, t0: P3, dir0: P3) {
  const a = facing(t0, dir0)
  const [xx, xy] = [dot3(start.x, a.x), dot3(start.x, a.y)]
  const [yx, yy] = [dot3(start.y, a.x), dot3(start.y, a.y)]
  return (t: P3, { dir, size }: ReturnType<Toward['at']>) => {
    const b = facing(t, dir)
    return {
      x: add3(scale3(b.x, xx), scale3(b.y, xy)),
      y: add3(scale3(b.x, yx), scale3(b.y, yy)),
      size,
    }
  }
}

/** Square to a way: y towards a direction, x to the right of it for who looks along the way. */
export function facing(t: P3, dir: P3): { x: P3; y: P3 } {
  const x = unit3(cross3(t, dir))
  return { x, y: cross3(x, t) }
}

/** Why a section cannot stand so: upright on a path that runs straight up, or along its own plane. */
function outOfSquare(
  pieces: readonly Curve3[],
  standing: 'parallel' | Toward,
  start: Placed,
): Outcome<never> | null {
  const normal = cross3(start.x, start.y)
  for (const [piece, c] of pieces.entries())
    for (let i = 0; i <= 32; i++) {
      const t = way3(c, i / 32)
      const at = [{ at: place3(c, i / 32) }]
      if (standing !== 'parallel') {
        const { dir } = standing.at(piece, i / 32)
        if (!(Math.abs(dot3(t, dir)) <= 0.999 * norm3(dir)))
          return bad(standing.steep.code, standing.steep.message, at)
      } else if (Math.abs(dot3(t, normal)) < 0.05)
        return bad(
          'along-section',
          'The path runs along the section here; kept parallel it would be flat.',
          at,
        )
    }
  return null
}

/** Between stations sizes and turns run on without overshooting; two alone are joined evenly. */
function between(
  stations: readonly Station[],
): (share: number) => Pick<Station, 'w' | 'h' | 'turn'> {
  if (stations.length === 0) return () => ({ w: 1, h: 1, turn: 0 })
  const run = (key: 'w' | 'h' | 'turn') =>
    monotone(
      stations.map((s) => s.at),
      stations.map((s) => s[key]),
      stations.length > 2 ? 'level' : 'chord',
    )
  const [w, h, turn] = [run('w'), run('h'), run('turn')]
  return (share) => ({ w: w(share), h: h(share), turn: turn(share) })
}

/** Turned about the path by an angle, rad. */
export function turned({ at, x, y }: Placed, angle: number): Placed {
  if (angle === 0) return { at, x, y }
  const [c, s] = [Math.cos(angle), Math.sin(angle)]
  return {
    at,
    x: add3(scale3(x, c), scale3(y, s)),
    y: add3(scale3(x, -s), scale3(y, c)),
  }
}

/**
 * The volume a section sweeps that stands square to its path, mm3: area times the way of its centroid. The integral of
 * 1 - (bend . centroid) along curves, less what mitres take or add on the side of the centroid (Pappus' rule for any path; the
 * integral holds as long as nothing folds).
 */
export function sweptVolume(
  path: Path,
  pieces: readonly Carrying[],
  kinks: readonly ChainFinding[],
  area: number,
  centroid: P2,
  reach: number,
  corner: 'mitre' | 'round',
): [number, number] {
  const offset = ({ x, y }: Placed): P3 => add3(scale3(x, centroid[0]), scale3(y, centroid[1]))
  const rule = gaussRule(16)
  let volume = 0
  for (const { curve, from, to, place } of pieces) {
    const spans = curve.kind === 'spline' ? 4 * curve.poles.length : 4
    for (let i = 0; i < spans; i++)
      for (const [k, node] of rule.nodes.entries()) {
        const t = (i + node) / spans
        const on = from + t * (to - from)
        const lean = dot3(bend3(curve, on), offset(place(t)))
        const way = norm3(at3(curve, on).d1) * (to - from)
        volume += (rule.weights[k]! / spans) * way * area * (1 - lean)
      }
  }
  let spread = 0
  for (const { piece, size } of kinks) {
    const [a, b] = [path.pieces[piece]!, path.pieces[(piece + 1) % path.pieces.length]!]
    const inward = unit3(sub3(way3(b, 0), way3(a, 1)))
    // Half-way of the corner the centroid is off it by so much towards the inside.
    const end = pieces.findLast((p) => p.curve === a)!.place(1)
    const side = unit3(sub3(inward, scale3(way3(a, 1), dot3(inward, way3(a, 1)))))
    volume -= 2 * area * dot3(offset(end), side) * Math.tan(size / 2)
    if (corner === 'round') spread += area * reach * (2 * Math.tan(size / 2) - size)
    // Sides of curves that are run on to a mitre are not known beforehand.
    if (a.kind !== 'line' || b.kind !== 'line') spread += area * reach * Math.tan(size / 2)
  }
  const curved = corner === 'mitre' ? spread : 0
  return [volume - spread, volume + curved]
}
