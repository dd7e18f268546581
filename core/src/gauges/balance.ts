import { polygonArea, polygonHull } from 'd3-polygon'
import { extremes, pointAt } from '../curve'
import { cross, fixed, type P2, POINT } from '../math'
import type { TriMesh } from '../mesh'
import {
  centroidOf,
  faceSegs,
  filledTo,
  isWhole,
  sectionBounds,
  type TurnedBody,
  volumeOf,
} from '../turned'
import { WATER } from '../workpiece'
import type { GaugeSpec, SectionSubject } from './spec'

/** Radius of the ring the body stands on, mm: the widest place at its lowest level. */
export function footRadius(b: TurnedBody): number {
  const low = sectionBounds(b).min[1]
  let r = 0
  for (const s of faceSegs(b)) {
    for (const t of [0, ...extremes(s.curve, 1), 1]) {
      const p = pointAt(s.curve, t)
      if (p[1] < low + 10 * POINT) r = Math.max(r, p[0])
    }
  }
  return r
}

/** Tipping angle, rad, of a body of revolution standing on a ring: atan(foot radius / height of its centre). */
export const tippingAngle = (foot: number, height: number): number => Math.atan2(foot, height)

/** How a body stands: radius of its foot ring, height of its centre of gravity over it (mm), angle (rad). */
export interface Balance {
  foot: number
  /** Height of the lowest level along the axis, mm. */
  low: number
  empty: { height: number; angle: number }
  /** With water to the brim, taken as not spilling; null where it holds nothing or its density is open. */
  filled: { height: number; angle: number } | null
}

/** The balance of an upright whole turn, or a sentence where it has none. */
export function balanceOf({ turned, density, cavity }: SectionSubject): Balance | string {
  if (!isWhole(turned) || Math.abs(turned.frame.z[2]) < 1 - 1e-9)
    return 'Only a whole turn about an upright axis stands on a foot ring.'
  const low = sectionBounds(turned).min[1]
  const centre = centroidOf(turned)[2] - turned.frame.origin[2]
  const foot = footRadius(turned)
  if (foot < 1e-3) return 'It stands on a point, so it tips at once.'
  const stand = (height: number) => ({ height, angle: tippingAngle(foot, height) })
  const empty = stand(centre - low)
  if (!cavity || density === undefined) return { foot, low, empty, filled: null }
  const water = filledTo(cavity, cavity.brim)
  const [m, w] = [volumeOf(turned) * density, water.volume * WATER]
  return { foot, low, empty, filled: stand((m * centre + w * water.centre) / (m + w) - low) }
}

const deg = (x: number) => (x * 180) / Math.PI

export const balanceGauge: GaugeSpec = {
  kind: 'tipping',
  label: 'Tipping angle',
  help: 'How far it leans on its foot before it falls over: empty, and filled with water to the brim (taken as not spilling).',
  unit: 'deg',
  target: 'tipping',
  params: [],
  ofSection(subject) {
    const b = balanceOf(subject)
    if (typeof b === 'string') return b
    const { foot, low, empty, filled } = b
    const rows = [
      { label: 'foot ring', text: `Ø ${fixed(2 * foot, 2)} mm` },
      { label: 'centre of gravity, empty', text: `${fixed(empty.height, 2)} mm up` },
      ...(filled
        ? [
            { label: 'centre of gravity, filled', text: `${fixed(filled.height, 2)} mm up` },
            { label: 'tips when filled', text: `${fixed(deg(filled.angle), 1)} deg` },
          ]
        : []),
      { label: 'tips when empty', text: `${fixed(deg(empty.angle), 1)} deg` },
    ]
    const least = deg(Math.min(empty.angle, filled?.angle ?? empty.angle))
    return {
      low: least,
      high: least,
      text: `${fixed(least, 1)} deg`,
      rows,
      places: [
        { at: [0, low + empty.height], label: 'centre of gravity' },
        { at: [foot, low], label: 'foot' },
      ],
    }
  },
  ofSolid({ mesh, centroid }) {
    const foot = mesh && supportOf(mesh)
    if (!foot || foot.hull.length < 3) return 'It stands on a point or an edge, so it tips at once.'
    const { low, hull } = foot
    // The nearest side of what it stands on, seen from under the centre of gravity.
    let [reach, at] = [Number.POSITIVE_INFINITY, hull[0]!]
    for (const [i, a] of hull.entries()) {
      const b = hull[(i + 1) % hull.length]!
      const u: P2 = [b[0] - a[0], b[1] - a[1]]
      const d = cross(u, [centroid[0] - a[0], centroid[1] - a[1]]) / Math.hypot(...u)
      if (d < reach) [reach, at] = [d, [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2]]
    }
    if (!(reach > 0))
      return 'Its centre of gravity is not over what it stands on, so it falls over.'
    const height = centroid[2] - low
    const angle = deg(tippingAngle(reach, height))
    return {
      low: angle,
      high: angle,
      text: `${fixed(angle, 1)} deg`,
      rows: [
        { label: 'from under its centre to the nearest side', text: `${fixed(reach, 2)} mm` },
        { label: 'centre of gravity, empty', text: `${fixed(height, 2)} mm up` },
      ],
      places: [
        { at: centroid, label: 'centre of gravity' },
        { at: [at[0], at[1], low], label: 'tips here' },
      ],
    }
  },
}

/** What a mesh stands on: its lowest level and the hull of what touches that, counter-clockwise. */
function supportOf({ positions: p }: TriMesh): { low: number; hull: P2[] } {
  let low = Number.POSITIVE_INFINITY
  for (let i = 2; i < p.length; i += 3) low = Math.min(low, p[i]!)
  const touching: [number, number][] = []
  for (let i = 0; i < p.length; i += 3)
    if (p[i + 2]! < low + STANDS) touching.push([p[i]!, p[i + 1]!])
  const hull = polygonHull(touching) ?? []
  // Its order depends on where y points: here it is up.
  return { low, hull: polygonArea(hull) > 0 ? hull.reverse() : hull }
}
/** What is this near to the lowest level stands on it, mm. */
const STANDS = 1e-3
