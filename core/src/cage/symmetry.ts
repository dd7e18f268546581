import { type P3, placeAt } from '../math'
import { type Cage, edgeKey, edgesOf } from './layout'

/** What maps a form onto itself: turns about z and mirror planes through the origin. */
export interface Symmetry {
  /** How many turns make a whole one; 1 is none. */
  turns: number
  /** Whether x, y, z may change sign. */
  mirrors: readonly (0 | 1 | 2)[]
}

/** Nine numbers, row by row: where a motion about the origin takes x, y, z. */
export type Linear = readonly number[]
export const applied = (m: Linear, p: P3): P3 => [
  m[0]! * p[0] + m[1]! * p[1] + m[2]! * p[2],
  m[3]! * p[0] + m[4]! * p[1] + m[5]! * p[2],
  m[6]! * p[0] + m[7]! * p[1] + m[8]! * p[2],
]
const times = (a: Linear, b: Linear): Linear =>
  Array.from({ length: 9 }, (_, k) => {
    const [i, j] = [3 * Math.floor(k / 3), k % 3]
    return a[i]! * b[j]! + a[i + 1]! * b[j + 3]! + a[i + 2]! * b[j + 6]!
  })
const SAME: Linear = [1, 0, 0, 0, 1, 0, 0, 0, 1]
const alike = (a: Linear, b: Linear): boolean => a.every((x, k) => Math.abs(x - b[k]!) < 1e-9)

/** All motions of a symmetry, the first leaving everything where it is. */
export function motionsOf({ turns, mirrors }: Symmetry): Linear[] {
  const [c, s] = [Math.cos((2 * Math.PI) / turns), Math.sin((2 * Math.PI) / turns)]
  const first: Linear[] = turns > 1 ? [[c, -s, 0, s, c, 0, 0, 0, 1]] : []
  for (const k of mirrors) first.push(SAME.map((x, i) => (i === 4 * k ? -x : x)))
  const all = [SAME]
  for (const m of all)
    for (const g of first) {
      const next = times(g, m)
      if (!all.some((a) => alike(a, next))) all.push(next)
    }
  return all
}

/** Places this much nearer than a cage is large are one. */
const SAME_PLACE = 1e-6

/** Finds the point at a place. */
class Finder {
  private readonly cells = new Map<string, number[]>()
  private readonly at: Float64Array
  private readonly size: number
  constructor(at: Float64Array, points: Iterable<number>, size: number) {
    this.at = at
    this.size = size
    for (const p of points) {
      const key = this.key(placeAt(at, p), 0)
      this.cells.set(key, [...(this.cells.get(key) ?? []), p])
    }
  }
  /** Which of the eight cells about a place: they are twice as wide as what counts as one. */
  private key([x, y, z]: P3, which: number): string {
    const cell = (v: number, up: number) => {
      const f = v / (2 * this.size)
      const i = Math.floor(f)
      return up ? (f - i < 0.5 ? i - 1 : i + 1) : i
    }
    return `${cell(x, which & 1)} ${cell(y, which & 2)} ${cell(z, which & 4)}`
  }
  /** The nearest point to a place that counts as there; -1 where there is none. */
  near(place: P3): number {
    let [found, least] = [-1, this.size]
    for (let which = 0; which < 8; which++)
      for (const p of this.cells.get(this.key(place, which)) ?? []) {
        const q = placeAt(this.at, p)
        const d = Math.hypot(q[0] - place[0], q[1] - place[1], q[2] - place[2])
        if (d <= least) [found, least] = [p, d]
      }
    return found
  }
}

/** How a symmetry moves the points and faces of a cage. */
export interface Orbits {
  readonly motions: readonly Linear[]
  /** Of each motion, the point every point goes to; points that were let go stay. */
  readonly points: readonly Int32Array[]
  readonly faces: readonly Int32Array[]
  readonly free: ReadonlySet<number>
}

/**
 * How the motions of a symmetry permute a cage; points in `free` belong to none. Where the cage has not that symmetry, the places
 * that have no partner within `near` mm.
 */
export function orbitsOf(
  { layout, at }: Cage,
  symmetry: Symmetry,
  free: ReadonlySet<number> = new Set(),
  near = samePlace(at),
): Orbits | { without: P3[] } {
  const motions = motionsOf(symmetry)
  const own = layout.points.map((_, p) => p)
  if (motions.length === 1) {
    const faces = Int32Array.from(layout.faces, (_, f) => f)
    return { motions, points: [Int32Array.from(own)], faces: [faces], free }
  }
  const bound = own.filter((p) => !free.has(p))
  const finder = new Finder(at, bound, near)
  const faceKey = (corners: readonly number[]) => [...corners].sort((a, b) => a - b).join(' ')
  const faces = new Map(layout.faces.map((f, i) => [faceKey(f.corners), i]))
  const out = { motions, points: [] as Int32Array[], faces: [] as Int32Array[], free }
  for (const m of motions) {
    const points = Int32Array.from(own)
    for (const p of bound) {
      const q = finder.near(applied(m, placeAt(at, p)))
      if (q === -1) return { without: [placeAt(at, p)] }
      points[p] = q
    }
    const moved = Int32Array.from(layout.faces, (f, i) => {
      if (f.corners.some((p) => free.has(p))) return i
      return faces.get(faceKey(f.corners.map((p) => points[p]!))) ?? -1
    })
    const lost = moved.indexOf(-1)
    if (lost !== -1) return { without: layout.faces[lost]!.corners.map((p) => placeAt(at, p)) }
    out.points.push(points)
    out.faces.push(moved)
  }
  return out
}

