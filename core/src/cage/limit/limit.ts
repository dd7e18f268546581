import { dartOf, type Mask, sideOf } from './eigen'
import { acrossEdge, ruleOf } from './refine'
import { lastCorner, nextCorner, type Table } from './table'

/** Takes what a point of the table counts for in a sum. */
export type Take = (point: number, weight: number) => void

/**
 * What the points of a table of quads count for in where point p ends when it is refined for ever: what is sharp now counts as
 * sharp for ever. Halstead, Kass and DeRose, Efficient, fair interpolation using Catmull-Clark surfaces (1993).
 */
export function limitMask(t: Table, p: number, take: Take): void {
  const rule = ruleOf(t, p)
  const n = t.faceRing[p + 1]! - t.faceRing[p]!
  const sharp = rule === 0 ? sharpAt(t, p) : -1
  if (sharp >= 0) {
    roundMask(t, p, sharp, dartOf(n).limit, take)
    return
  }
  const [own, edge, face] =
    rule === 3
      ? [1, 0, 0]
      : rule === 2
        ? [2 / 3, 1 / 6, 0]
        : [n / (n + 5), 4 / (n * (n + 5)), 1 / (n * (n + 5))]
  take(p, own)
  if (edge > 0)
    for (let k = t.edgeRing[p]!; k < t.edgeRing[p + 1]!; k++) {
      const e = t.pointEdges[k]!
      if (rule === 2 && !(t.edgeSharp[e]! > 0)) continue
      take(acrossEdge(t, e, p), edge)
    }
  if (face > 0)
    for (let k = t.faceRing[p]!; k < t.faceRing[p + 1]!; k++)
      take(oppositeIn(t, t.pointFaces[k]!, p), face)
}

/** Which of the edges round an inner point is sharp, the first of them; -1 where none is. */
function sharpAt(t: Table, p: number): number {
  for (let k = t.edgeRing[p]!; k < t.edgeRing[p + 1]!; k++)
    if (t.edgeSharp[t.pointEdges[k]!]! > 0) return k - t.edgeRing[p]!
  return -1
}

/** A mask laid round a point, or over a side of it, from its edge `from` on. */
function roundMask(
  t: Table,
  p: number,
  from: number,
  { own, edges, faces }: Mask,
  take: Take,
): void {
  const n = t.faceRing[p + 1]! - t.faceRing[p]!
  take(p, own)
  for (const [k, w] of edges.entries()) take(acrossEdge(t, edgeIn(t, p, from + k), p), w)
  for (const [k, w] of faces.entries())
    take(oppositeIn(t, t.pointFaces[t.faceRing[p]! + ((from + k) % n)]!, p), w)
}

/** Where point p of a table of quads ends when it is refined for ever, put at 3 `to` of `out`. */
export function limitPoint(
  t: Table,
  at: Float64Array,
  p: number,
  out: Float64Array,
  to: number,
): void {
  ta.fill(0)
  limitMask(t, p, (q, w) => addTo(ta, at, q, w))
  out.set(ta, 3 * to)
}

/** The point of a quad over from p. */
function oppositeIn(t: Table, f: number, p: number): number {
  const a = t.faceStart[f]!
  for (let i = 0; i < 4; i++) if (t.corners[a + i] === p) return t.corners[a + ((i + 2) & 3)]!
  throw new Error('the point is none of the face')
}

/** The corner of face f at point p. */
function cornerAt(t: Table, f: number, p: number): number {
  for (let c = t.faceStart[f]!; c < t.faceStart[f + 1]!; c++) if (t.corners[c] === p) return c
  throw new Error('the point is none of the face')
}

/** Faces round a point from one sharp edge to the next: places in its ring, the last one counted over the end of the ring. */
export interface Sector {
  from: number
  count: number
  /** Whether it goes all round, nothing sharp parting it. */
  round: boolean
}

/** The sector of point p that holds face f. */
export function sectorOf(t: Table, p: number, f: number): Sector {
  const [start, n] = [t.faceRing[p]!, t.faceRing[p + 1]! - t.faceRing[p]!]
  const edges = t.edgeRing[p]!
  let k = 0
  while (t.pointFaces[start + k] !== f) k++
  let from = k
  for (let i = 0; i < n; i++) {
    if (t.edgeSharp[t.pointEdges[edges + from]!]! > 0) {
      let count = 1
      while (count < n && !(t.edgeSharp[edgeIn(t, p, from + count)]! > 0)) count++
      return { from, count, round: false }
    }
    from = (from + n - 1) % n
  }
  return { from: 0, count: n, round: true }
}
/** The k-th edge round a point, counted on over the end of its ring. */
function edgeIn(t: Table, p: number, k: number): number {
  const n = t.edgeRing[p + 1]! - t.edgeRing[p]!
  return t.pointEdges[t.edgeRing[p]! + (k % n)]!
}

