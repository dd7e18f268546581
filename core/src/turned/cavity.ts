import {
  boundsOf,
  type Curve,
  endOf,
  evaluate,
  extremes,
  line,
  pointAt,
  smoothBreaks,
  startOf,
  tangentAt,
} from '../curve'
import { brent, cross, integrate, type P2, POINT } from '../math'
import { AXIS, CUT, combine, JOIN, MEET, type Region, segsOf } from '../profile'
import { FULL_TURN, isWhole, type TurnedBody } from './body'
import { sectionBounds, volumeOf } from './properties'

/** What a vessel holds: its inside up to the brim. */
export interface Cavity {
  /** Level of the brim along the axis, mm. */
  brim: number
  /** Lowest point of the inside, mm. */
  floor: number
  /** The inside as far as liquid fills it, as section regions, liquid on the left. */
  regions: Region[]
  /** Air that cannot get out from under what hangs into the inside, such as a rolled lip. */
  trapped: Region[]
}

/** Name of the free surface in a filled region. */
export const SURFACE = 'surface'
const OUTSIDE = 'outside'

/**
 * The inside of an upright vessel up to where it would run over, or null where nothing can be poured
 * into it. Hollows without a way out are no part of it.
 */
export function cavityOf(b: TurnedBody): Cavity | null {
  const known = cavities.get(b)
  if (known !== undefined) return known
  const found = findCavity(b)
  cavities.set(b, found)
  return found
}

/** Bodies never change, so what they hold is worked out once. */
const cavities = new WeakMap<TurnedBody, Cavity | null>()

function findCavity(b: TurnedBody): Cavity | null {
  if (!isWhole(b)) return null
  // What is sealed counts as filled: no level runs into it.
  const sealed = voidsOf(b)
  const solid = sealed.length > 0 ? { ...b, regions: combine(b.regions, sealed, JOIN) } : b
  for (const brim of rimLevels(solid)) {
    const inside = pockets(solid, brim)
    if (inside.length === 0) continue
    const trapped = trappedIn(inside)
    const regions = trapped.length > 0 ? combine(inside, trapped, CUT) : inside
    const floor = Math.min(...segsOf(regions).map((s) => boundsOf(s.curve).min[1]))
    return { brim, floor, regions, trapped }
  }
  return null
}

/** A slice this thin is left out above a level at which something hangs down, mm. */
const ABOVE = 1e-5

/**
 * Parts of the inside whose air is shut in by the rising liquid: above some level they hang together
 * with nothing that reaches the surface.
 */
function trappedIn(inside: readonly Region[]): Region[] {
  const { tops, tips } = turningLevels(inside)
  let out: Region[] = []
  for (const z of tips) {
    if (!tops.some((top) => top > z + ABOVE)) continue
    const box = sectionBounds({ regions: inside })
    const below = boxBelow(box.max[0] + 1, box.min[1] - 1, z + ABOVE, OUTSIDE)
    const shut = combine(inside, [below], CUT).filter((r) =>
      r.outer.every((s) => s.name !== SURFACE),
    )
    out = shut.reduce((all, r) => combine(all, [r], JOIN), out)
  }
  return out
}

/**
 * Heights at which the inside has a roof with nothing above it, and at which something hangs down into it,
 * lowest first: where its boundary (liquid on the left) turns over from rising to falling to the left, and
 * from falling to rising to the right.
 */
function turningLevels(inside: readonly Region[]): { tops: number[]; tips: number[] } {
  const tops: number[] = []
  const tips: number[] = []
  for (const loop of inside.flatMap((r) => [r.outer, ...r.holes])) {
    // Places between which the boundary only rises or only falls, with the way it leaves each.
    const steps = loop.flatMap((s) => {
      const ts = [0, ...extremes(s.curve, 1).sort((a, b) => a - b), 1]
      return ts.slice(1).map((t1, i) => ({
        from: pointAt(s.curve, ts[i]!),
        to: pointAt(s.curve, t1),
        free: s.name !== SURFACE,
        start: tangentAt(s.curve, ts[i]!),
        end: tangentAt(s.curve, t1),
      }))
    })
    const slope = (k: number) => {
      const { from, to } = steps[(k + steps.length) % steps.length]!
      return Math.abs(to[1] - from[1]) < POINT ? 0 : Math.sign(to[1] - from[1])
    }
    for (const [k, here] of steps.entries()) {
      if (slope(k) === 0) continue
      // Over level stretches to where the boundary goes on.
      let next = k + 1
      let free = true
      while (slope(next) === 0 && next < k + steps.length) {
        free &&= steps[next % steps.length]!.free
        next++
      }
      if (slope(next) !== -slope(k)) continue
      const after = steps[next % steps.length]!
      const run = after.from[0] - here.to[0]
      const left = run !== 0 ? run * slope(k) < 0 : cross(here.end, after.start) > 0
      if (slope(k) > 0 && left && free) tops.push(here.to[1])
      if (slope(k) < 0 && !left) tips.push(here.to[1])
    }
  }
  return { tops, tips: tips.sort((a, b) => a - b) }
}

const turnedVolume = (regions: readonly Region[]): number => volumeOf({ sweep: FULL_TURN, regions })

/** Air shut in under what hangs into the vessel, mm3. */
export const trappedVolume = (c: Cavity): number => turnedVolume(c.trapped)