const samePlace = (at: Float64Array): number =>
  (at.reduce((most, x) => Math.max(most, Math.abs(x)), 0) || 1) * SAME_PLACE

/** What share of the shortest edge points may be off where their copies belong, so that they are told apart. */
const TOLD_APART = 0.4

/**
 * A cage that has a symmetry nearly, made to have it: each point goes to the mean of where its copies would have it. Tells how far points
 * went, mm, at most and in the mean; null where it has not that symmetry however roughly.
 */
export function madeAlike(
  { layout, at }: Cage,
  symmetry: Symmetry,
): { cage: Cage; most: number; mean: number } | null {
  let shortest = Number.POSITIVE_INFINITY
  for (const [p, q] of edgesOf(layout.faces).values()) {
    const [a, b] = [placeAt(at, p), placeAt(at, q)]
    shortest = Math.min(shortest, Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]))
  }
  const orbits = orbitsOf({ layout, at }, symmetry, new Set(), TOLD_APART * shortest)
  if ('without' in orbits) return null
  const out = new Float64Array(at.length)
  for (const [k, m] of orbits.motions.entries()) {
    // Turns and mirrors about the origin are undone by their transposes.
    const back = m.map((_, i) => m[3 * (i % 3) + Math.floor(i / 3)]!)
    const share = 1 / orbits.motions.length
    for (const p of layout.points.keys()) {
      const v = applied(back, placeAt(at, orbits.points[k]![p]!))
      for (let c = 0; c < 3; c++) out[3 * p + c]! += share * v[c]!
    }
  }
  let [most, sum] = [0, 0]
  for (let p = 0; p < out.length; p += 3) {
    const d = Math.hypot(out[p]! - at[p]!, out[p + 1]! - at[p + 1]!, out[p + 2]! - at[p + 2]!)
    most = Math.max(most, d)
    sum += d
  }
  const cage = { layout, at: out }
  // Copies that were mixed up would leave it as uneven as it was.
  if ('without' in orbitsOf(cage, symmetry)) return null
  return { cage, most, mean: (3 * sum) / out.length }
}

/** All that goes with some points, or faces, by a symmetry. */
export function withCopies(permuted: readonly Int32Array[], chosen: Iterable<number>): number[] {
  const out = new Set<number>()
  for (const k of chosen) for (const p of permuted) out.add(p[k]!)
  return [...out]
}

/** All copies of edges by a symmetry, each once. */
export function edgesAlike(
  edges: readonly (readonly [number, number])[],
  { points }: Orbits,
): [number, number][] {
  const out = new Map<string, [number, number]>()
  for (const of of points)
    for (const [a, b] of edges) {
      const [p, q] = [of[a]!, of[b]!]
      if (!out.has(edgeKey(p, q))) out.set(edgeKey(p, q), [p, q])
    }
  return [...out.values()]
}

/**
 * Moves points by what `by` says of each, all copies alike: what several copies ask of one point is averaged, so that nothing leaves a
 * mirror plane. Gives the points and the largest way any went, mm.
 */
export function movedAlike(
  { layout, at }: Cage,
  { motions, points, free }: Orbits,
  by: ReadonlyMap<number, P3>,
): { cage: Cage; most: number } {
  const sum = new Float64Array(at.length)
  const count = new Int32Array(layout.points.length)
  for (const [p, d] of by)
    for (const [k, m] of motions.entries()) {
      const q = points[k]![p]!
      if (k > 0 && free.has(p)) continue
      const v = applied(m, d)
      for (let c = 0; c < 3; c++) sum[3 * q + c]! += v[c]!
      count[q]!++
    }
  const out = at.slice()
  let most = 0
  for (let p = 0; p < count.length; p++) {
    if (count[p] === 0) continue
    const v = [0, 1, 2].map((c) => sum[3 * p + c]! / count[p]!)
    most = Math.max(most, Math.hypot(v[0]!, v[1]!, v[2]!))
    for (let c = 0; c < 3; c++) out[3 * p + c]! += v[c]!
  }
  return { cage: { layout, at: out }, most }
}
