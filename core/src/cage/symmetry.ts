import { type P3, placeAt } from '../math'
import { type Cage, edgeKey, edgesOf, neighbours } from './layout'

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

/** Whether a motion turns right into left. */
export const mirrored = (m: Linear): boolean =>
  m[0]! * (m[4]! * m[8]! - m[5]! * m[7]!) -
    m[1]! * (m[3]! * m[8]! - m[5]! * m[6]!) +
    m[2]! * (m[3]! * m[7]! - m[4]! * m[6]!) <
  0

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
  /** The points that count as there, the nearest first. */
  near(place: P3): number[] {
    const found: [number, number][] = []
    for (let which = 0; which < 8; which++)
      for (const p of this.cells.get(this.key(place, which)) ?? []) {
        const q = placeAt(this.at, p)
        const d = Math.hypot(q[0] - place[0], q[1] - place[1], q[2] - place[2])
        if (d <= this.size) found.push([p, d])
      }
    return found.sort((a, b) => a[1] - b[1]).map(([p]) => p)
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
 * How the motions of a symmetry permute a cage; points in `free` belong to none. Points that were there `before` go where they went then,
 * others to those at their place; where several lie in one place, to the one whose neighbours theirs go to. Where the cage has not that
 * symmetry, the places that have no partner within `near` mm.
 */
export function orbitsOf(
  { layout, at }: Cage,
  symmetry: Symmetry,
  free: ReadonlySet<number> = new Set(),
  near = samePlace(at),
  before?: { cage: Cage; orbits: Orbits },
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
  const beside = lazily(() => neighbours({ layout }))
  const kept = before && keptPartners({ layout, at }, before)
  for (const [k, m] of motions.entries()) {
    const points = Int32Array.from(own)
    const several: [number, number[]][] = []
    for (const p of bound) {
      const there = finder.near(applied(m, placeAt(at, p)))
      if (there.length === 0) return { without: [placeAt(at, p)] }
      const known = kept?.(k, p) ?? -1
      if (there.includes(known)) points[p] = known
      else if (there.length === 1) points[p] = there[0]!
      else several.push([p, there])
    }
    const open = new Set(several.map(([p]) => p))
    for (const [p, there] of several) {
      const want = beside()[p]!.flatMap((q) => (open.has(q) ? [] : [points[q]!]))
      const shared = (q: number) => beside()[q]!.filter((x) => want.includes(x)).length
      points[p] = there.reduce((a, b) => (shared(b) > shared(a) ? b : a))
      open.delete(p)
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

/** Of a motion by number, where a point of a cage that was there before went then; -1 for new ones. */
function keptPartners({ layout }: Cage, { cage, orbits }: { cage: Cage; orbits: Orbits }) {
  const was = new Map(cage.layout.points.map((name, p) => [name, p]))
  const now = new Map(layout.points.map((name, p) => [name, p]))
  return (k: number, p: number): number => {
    const old = was.get(layout.points[p]!)
    return old === undefined ? -1 : (now.get(cage.layout.points[orbits.points[k]![old]!]!) ?? -1)
  }
}

function lazily<T extends object>(make: () => T): () => T {
  let made: T | undefined
  return () => (made ??= make())
}

/** The same symmetry of a cage after some of its points were let go. */
export function letGoOf({ layout }: Cage, orbits: Orbits, free: ReadonlySet<number>): Orbits {
  const points = orbits.points.map((of) => of.map((q, p) => (free.has(p) ? p : q)))
  const faces = orbits.faces.map((of) =>
    of.map((g, f) => (layout.faces[f]!.corners.some((p) => free.has(p)) ? f : g)),
  )
  return { ...orbits, points, faces, free }
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

/** What was moved on all copies: how far the points went at most, and which are asked to go two ways, mm apart at most. */
export interface MovedAlike {
  cage: Cage
  most: number
  apart: { by: number; points: number[] }
}

/**
 * Moves points by what `by` says of each, all copies alike. What a point is asked that some motion leaves where it is, is what that
 * motion leaves of it, so that nothing leaves a mirror plane; where copies ask for different ways it goes the mean of them, and is told.
 */
export function movedAlike(
  { layout, at }: Cage,
  { motions, points, free }: Orbits,
  by: ReadonlyMap<number, P3>,
): MovedAlike {
  const n = layout.points.length
  const sum = new Float64Array(at.length)
  const count = new Int32Array(n)
  // Of each point the first way it is asked, by whom, and whether others ask differently.
  const first = new Float64Array(at.length)
  const apart = new Float64Array(n)
  for (const [p, d] of by) {
    // What each copy is asked: the mean over the motions that lead there.
    const asked = new Map<number, { way: [number, number, number]; times: number }>()
    for (const [k, m] of motions.entries()) {
      if (k > 0 && free.has(p)) continue
      const q = points[k]![p]!
      const own = asked.get(q) ?? { way: [0, 0, 0], times: 0 }
      const v = applied(m, d)
      for (let c = 0; c < 3; c++) own.way[c as 0]! += v[c]!
      own.times++
      asked.set(q, own)
    }
    for (const [q, { way, times }] of asked) {
      const v = way.map((x) => x / times)
      if (count[q] === 0) first.set(v, 3 * q)
      const off = Math.hypot(...v.map((x, c) => x - first[3 * q + c]!))
      apart[q] = Math.max(apart[q]!, off)
      for (let c = 0; c < 3; c++) sum[3 * q + c]! += v[c]!
      count[q]!++
    }
  }
  const out = at.slice()
  let most = 0
  for (let p = 0; p < n; p++) {
    if (count[p] === 0) continue
    const v = [0, 1, 2].map((c) => sum[3 * p + c]! / count[p]!)
    most = Math.max(most, Math.hypot(v[0]!, v[1]!, v[2]!))
    for (let c = 0; c < 3; c++) out[3 * p + c]! += v[c]!
  }
  const two = apart.reduce((a, b) => Math.max(a, b), 0)
  const torn = Array.from(apart.keys()).filter((p) => apart[p]! > two / 2)
  return { cage: { layout, at: out }, most, apart: { by: two, points: two > 0 ? torn : [] } }
}
