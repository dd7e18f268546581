import {
  cornersAt,
  cross3,
  dot3,
  fixed,
  norm3,
  type P3,
  placeAt,
  scale3,
  sub3,
  unit3,
} from '../math'
import { MeshTree, noHit } from '../mesh'
import type { GaugeSpec, Skin } from './spec'

/** Faces that look along the pull, or against it, are no side: their draft is not asked for, deg from 90. */
const LEVEL = 0.5
/** How far off the skin a ray begins that looks for what stands in the way, mm. */
const OFF = 1e-3

/** Areas of a skin by how it leans against the direction it is pulled in. */
export interface DraftRead {
  /** Least angle of any side, deg. */
  least: number
  at: P3
  /** mm2 that lean by less than what was asked. */
  under: number
  /** mm2 that cannot be pulled either way: something stands over them. */
  caught: number
  caughtAt: P3 | null
}

/**
 * How the sides of a skin lean against a direction it is pulled in, both ways from where it parts. The angle at each vertex is
 * that of the true surface; between, areas under `asked` (deg) are clipped within the triangles. What lies under something
 * else, seen along its pull, is found by rays from the middles of the triangles.
 */
export function readDraft(skin: Skin, pull: P3, asked: number): DraftRead {
  const { positions, normals, triangles } = skin
  const tree = new MeshTree({ positions: Float64Array.from(positions), triangles })
  const hit = noHit()
  const out: DraftRead = {
    least: Number.POSITIVE_INFINITY,
    at: [0, 0, 0],
    under: 0,
    caught: 0,
    caughtAt: null,
  }
  const lean = (v: number) =>
    (Math.asin(Math.min(1, Math.max(-1, dot3(placeAt(normals, v), pull)))) * 180) / Math.PI
  for (let t = 0; t < triangles.length / 3; t++) {
    const corners = cornersAt({ positions, triangles }, t)
    const [a, b, c] = corners
    const area = norm3(cross3(sub3(b, a), sub3(c, a))) / 2
    if (!(area > 0)) continue
    const angles = [0, 1, 2].map((k) => lean(triangles[3 * t + k]!))
    if (angles.some((x) => Math.abs(x) < 90 - LEVEL))
      for (const [k, x] of angles.entries())
        if (Math.abs(x) < out.least) {
          out.least = Math.abs(x)
          out.at = corners[k]!
        }
    out.under += area * shareUnder(angles, asked)
    const mean = (angles[0]! + angles[1]! + angles[2]!) / 3
    const way = scale3(pull, mean < 0 ? -1 : 1)
    const corner3 = [0, 1, 2].map((k) => placeAt(normals, triangles[3 * t + k]!))
    const n = unit3([0, 1, 2].map((k) => corner3.reduce((s, x) => s + x[k]!, 0)) as unknown as P3)
    const m: P3 = [0, 1, 2].map((k) => (a[k]! + b[k]! + c[k]!) / 3 + OFF * n[k]!) as unknown as P3
    if (tree.along(m[0], m[1], m[2], way[0], way[1], way[2], OFF, 1e9, hit)) {
      out.caught += area
      out.caughtAt ??= m
    }
  }
  return out
}

/** The share of a triangle in which a value that runs evenly between its corners lies within -limit and limit. */
function shareUnder(values: readonly number[], limit: number): number {
  return shareBelow(values, limit) - shareBelow(values, -limit)
}

/** The share in which it lies below a limit. */
function shareBelow(values: readonly number[], limit: number): number {
  const [a, b, c] = [...values].sort((x, y) => x - y) as [number, number, number]
  if (limit <= a) return 0
  if (limit >= c) return 1
  if (limit < b) return (limit - a) ** 2 / ((b - a) * (c - a))
  return 1 - (c - limit) ** 2 / ((c - a) * (c - b))
}

const DIRECTIONS: readonly P3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
]

export const draftGauge: GaugeSpec = {
  kind: 'draft',
  label: 'Draft',
  help: 'How the sides lean against the direction the piece leaves its mould, both ways from where it parts; flats that look along it do not count. The limit is the least lean asked for; what is caught under something else is told.',
  unit: '°',
  params: [
    { name: 'along', label: 'Along', help: '1 for x, 2 for y, 3 for z.', start: 3 },
    { name: 'asked', label: 'Asked', help: 'Degrees a side has to lean.', start: 1 },
  ],
  ofSkin(skin, params) {
    const pull = DIRECTIONS[Math.round(Number(params.along ?? 3)) - 1]
    if (!pull) return 'The piece is pulled along 1 (x), 2 (y) or 3 (z).'
    const asked = Number(params.asked ?? 1)
    if (!(asked >= 0 && asked < 90)) return 'The lean asked for lies between 0 and 90 degrees.'
    const read = readDraft(skin, pull, asked)
    const least = Number.isFinite(read.least) ? read.least : 90
    return {
      low: least,
      high: least,
      text: `${fixed(least, 2)}°`,
      rows: [
        { label: `under ${asked}°`, text: `${fixed(read.under, 1)} mm²` },
        { label: 'caught, pulls neither way', text: `${fixed(read.caught, 1)} mm²` },
      ],
      places: [
        ...(Number.isFinite(read.least) ? [{ at: read.at, label: `${fixed(least, 2)}°` }] : []),
        ...(read.caughtAt ? [{ at: read.caughtAt, label: 'caught' }] : []),
      ],
    }
  },
}
