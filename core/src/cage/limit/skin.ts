import type { Cage } from '../layout'
import {
  FLAT,
  limitMask,
  limitNormal,
  type Sector,
  sectorOf,
  type Take,
  tangentMasks,
} from './limit'
import { halvedQuads, type Level, refinedLevel } from './refine'
import type { Table } from './table'

/** The limit of a cage as triangles, points parted where it is sharp so that normals are right on both sides. */
export interface CageSkin {
  positions: Float32Array
  normals: Float32Array
  triangles: Uint32Array
}

/** How often a cage of so many corners is refined at most so that its skin has no more than so many quads; once at least. */
export function levelsFor(
  { corners }: Pick<Table, 'corners'>,
  quads: number,
  most: number,
): number {
  let levels = 1
  while (levels < most && corners.length * 4 ** levels <= quads) levels++
  return levels
}

/** A skin's tables, worked out once: while only points of the cage move they stay. */
export class CageSkinner {
  private readonly tables: Table[]
  private readonly corners: { point: number; face: number; sector: Sector }[] = []
  private readonly triangles: Uint32Array
  /** Of each corner, from `starts` on: points of the finest table and what they count for in its place and its two tangents. */
  private readonly starts: Uint32Array
  private readonly points: Uint32Array
  private readonly weights: Float64Array

  /** Refined `levels` times, 1 or more. */
  constructor(table: Table, levels: number) {
    this.tables = [table]
    let level: Level = { table, at: new Float64Array(3 * table.points) }
    for (let k = 0; k < levels; k++) {
      level = refinedLevel(level)
      this.tables.push(level.table)
    }
    const t = level.table
    const numbers = new Int32Array(t.corners.length)
    for (let p = 0; p < t.points; p++) this.parted(t, p, numbers)
    ;[this.starts, this.points, this.weights] = masksOf(t, this.corners)
    this.triangles = halvedQuads(numbers)
  }

  /** Gives the corners round a point their numbers: one a sector. */
  private parted(t: Table, p: number, numbers: Int32Array): void {
    const [start, n] = [t.faceRing[p]!, t.faceRing[p + 1]! - t.faceRing[p]!]
    const done = new Uint8Array(n)
    for (let k = 0; k < n; k++) {
      if (done[k]) continue
      const face = t.pointFaces[start + k]!
      const sector = sectorOf(t, p, face)
      const { from, count } = sector
      const number = this.corners.push({ point: p, face, sector }) - 1
      for (let i = 0; i < count; i++) {
        const at = (from + i) % n
        done[at] = 1
        const f = t.pointFaces[start + at]!
        for (let c = 4 * f; c < 4 * f + 4; c++) if (t.corners[c] === p) numbers[c] = number
      }
    }
  }

  /** The skin where the cage's points lie so. */
  skin(cage: Pick<Cage, 'at'>): CageSkin {
    let level: Level = { table: this.tables[0]!, at: cage.at }
    for (const child of this.tables.slice(1)) level = refinedLevel(level, child)
    const count = this.corners.length
    const positions = new Float32Array(3 * count)
    const normals = new Float32Array(3 * count)
    const { starts, points, weights } = this
    const normal = new Float64Array(3)
    const { at } = level
    for (let k = 0; k < count; k++) {
      let [px, py, pz, ax, ay, az, bx, by, bz] = [0, 0, 0, 0, 0, 0, 0, 0, 0]
      for (let i = starts[k]!; i < starts[k + 1]!; i++) {
        const q = 3 * points[i]!
        const [x, y, z] = [at[q]!, at[q + 1]!, at[q + 2]!]
        const [p, a, b] = [weights[3 * i]!, weights[3 * i + 1]!, weights[3 * i + 2]!]
        px += p * x
        py += p * y
        pz += p * z
        ax += a * x
        ay += a * y
        az += a * z
        bx += b * x
        by += b * y
        bz += b * z
      }
      positions[3 * k] = px
      positions[3 * k + 1] = py
      positions[3 * k + 2] = pz
      const [x, y, z] = [ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx]
      const size = Math.sqrt(x * x + y * y + z * z)
      if (size > FLAT) {
        normals[3 * k] = x / size
        normals[3 * k + 1] = y / size
        normals[3 * k + 2] = z / size
      } else {
        const { point, face, sector } = this.corners[k]!
        limitNormal(level.table, at, point, face, normal, 0, sector)
        normals.set(normal, 3 * k)
      }
    }
    return { positions, normals, triangles: this.triangles }
  }
}

/** What points count for in each corner's place and tangents: where each begins, the points, three weights each. */
function masksOf(
  t: Table,
  corners: readonly { point: number; sector: Sector }[],
): [Uint32Array, Uint32Array, Float64Array] {
  const starts = new Uint32Array(corners.length + 1)
  // A corner counts on its point and those round it.
  const most = (p: number) =>
    1 + t.edgeRing[p + 1]! - t.edgeRing[p]! + t.faceRing[p + 1]! - t.faceRing[p]!
  const room = corners.reduce((n, { point }) => n + most(point), 0)
  const points = new Uint32Array(room)
  const weights = new Float64Array(3 * room)
  let [first, end] = [0, 0]
  const takes = [0, 1, 2].map((m) => (q: number, w: number) => {
    let i = first
    while (i < end && points[i] !== q) i++
    if (i === end) points[end++] = q
    weights[3 * i + m]! += w
  }) as [Take, Take, Take]
  for (const [k, { point, sector }] of corners.entries()) {
    first = end
    limitMask(t, point, takes[0])
    tangentMasks(t, point, sector, takes[1], takes[2])
    starts[k + 1] = end
  }
  return [starts, points, weights]
}
