import { acrossEdge, ruleOf } from './refine'
import { lastCorner, nextCorner, type Table } from './table'

/**
 * Where point p of a table of quads ends when it is refined for ever, put at 3 `to` of `out`: what is sharp now counts as sharp for
 * ever. Halstead, Kass and DeRose, Efficient, fair interpolation using Catmull-Clark surfaces (1993).
 */
export function limitPoint(
  t: Table,
  at: Float64Array,
  p: number,
  out: Float64Array,
  to: number,
): void {
  const rule = ruleOf(t, p)
  const n = t.faceRing[p + 1]! - t.faceRing[p]!
  const [own, edge, face] =
    rule === 3
      ? [1, 0, 0]
      : rule === 2
        ? [2 / 3, 1 / 6, 0]
        : [n / (n + 5), 4 / (n * (n + 5)), 1 / (n * (n + 5))]
  for (let d = 0; d < 3; d++) out[3 * to + d] = own * at[3 * p + d]!
  if (edge > 0)
    for (let k = t.edgeRing[p]!; k < t.edgeRing[p + 1]!; k++) {
      const e = t.pointEdges[k]!
      if (rule === 2 && !(t.edgeSharp[e]! > 0)) continue
      const q = 3 * acrossEdge(t, e, p)
      for (let d = 0; d < 3; d++) out[3 * to + d]! += edge * at[q + d]!
    }
  if (face > 0)
    for (let k = t.faceRing[p]!; k < t.faceRing[p + 1]!; k++) {
      const q = 3 * oppositeIn(t, t.pointFaces[k]!, p)
      for (let d = 0; d < 3; d++) out[3 * to + d]! += face * at[q + d]!
    }
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
 * The unit normal of the limit at point p within the sector of face f, put at 3 `to` of `out`. Round a smooth point by the tangent
 * masks of Halstead and others; at a crease with k faces on a side θ = π/k (Biermann, Levin and Zorin, 2000).
 */
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
  const { from, count, round } = sector
  const n = t.faceRing[p + 1]! - t.faceRing[p]!
  const faceAt = (k: number) => t.pointFaces[t.faceRing[p]! + (k % n)]!
  const endOf = (k: number) => acrossEdge(t, edgeIn(t, p, k), p)
  const rule = ruleOf(t, p)
  if (round || rule === 0) {
    // A single sharp edge that ends here counts for nothing in the end.
    const { cos, sin } = roundOf(n)
    const c = cos[1]!
    const a = 1 + c + Math.cos(Math.PI / n) * Math.sqrt(2 * (9 + c))
    for (let k = 0; k < n; k++) {
      const edge = endOf(k)
      const face = oppositeIn(t, faceAt(k), p)
      addTo(ta, at, edge, a * cos[k]!)
      addTo(tb, at, edge, a * sin[k]!)
      addTo(ta, at, face, cos[k]! + cos[k + 1]!)
      addTo(tb, at, face, sin[k]! + sin[k + 1]!)
    }
  } else if (rule === 2) {
    const [first, last] = [endOf(from), endOf(from + count)]
    addTo(ta, at, first, 1)
    addTo(ta, at, last, -1)
    const step = Math.PI / count
    if (count === 1) {
      addTo(tb, at, oppositeIn(t, faceAt(from), p), 1)
      addTo(tb, at, first, 1)
      addTo(tb, at, last, 1)
      addTo(tb, at, p, -3)
    } else {
      const r = (1 + Math.cos(step)) / Math.sin(step)
      addTo(tb, at, p, 4 * r * (Math.cos(step) - 1))
      addTo(tb, at, first, -r * (1 + 2 * Math.cos(step)))
      addTo(tb, at, last, -r * (1 + 2 * Math.cos(step)))
      for (let i = 1; i < count; i++) addTo(tb, at, endOf(from + i), 4 * Math.sin(i * step))
      for (let i = 0; i < count; i++)
        addTo(
          tb,
          at,
          oppositeIn(t, faceAt(from + i), p),
          Math.sin(i * step) + Math.sin((i + 1) * step),
        )
    }
  }
  let [x, y, z] = [
    ta[1]! * tb[2]! - ta[2]! * tb[1]!,
    ta[2]! * tb[0]! - ta[0]! * tb[2]!,
    ta[0]! * tb[1]! - ta[1]! * tb[0]!,
  ]
  // At a corner, and where tangents fall together: the faces of the sector, each by its own.
  if (!(Math.hypot(x, y, z) > 1e-14)) {
    x = y = z = 0
    for (let k = 0; k < count; k++) {
      const c = cornerAt(t, faceAt(from + k), p)
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