/** Tangents whose cross product is shorter than this (mm2) tell no normal. */
export const FLAT = 1e-14
const [ta, tb] = [new Float64Array(3), new Float64Array(3)]
const addTo = (to: Float64Array, at: Float64Array, p: number, w: number): void => {
  for (let d = 0; d < 3; d++) to[d]! += w * at[3 * p + d]!
}

/** Cosines and sines of whole shares of a turn, by how many shares it has. */
const rounds: { cos: Float64Array; sin: Float64Array }[] = []
function roundOf(n: number): { cos: Float64Array; sin: Float64Array } {
  let known = rounds[n]
  if (!known) {
    const of = (f: (x: number) => number) =>
      Float64Array.from({ length: n + 1 }, (_, k) => f((2 * Math.PI * k) / n))
    known = { cos: of(Math.cos), sin: of(Math.sin) }
    rounds[n] = known
  }
  return known
}

/**
 * What points count for in two directions along the limit at point p within a sector, whose cross product looks out; no weights
 * where the point is a corner. Round a smooth point by the tangent masks of Halstead and others; where a sharp edge ends and on a side
 * of a crease by those of `eigen.ts`; a single face on a side of a crease is told by its corners.
 */
export function tangentMasks(t: Table, p: number, sector: Sector, first: Take, second: Take): void {
  const { from, count, round } = sector
  const n = t.faceRing[p + 1]! - t.faceRing[p]!
  const faceAt = (k: number) => t.pointFaces[t.faceRing[p]! + (k % n)]!
  const endOf = (k: number) => acrossEdge(t, edgeIn(t, p, k), p)
  const rule = ruleOf(t, p)
  if (round || rule === 0) {
    const sharp = sharpAt(t, p)
    const { cos, sin } = roundOf(n)
    const c = cos[1]!
    const a = 1 + c + Math.cos(Math.PI / n) * Math.sqrt(2 * (9 + c))
    if (sharp >= 0) roundMask(t, p, sharp, dartOf(n).towards, first)
    for (let k = 0; k < n; k++) {
      const at = Math.max(sharp, 0) + k
      const edge = endOf(at)
      const face = oppositeIn(t, faceAt(at), p)
      if (sharp < 0) {
        first(edge, a * cos[k]!)
        first(face, cos[k]! + cos[k + 1]!)
      }
      second(edge, a * sin[k]!)
      second(face, sin[k]! + sin[k + 1]!)
    }
  } else if (rule === 2 && count > 1) {
    const { along, across } = sideOf(count)
    roundMask(t, p, from, along, first)
    roundMask(t, p, from, across, second)
  } else if (rule === 2) {
    const [start, end] = [endOf(from), endOf(from + 1)]
    first(start, 1)
    first(end, -1)
    second(oppositeIn(t, faceAt(from), p), 1)
    second(start, 1)
    second(end, 1)
    second(p, -3)
  }
}

/** The unit normal of the limit at point p within the sector of face f, put at 3 `to` of `out`. */
export function limitNormal(
  t: Table,
  at: Float64Array,
  p: number,
  f: number,
  out: Float64Array,
  to: number,
  sector: Sector = sectorOf(t, p, f),
): void {
  ta.fill(0)
  tb.fill(0)
  tangentMasks(
    t,
    p,
    sector,
    (q, w) => addTo(ta, at, q, w),
    (q, w) => addTo(tb, at, q, w),
  )
  let [x, y, z] = [
    ta[1]! * tb[2]! - ta[2]! * tb[1]!,
    ta[2]! * tb[0]! - ta[0]! * tb[2]!,
    ta[0]! * tb[1]! - ta[1]! * tb[0]!,
  ]
  // At a corner, and where tangents fall together: the faces of the sector, each by its own.
  if (!(Math.hypot(x, y, z) > FLAT)) {
    x = y = z = 0
    const n = t.faceRing[p + 1]! - t.faceRing[p]!
    for (let k = 0; k < sector.count; k++) {
      const c = cornerAt(t, t.pointFaces[t.faceRing[p]! + ((sector.from + k) % n)]!, p)
      const [q, r] = [3 * t.corners[nextCorner(t, c)]!, 3 * t.corners[lastCorner(t, c)]!]
      const d = (s: number, i: number) => at[s + i]! - at[3 * p + i]!
      x += d(q, 1) * d(r, 2) - d(q, 2) * d(r, 1)
      y += d(q, 2) * d(r, 0) - d(q, 0) * d(r, 2)
      z += d(q, 0) * d(r, 1) - d(q, 1) * d(r, 0)
    }
  }
  const size = Math.hypot(x, y, z) || 1
  out[3 * to] = x / size
  out[3 * to + 1] = y / size
  out[3 * to + 2] = z / size
}
