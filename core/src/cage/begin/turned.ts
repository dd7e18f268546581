import { angle3, type P3, sub3 } from '../../math'
import { type Curve3, Way, way3 } from '../../surface'
import { creased } from '../edit/edges'
import type { Cage } from '../layout'
import { throughPlaces } from '../through'
import { startCylinder } from './start'

/** What lies this near to the axis is on it, mm. */
const ON_AXIS = 1e-6
/** Where an outline runs into the axis, the last ring stands so far of a band before it. */
const BEFORE_POLE = 0.45

/**
 * A cage about z whose limit runs through places of an outline in the x z plane, from one end to the other; rows at its corners are
 * creased, others stand at even lengths between. An end on the axis is shut by one face: a flat one where the outline runs straight and
 * level to it.
 */
export function startTurned(outline: readonly Curve3[], columns: number, bands: number): Cage {
  const [first, last] = [outline[0]!, outline[outline.length - 1]!]
  const flat = [flatEnd(first, 0), outline.length > 1 && flatEnd(last, 1)] as const
  const pieces = outline.slice(flat[0] ? 1 : 0, flat[1] ? -1 : undefined)
  const way = new Way(pieces)
  const corners = way.starts.slice(1, -1).filter((_, i) => turns(pieces[i]!, pieces[i + 1]!))
  const stops = [0, ...corners, 1]
  const shares: number[] = []
  const sharp: number[] = []
  for (let k = 1; k < stops.length; k++) {
    const [from, to] = [stops[k - 1]!, stops[k]!]
    const count = Math.max(1, Math.round((to - from) * bands))
    if (k > 1) sharp.push(shares.length)
    for (let i = 0; i < count; i++) shares.push(from + ((to - from) * i) / count)
  }
  shares.push(1)
  const poles = [first, last].map((_, k) => {
    const [x] = way.place(k)
    return !flat[k] && x < ON_AXIS
  })
  const n = shares.length
  if (poles[0]) shares[0] = BEFORE_POLE * shares[1]!
  if (poles[1]) shares[n - 1] = 1 - BEFORE_POLE * (1 - shares[n - 2]!)
  const goals = shares.map((s) => way.place(s))
  const ends = [0, ...sharp, n - 1]
  const points = ends
    .slice(1)
    .flatMap((end, k) => throughPlaces(goals.slice(ends[k], end + 1), false).slice(k && 1))
  // A ring of cubic curves lies within the polygon of its points.
  const wide = 6 / (4 + 2 * Math.cos((2 * Math.PI) / columns))
  const shut = { floor: flat[0] || poles[0]!, lid: flat[1] || poles[1]! }
  const cage = startCylinder(
    columns,
    points.map(([x, , z]) => ({ radius: x * wide, z })),
    shut,
  )
  const rims = [...sharp, ...(flat[0] ? [0] : []), ...(flat[1] ? [n - 1] : [])]
  const edges = rims.flatMap((r) => {
    const ring = cage.layout.rows[r]!.points
    return ring.map((p, i) => [p, ring[(i + 1) % ring.length]!] as [number, number])
  })
  return creased(cage, edges, [], 10)
}

/** Outlines turn by more than this at a corner, rad (15 deg). */
const CORNER = 0.26
/** Whether there is a corner from one piece of an outline to the next. */
export const turns = (a: Curve3, b: Curve3): boolean => angle3(way3(a, 1), way3(b, 0)) > CORNER

/** Whether a piece runs straight and level from or to the axis. */
function flatEnd(c: Curve3, end: 0 | 1): boolean {
  if (c.kind !== 'line') return false
  const [on, rim] = end === 0 ? [c.a, c.b] : [c.b, c.a]
  const way: P3 = sub3(rim, on)
  return on[0] < ON_AXIS && Math.abs(way[2]) < ON_AXIS && way[0] > ON_AXIS
}
