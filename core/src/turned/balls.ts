import { Bundle, boundsOf, type Curve, lengthOf, pointAt, smoothBreaks, tangentAt } from '../curve'
import { along, dist, dot, type P2, polar, sub, turn } from '../math'

/** A place of a boundary with the direction away from the side where balls are looked for. */
export interface Stand {
  at: P2
  out: P2
}

/** A stretch of boundary that can be walked: places by a parameter from 0 to 1, mm long. */
export interface Track {
  length: number
  /** Parameters between which the track is smooth. */
  breaks: number[]
  stand(t: number): Stand
}

/** About how far from a piece's end its outermost stand is, mm. */
const END = 3e-6

/** A curve walked along, balls on its left (side 1) or right (-1). */
export function curveTrack(curve: Curve, side: 1 | -1): Track {
  const length = lengthOf(curve)
  const end = Math.min(0.1, END / length)
  return {
    length,
    breaks: smoothBreaks(curve),
    stand(t) {
      // Just inside the ends, where the piece alone decides.
      const u = Math.min(1 - end, Math.max(end, t))
      const [x, y] = tangentAt(curve, u)
      return { at: pointAt(curve, u), out: [side * y, -side * x] }
    },
  }
}

/** A corner that points to the side of the balls: they may touch it from any direction between its faces. */
export function cornerTrack(at: P2, before: P2, after: P2, side: 1 | -1): Track {
  const from = Math.atan2(-side * before[0], side * before[1])
  const by = turn(before, after)
  return {
    length: 0,
    breaks: [0, 1],
    stand: (t) => ({ at, out: polar([0, 0], 1, from + by * t) }),
  }
}

/** Stands along a track: `each` in every smooth stretch, and both ends. */
export function parametersOf(track: Track, each: number): number[] {
  const out = [0]
  for (let i = 1; i < track.breaks.length; i++) {
    const [a, b] = [track.breaks[i - 1]!, track.breaks[i]!]
    for (let k = 1; k <= each; k++) out.push(a + ((b - a) * k) / each)
  }
  return out
}

/** A ball that touches at a stand and at `q`, a place of curve number `index`. */
export interface Ball {
  radius: number
  centre: P2
  q: P2
  index: number
}

/** A contact flatter than this against the boundary (sine of the angle) is the boundary itself. */
const LEVEL = 1e-6

/** Largest balls among the curves of a half-section, whose mirror image stands across the axis. */
export class Balls {
  readonly #bundle: Bundle
  /** Radius beyond which no ball is looked for, mm. */
  readonly reach: number

  constructor(curves: readonly Curve[]) {
    this.#bundle = new Bundle(curves)
    const boxes = curves.map(boundsOf)
    const span = (k: 0 | 1) =>
      Math.max(...boxes.map((x) => x.max[k])) - Math.min(...boxes.map((x) => x.min[k]))
    this.reach = 2 * (span(1) + 2 * Math.max(...boxes.map((x) => x.max[0])))
  }

  /** Nearest place of the curves to c, nearer than `within`, on c's side of the axis or beyond it. */
  nearest(c: P2, within: number): { d: number; q: P2; index: number } | null {
    const hit = this.#bundle.nearest(Math.abs(c[0]), c[1], within)
    if (!hit) return null
    return { d: hit.d, q: c[0] < 0 ? [-hit.p[0], hit.p[1]] : hit.p, index: hit.index }
  }

  /**
   * The shrinking ball: from radius `from`, its far side is moved to what is nearest until nothing is
   * inside. Null where nothing else is touched.
   */
  at({ at: p, out }: Stand, from = this.reach): Ball | null {
    const n: P2 = [-out[0], -out[1]]
    let rho = from
    let touch: { q: P2; index: number } | null = null
    for (let i = 0; i < 60; i++) {
      const hit = this.nearest(along(p, n, rho), rho - 1e-10)
      if (!hit || dist(hit.q, p) < 1e-7) break
      const w = sub(hit.q, p)
      const into = dot(w, n)
      if (into <= LEVEL * Math.hypot(w[0], w[1])) break
      const next = dot(w, w) / (2 * into)
      touch = hit
      if (rho - next < 1e-12) break
      rho = next
    }
    return touch && { radius: rho, centre: along(p, n, rho), q: touch.q, index: touch.index }
  }
}
