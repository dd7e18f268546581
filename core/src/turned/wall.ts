import { boundsOf, lengthOf, nearest, pointAt, tangentAt } from '../curve'
import { along, boxDistance, dist, dot, goldenMin, left, type P2, scale, sub, unit } from '../math'
import { AXIS, type Seg, segsOf } from '../profile'
import { bodyLoops, type TurnedBody } from './body'
import { type Cavity, SURFACE, voidsOf } from './cavity'

/** Wall at a place: the diameter of the largest ball that touches the inside there. */
export interface WallSpot {
  /** On the inside. */
  at: P2
  /** The far touching point. */
  to: P2
  wall: number
}
export interface WallReading {
  min: WallSpot
  max: WallSpot
  mean: number
  /** Readings along the inside from the axis up, with the distance run (mm). */
  run: { s: number; spot: WallSpot }[]
}

/**
 * A ball counts as lying between two sides when they face each other at least this squarely (cosine
 * of 135 deg): an edge blunter than 45 deg is a rim, a sharper one is thin material.
 */
const FACING = -Math.SQRT1_2

/**
 * Wall along the section of a hollow body: at points of the inside surface the largest ball inside
 * the material that touches there, kept where it touches an opposite side (near a sharp rim it
 * touches the rim face instead, which is no wall; faces named in `rims` never count). About `total`
 * samples, spread by length. Null where nothing is hollow.
 */
export function wallAlong(
  b: TurnedBody,
  cavity: Cavity | null,
  total = 96,
  rims: ReadonlySet<string> = new Set(),
): WallReading | null {
  return wallOver(b, insideSegs(b, cavity), total, rims)
}

/** The wall as read from given pieces of the body's boundary, run so that the material is right. */
export function wallOver(
  b: TurnedBody,
  inside: readonly Seg[],
  total: number,
  rims: ReadonlySet<string>,
): WallReading | null {
  if (inside.length === 0) return null
  const faces = bodyLoops(b)
    .flat()
    .filter((s) => s.name !== AXIS)
  const reach = 2 * Math.max(...faces.map((s) => boundsOf(s.curve).max[0]), 1) * 4
  const run: WallReading['run'] = []
  let s0 = 0
  let sum = 0
  let weight = 0
  let min: Candidate | null = null
  let max: Candidate | null = null
  const lengths = inside.map((seg) => lengthOf(seg.curve))
  const whole = lengths.reduce((a, b) => a + b, 0)
  for (const [k, seg] of inside.entries()) {
    const length = lengths[k]!
    const count = Math.max(3, Math.round((total * length) / whole))
    const ts = [1e-6, ...Array.from({ length: count }, (_, i) => (i + 0.5) / count), 1 - 1e-6]
    let last = reach
    for (const [i, t] of ts.entries()) {
      // Neighbours are alike: start a little above the last ball, from afar only if nothing is met.
      const spot = ballAt(faces, seg, t, last, rims) ?? ballAt(faces, seg, t, reach, rims)
      last = spot ? Math.min(reach, spot.wall) : reach
      if (!spot) continue
      const near = { seg, spot, lo: Math.max(0, t - 1 / count), hi: Math.min(1, t + 1 / count) }
      if (!min || spot.wall < min.spot.wall) min = near
      if (!max || spot.wall > max.spot.wall) max = near
      if (i === 0 || i > count) continue
      run.push({ s: s0 + t * length, spot })
      sum += (spot.wall * length) / count
      weight += length / count
    }
    s0 += length
  }
  if (!min || !max || weight === 0) return null
  const sharpened = (c: Candidate, sign: 1 | -1) =>
    sharpen((t) => ballAt(faces, c.seg, t, reach, rims), c.lo, c.hi, c.spot, sign)
  return { min: sharpened(min, 1), max: sharpened(max, -1), mean: sum / weight, run }
}

/** An extreme reading with the stretch of its face in which the true extreme lies. */
interface Candidate {
  seg: Seg
  spot: WallSpot
  lo: number
  hi: number
}

function sharpen(
  read: (t: number) => WallSpot | null,
  lo: number,
  hi: number,
  start: WallSpot,
  sign: 1 | -1,
): WallSpot {
  const value = (t: number) => sign * (read(t)?.wall ?? sign * start.wall)
  const best = read(goldenMin(value, lo, hi, 1e-5).x)
  return best && sign * best.wall < sign * start.wall ? best : start
}

/** Pieces that bound the body's inside (the vessel's, and closed hollows), material on the right. */
export const insideSegs = (b: TurnedBody, cavity: Cavity | null): Seg[] =>
  segsOf([...(cavity?.regions ?? []), ...voidsOf(b)]).filter(
    (s) => s.name !== SURFACE && s.name !== AXIS,
  )

/** The shrinking ball: start large, move its far side to the nearest face until nothing is inside. */
function ballAt(
  faces: readonly Seg[],
  seg: Seg,
  t: number,
  reach: number,
  rims: ReadonlySet<string>,
): WallSpot | null {
  const p = pointAt(seg.curve, t)
  const n = scale(left(tangentAt(seg.curve, t)), -1)
  let rho = reach
  let touch: { q: P2; name: string } | null = null
  for (let i = 0; i < 40; i++) {
    const c = along(p, n, rho)
    const hit = nearestFace(faces, c)
    if (!hit || hit.d >= rho - 1e-9 || dist(hit.q, p) < 1e-7) break
    const w = sub(hit.q, p)
    const into = dot(w, n)
    if (into <= 1e-12) break
    const next = dot(w, w) / (2 * into)
    touch = hit
    if (rho - next < 1e-10) break
    rho = next
  }
  if (!touch || rims.has(touch.name)) return null
  const outward = unit(sub(touch.q, along(p, n, rho)))
  // Direction from the ball's centre to the far contact against the direction to p (which is -n).
  if (dot(outward, scale(n, -1)) > FACING) return null
  return { at: p, to: touch.q, wall: 2 * rho }
}

function nearestFace(faces: readonly Seg[], c: P2): { d: number; q: P2; name: string } | null {
  let best: { d: number; q: P2; name: string } | null = null
  for (const face of faces) {
    if (best && boxDistance(boundsOf(face.curve), c) >= best.d) continue
    const n = nearest(face.curve, c)
    if (!best || n.d < best.d) best = { d: n.d, q: n.p, name: face.name }
  }
  return best
}
