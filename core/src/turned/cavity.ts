import { boundsOf, endOf, evaluate, extremes, line, pointAt, smoothBreaks, startOf } from '../curve'
import { brent, integrate, type P2, POINT } from '../math'
import { AXIS, CUT, combine, lineIntegral, MEET, type Region, segsOf } from '../profile'
import { isWhole, type TurnedBody } from './body'
import { sectionBounds } from './properties'

/** What a vessel holds: its inside up to the brim. */
export interface Cavity {
  /** Level of the brim along the axis, mm. */
  brim: number
  /** Lowest point of the inside, mm. */
  floor: number
  /** The inside as section regions, material (liquid) on the left. */
  regions: Region[]
}

/** Name of the free surface in a filled region. */
export const SURFACE = 'surface'
const OUTSIDE = 'outside'

/**
 * The inside of an upright vessel up to where it would run over, or null where the body holds
 * nothing. Hollows without a way up are not counted.
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
  for (const brim of rimLevels(b)) {
    const regions = pockets(b, brim)
    if (regions.length === 0) continue
    const floor = Math.min(...segsOf(regions).map((s) => boundsOf(s.curve).min[1]))
    return { brim, floor, regions }
  }
  return null
}

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
export const brimVolume = (c: Cavity): number =>
  Math.PI *
  segsOf(c.regions).reduce((sum, s) => sum + lineIntegral(s.curve, (p, d) => p[0] * p[0] * d[1]), 0)

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
function below(c: Parameters<typeof pointAt>[0], level: number): [number, number][] {
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
