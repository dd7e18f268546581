import type { Cage } from './layout'
import { limitNormal, limitPoint, type Sector, sectorOf } from './limit'
import { type Level, refinedLevel } from './refine'
import type { Table } from './table'

/** The limit of a cage as triangles, points parted where it is sharp so that normals are right on both sides. */
export interface CageSkin {
  positions: Float32Array
  normals: Float32Array
  triangles: Uint32Array
}

/** A skin's tables, worked out once: while only points of the cage move they stay. */
export class CageSkinner {
  private readonly tables: Table[]
  private readonly corners: { point: number; face: number; sector: Sector }[] = []
  private readonly triangles: Uint32Array

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
    this.triangles = new Uint32Array(6 * t.faces)
    for (let f = 0; f < t.faces; f++) {
      const [a, b, c, d] = [0, 1, 2, 3].map((k) => numbers[4 * f + k]!) as [
        number,
        number,
        number,
        number,
      ]
      this.triangles.set([a, b, c, a, c, d], 6 * f)
    }
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
  skin({ at }: Pick<Cage, 'at'>): CageSkin {
    let level: Level = { table: this.tables[0]!, at }
    for (const child of this.tables.slice(1)) level = refinedLevel(level, child)
    const count = this.corners.length
    const positions = new Float32Array(3 * count)
    const normals = new Float32Array(3 * count)
    const out = new Float64Array(3)
    for (let k = 0; k < count; k++) {
      const { point, face, sector } = this.corners[k]!
      limitPoint(level.table, level.at, point, out, 0)
      positions.set(out, 3 * k)
      limitNormal(level.table, level.at, point, face, out, 0, sector)
      normals.set(out, 3 * k)
    }
    return { positions, normals, triangles: this.triangles }
  }
}
