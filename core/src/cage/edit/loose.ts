import { type P3, placeAt } from '../../math'
import { type Cage, type CageFace, type CageRow, edgeKey, edgeOfKey, edgesOf } from '../layout'

/** A cage being changed. */
export class Loose {
  readonly points: string[]
  readonly at: P3[]
  faces: CageFace[]
  readonly creases: Map<string, number>
  readonly peaks: Map<number, number>
  rows: CageRow[]

  constructor({ layout, at }: Cage) {
    this.points = [...layout.points]
    this.at = layout.points.map((_, p) => placeAt(at, p))
    this.faces = [...layout.faces]
    this.creases = new Map(layout.creases)
    this.peaks = new Map(layout.peaks)
    this.rows = [...layout.rows]
  }

  /** A new point. */
  point(name: string, at: P3): number {
    this.points.push(name)
    this.at.push(at)
    return this.points.length - 1
  }

  /** The face whose border runs from a to b; -1 where none does. */
  faceAlong(a: number, b: number): number {
    return this.faces.findIndex(({ corners: c }) =>
      c.some((p, i) => p === a && c[(i + 1) % c.length] === b),
    )
  }

  /** Round the two faces at an edge: from b over the one that runs along it to a, then over the other. */
  roundBoth(ahead: number, back: number, a: number, b: number): number[] {
    const from = (f: number, p: number) => {
      const { corners } = this.faces[f]!
      const i = corners.indexOf(p)
      return [...corners.slice(i), ...corners.slice(0, i)].slice(0, -1)
    }
    return [...from(ahead, b), ...from(back, a)]
  }

  /** Where points become others: faces, creases and rows follow; faces that shrink to less than three corners go. */
  merge(into: ReadonlyMap<number, number>): void {
    const of = (p: number) => into.get(p) ?? p
    this.faces = this.faces.flatMap(({ name, corners }) => {
      const kept = corners.map(of).filter((p, i, all) => p !== all[(i + 1) % all.length])
      return kept.length < 3 ? [] : [{ name, corners: kept }]
    })
    const creases = [...this.creases]
    this.creases.clear()
    for (const [key, sharp] of creases) {
      const [a, b] = edgeOfKey(key).map(of) as [number, number]
      if (a !== b) this.creases.set(edgeKey(a, b), sharp)
    }
    for (const [p, q] of into) {
      const sharp = this.peaks.get(p)
      if (sharp !== undefined && p !== q) {
        this.peaks.delete(p)
        this.peaks.set(q, sharp)
      }
    }
    this.rows = this.rows.map(({ name, points }) => ({ name, points: points.map(of) }))
  }

  /** The cage, without points that no face has and creases that are on no edge. */
  cage(): Cage {
    const used = new Set(this.faces.flatMap((f) => f.corners))
    const kept = this.points.map((_, p) => p).filter((p) => used.has(p))
    const now = new Map(kept.map((p, k) => [p, k]))
    const of = (p: number) => now.get(p)!
    const faces = this.faces.map(({ name, corners }) => ({ name, corners: corners.map(of) }))
    const edges = edgesOf(faces)
    const creases = new Map<string, number>()
    for (const [key, sharp] of this.creases) {
      const [a, b] = edgeOfKey(key)
      if (!now.has(a) || !now.has(b) || sharp <= 0) continue
      const moved = edgeKey(of(a), of(b))
      if (edges.has(moved)) creases.set(moved, sharp)
    }
    const peaks = new Map<number, number>()
    for (const [p, sharp] of this.peaks) if (now.has(p) && sharp > 0) peaks.set(of(p), sharp)
    return {
      layout: {
        points: kept.map((p) => this.points[p]!),
        faces,
        creases,
        peaks,
        rows: this.rows.flatMap(({ name, points }) => {
          const still = points.filter((p) => now.has(p)).map(of)
          return still.length > 0 ? [{ name, points: still }] : []
        }),
      },
      at: Float64Array.from(kept.flatMap((p) => this.at[p]!)),
    }
  }
}