/** Volume of the hollows that are closed all round, mm3. */
export const voidVolume = (b: TurnedBody): number => (isWhole(b) ? turnedVolume(voidsOf(b)) : 0)

/** Heights at which the outline has a local top, highest first: a brim can only be one of these. */
function rimLevels(b: TurnedBody): number[] {
  const zs: number[] = []
  for (const s of segsOf(b.regions)) {
    if (s.name === AXIS) continue
    for (const t of [0, ...extremes(s.curve, 1), 1]) zs.push(pointAt(s.curve, t)[1])
  }
  const sorted = zs.sort((p, q) => q - p)
  return sorted.filter((z, i) => i === 0 || sorted[i - 1]! - z > 10 * POINT)
}

/** Pockets below `level` that are open at the top and hold. */
function pockets(b: TurnedBody, level: number): Region[] {
  return clearBelow(b, level, SURFACE).filter((region) => {
    const found = new Set(region.outer.map((s) => s.name))
    return found.has(SURFACE) && !found.has(OUTSIDE)
  })
}

/** Closed hollows of the body: empty places with no way out. */
export function voidsOf(b: TurnedBody): Region[] {
  // Of a body all of whose loops bound it from outside and that keeps off the axis, none is closed.
  if (
    b.regions.every(
      (r) => r.holes.length === 0 && r.outer.filter((s) => s.name === AXIS).length <= 1,
    )
  )
    return []
  return clearBelow(b, sectionBounds(b).max[1] + 1, OUTSIDE).filter((region) =>
    region.outer.every((s) => s.name !== OUTSIDE),
  )
}

/** What is empty below `level` in a box round the section whose top side is named `top`. */
function clearBelow(b: TurnedBody, level: number, top: string): Region[] {
  const box = sectionBounds(b)
  const [r, low] = [box.max[0] + 1, box.min[1] - 1]
  if (level <= low) return []
  return combine([boxBelow(r, low, level, top)], b.regions, CUT)
}

/** The part of the inside that liquid standing at `level` takes up, as section regions. */
export function liquidAt(c: Cavity, level: number): Region[] {
  if (level >= c.brim) return c.regions
  if (level <= c.floor) return []
  const r = Math.max(...segsOf(c.regions).map((s) => boundsOf(s.curve).max[0])) + 1
  return combine(c.regions, [boxBelow(r, c.floor - 1, level, SURFACE)], MEET)
}

/** A box from the axis to radius r, between two heights, its top side named. */
function boxBelow(r: number, low: number, high: number, top: string): Region {
  const corners: P2[] = [
    [0, low],
    [r, low],
    [r, high],
    [0, high],
  ]
  const names = [OUTSIDE, OUTSIDE, top, AXIS]
  const outer = corners.map((p, i) => ({ curve: line(p, corners[(i + 1) % 4]!), name: names[i]! }))
  return { outer, holes: [] }
}

/** Liquid standing at `level`: volume in mm3 and height of its centre of gravity along the axis. */
export function filledTo(c: Cavity, level: number): { volume: number; centre: number } {
  let volume = 0
  let moment = 0
  for (const s of segsOf(c.regions)) {
    for (const [t0, t1] of below(s.curve, Math.min(level, c.brim))) {
      const part = (f: (p: P2, d: P2) => number) =>
        integrate(
          (t) => {
            const e = evaluate(s.curve, t)
            return f(e.p, e.d1)
          },
          t0,
          t1,
          16,
        )
      volume += Math.PI * part((p, d) => p[0] * p[0] * d[1])
      moment += Math.PI * part((p, d) => p[0] * p[0] * p[1] * d[1])
    }
  }
  return { volume, centre: volume > 0 ? moment / volume : c.floor }
}

/** Brim volume in mm3. */
export const brimVolume = (c: Cavity): number => turnedVolume(c.regions)

/** Level at which the vessel holds `volume` mm3, or null when that is more than the brim holds. */
export function levelFor(c: Cavity, volume: number): number | null {
  const full = filledTo(c, c.brim).volume
  if (volume < 0 || volume > full * (1 + 1e-12)) return null
  if (volume >= full) return c.brim
  return brent(
    (z) => filledTo(c, z).volume - volume,
    c.floor,
    c.brim,
    1e-10,
    -volume,
    full - volume,
  )
}

/** Parameter intervals (smooth ones) of the curve that lie at or below the level. */
function below(c: Curve, level: number): [number, number][] {
  const box = boundsOf(c)
  const marks = new Set(smoothBreaks(c))
  if (box.max[1] > level && box.min[1] < level) {
    const stops = [0, ...extremes(c, 1), 1].sort((a, b) => a - b)
    for (let i = 1; i < stops.length; i++) {
      const [a, d] = [stops[i - 1]!, stops[i]!]
      const f = (t: number) => pointAt(c, t)[1] - level
      const [fa, fd] = [f(a), f(d)]
      if (fa * fd < 0) marks.add(brent(f, a, d, 1e-15, fa, fd))
    }
  } else if (box.min[1] >= level && !(startOf(c)[1] === level && endOf(c)[1] === level)) return []
  const ts = [...marks].sort((a, b) => a - b)
  const out: [number, number][] = []
  for (let i = 1; i < ts.length; i++) {
    if (pointAt(c, (ts[i - 1]! + ts[i]!) / 2)[1] <= level) out.push([ts[i - 1]!, ts[i]!])
  }
  return out
}
