import { add3, after, dot3, type Motion, norm3, type P3, scale3, shift, sub3 } from '../math'
import {
  type Basis,
  basisOf,
  type Curve3,
  countOf,
  type Patch,
  place3,
  through3,
  Way,
} from '../surface'
import { tracked } from './carried'
import { EvenFrames, type Moving } from './frames'

/** Spans of the skin along each piece of its centre line at first. */
const SPANS = 6
/** Looks along a centre line for the place nearest to a section. */
const LOOKS = 400

/** Poles of one side of a skin's sections over one basis. */
export interface SideRows {
  basis: Basis
  rows: readonly (readonly P3[])[]
}

/** The shares of a chain's length at which it comes nearest to places. */
export function nearestShares(centre: readonly Curve3[], places: readonly P3[]): number[] {
  const way = new Way(centre)
  return places.map((p) => {
    const off = (s: number) => norm3(sub3(way.place(s), p))
    let best = 0
    for (let k = 1; k <= LOOKS; k++) if (off(k / LOOKS) < off(best / LOOKS)) best = k
    let [lo, hi] = [Math.max(0, (best - 1) / LOOKS), Math.min(1, (best + 1) / LOOKS)]
    for (let k = 0; k < 60; k++) {
      const [a, b] = [lo + (hi - lo) / 3, hi - (hi - lo) / 3]
      if (off(a) < off(b)) hi = b
      else lo = a
    }
    // An end that is as near as what was closed in on is the place.
    return [0, 1].find((s) => off(s) <= off((lo + hi) / 2) + 1e-9) ?? (lo + hi) / 2
  })
}

/**
 * The skin through sections that goes from each to the next as its centre line does: every section keeps its place against a frame
 * that turns least along that, and between them runs over smoothly. `shares` (rising) tell where the sections stand on it. A patch a
 * side, v from the first section to the last, within 1e-5 mm.
 */
export function centred(
  sides: readonly SideRows[],
  centre: readonly Curve3[],
  shares: readonly number[],
): Patch[] {
  const way = new Way(centre)
  const frames = new EvenFrames(centre, [0, 0, 1])
  const frameAt = (share: number): Moving => {
    const { curve, t } = way.at(share)
    return frames.at(curve, t)
  }
  const [from, to] = [shares[0]!, shares[shares.length - 1]!]
  const span = to - from
  const params = shares.map((s) => (s - from) / span)
  const stood = shares.map(frameAt)
  const degree = Math.min(3, shares.length - 1)
  const moving = sides.map(({ rows }) =>
    rows[0]!.map((_, i) =>
      through3(
        rows.map((row, k) => against(stood[k]!, row[i]!)),
        degree,
        {},
        params,
      ),
    ),
  )
  // Where pieces of the centre line join, its bend may jump, and with it how fast the skin runs beside it: a face ends there. Where
  // sections stand, only the change of curvature jumps.
  const joints = way.starts.map((s) => ({ at: (s - from) / span, times: 5 }))
  const stands = degree < 3 ? [] : params.map((at) => ({ at, times: 3 }))
  const basis = spanned([...joints, ...stands])
  return sides.map((side, k) => {
    const tracks = tracked(
      basis,
      (v) => {
        const f = frameAt(from + v * span)
        return moving[k]!.map((c) => placed(f, place3(c, v)))
      },
      (off) => Math.max(...off),
    )
    const nv = countOf(tracks.basis)
    const poles = new Float64Array(3 * tracks.curves.length * nv)
    for (const [i, c] of tracks.curves.entries())
      for (const [j, p] of c.poles.entries()) poles.set(p, 3 * (i * nv + j))
    return { u: side.basis, v: tracks.basis, poles }
  })
}

/**
 * Motions that bring what stands at some shares of a chain to where it would stand, and how it would be turned, if the chain were
 * straight and ran up from the origin.
 */
export function straightened(centre: readonly Curve3[], shares: readonly number[]): Motion[] {
  const way = new Way(centre)
  const frames = new EvenFrames(centre, [0, 0, 1])
  return shares.map((s) => {
    const { curve, t } = way.at(s)
    const f = frames.at(curve, t)
    const m: Motion['m'] = [f.x, f.y, f.t]
    return after(after(shift(scale3(f.at, -1)), { m, t: [0, 0, 0] }), shift([0, 0, s * way.length]))
  })
}

/** A basis of degree 5 with knots of so many times at some places, and spans between them. */
function spanned(held: readonly { at: number; times: number }[]): Basis {
  const inside = held.filter((h) => h.at > 1e-6 && h.at < 1 - 1e-6).sort((a, b) => a.at - b.at)
  // Of two at one place the one that lets more pass counts.
  const knots = inside.filter(
    (h) =>
      !inside.some(
        (o) =>
          Math.abs(o.at - h.at) < 1e-6 &&
          (o.times > h.times || (o.times === h.times && o.at < h.at)),
      ),
  )
  const ends = [0, ...knots.map((k) => k.at), 1]
  const between = ends.slice(1).flatMap((b, i) => {
    const a = ends[i]!
    return Array.from({ length: SPANS - 1 }, (_, k) => ({ at: a + ((k + 1) / SPANS) * (b - a) }))
  })
  return basisOf(
    5,
    [...between, ...knots].sort((a, b) => a.at - b.at),
  )
}

/** A place as it is seen from a frame: to the right, up, ahead. */
function against(f: Moving, p: P3): P3 {
  const d = sub3(p, f.at)
  return [dot3(d, f.x), dot3(d, f.y), dot3(d, f.t)]
}

const placed = (f: Moving, [x, y, t]: P3): P3 =>
  add3(f.at, add3(scale3(f.x, x), add3(scale3(f.y, y), scale3(f.t, t))))
