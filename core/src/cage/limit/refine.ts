import { lastCorner, ringed, type Table } from './table'

/**
 * The table of a cage refined once: points first, then one an edge, then one a face, so numbers stay. Child faces are numbered by
 * the corners they come from and begin there; child edges are 2 e and 2 e + 1 at the ends of e, then one a corner.
 * Sharpness falls by 1 a step (DeRose, Kass and Truong, Subdivision surfaces in character animation, 1998).
 */
export function refined(t: Table): Table {
  const n = t.corners.length
  const corners = new Int32Array(4 * n)
  const cornerEdge = new Int32Array(4 * n)
  const half = (e: number, p: number) => 2 * e + (t.edgeEnds[2 * e] === p ? 0 : 1)
  for (let c = 0; c < n; c++) {
    const before = lastCorner(t, c)
    const [p, out, into] = [t.corners[c]!, t.cornerEdge[c]!, t.cornerEdge[before]!]
    const k = 4 * c
    corners[k] = p
    corners[k + 1] = t.points + out
    corners[k + 2] = t.points + t.edges + t.cornerFace[c]!
    corners[k + 3] = t.points + into
    cornerEdge[k] = half(out, p)
    cornerEdge[k + 1] = 2 * t.edges + c
    cornerEdge[k + 2] = 2 * t.edges + before
    cornerEdge[k + 3] = half(into, p)
  }
  return ringed(
    {
      points: t.points + t.edges + t.faces,
      edges: 2 * t.edges + n,
      faceStart: Int32Array.from({ length: n + 1 }, (_, c) => 4 * c),
      corners,
      cornerEdge,
    },
    (e) => (e < 2 * t.edges ? Math.max(0, t.edgeSharp[e >> 1]! - 1) : 0),
    (p) => (p < t.points ? Math.max(0, t.pointSharp[p]! - 1) : 0),
  )
}

/** How a point moves: 0 smooth, 2 along a crease, 3 stays. */
export type Rule = 0 | 2 | 3

/** The rule of point p where sharpness has fallen by `fallen`. */
export function ruleOf(t: Table, p: number, fallen = 0): Rule {
  if (t.pointSharp[p]! > fallen) return 3
  let sharp = 0
  for (let k = t.edgeRing[p]!; k < t.edgeRing[p + 1]!; k++)
    if (t.edgeSharp[t.pointEdges[k]!]! > fallen) sharp++
  return sharp > 2 ? 3 : sharp === 2 ? 2 : 0
}

/** The point at the other end of edge e. */
export const acrossEdge = (t: Table, e: number, p: number): number =>
  t.edgeEnds[2 * e] === p ? t.edgeEnds[2 * e + 1]! : t.edgeEnds[2 * e]!

/** How much of the rule before counts where the rule after is another: the mean sharpness of what ends. */
export function shareBefore(t: Table, p: number): number {
  let [sum, count] = [0, 0]
  const s = t.pointSharp[p]!
  if (s > 0 && s <= 1) {
    sum += s
    count++
  }
  for (let k = t.edgeRing[p]!; k < t.edgeRing[p + 1]!; k++) {
    const e = t.edgeSharp[t.pointEdges[k]!]!
    if (e <= 0 || e > 1) continue
    sum += e
    count++
  }
  return count === 0 ? 0 : Math.min(1, sum / count)
}

/** Adds `share` of where point p goes by a rule to `out` at p. */
function addByRule(
  t: Table,
  at: Float64Array,
  p: number,
  rule: Rule,
  fallen: number,
  share: number,
  out: Float64Array,
): void {
  const [px, o] = [3 * p, 3 * p]
  if (rule === 3) {
    for (let d = 0; d < 3; d++) out[o + d]! += share * at[px + d]!
    return
  }
  if (rule === 2) {
    for (let d = 0; d < 3; d++) out[o + d]! += 0.75 * share * at[px + d]!
    for (let k = t.edgeRing[p]!; k < t.edgeRing[p + 1]!; k++) {
      const e = t.pointEdges[k]!
      if (!(t.edgeSharp[e]! > fallen)) continue
      const q = 3 * acrossEdge(t, e, p)
      for (let d = 0; d < 3; d++) out[o + d]! += 0.125 * share * at[q + d]!
    }
    return
  }
  const n = t.faceRing[p + 1]! - t.faceRing[p]!
  const [own, other] = [(share * (n - 2)) / n, share / (n * n)]
  for (let d = 0; d < 3; d++) out[o + d]! += own * at[px + d]!
  for (let k = t.edgeRing[p]!; k < t.edgeRing[p + 1]!; k++) {
    const q = 3 * acrossEdge(t, t.pointEdges[k]!, p)
    for (let d = 0; d < 3; d++) out[o + d]! += other * at[q + d]!
  }
  const faces = 3 * (t.points + t.edges)
  for (let k = t.faceRing[p]!; k < t.faceRing[p + 1]!; k++) {
    const q = faces + 3 * t.pointFaces[k]!
    for (let d = 0; d < 3; d++) out[o + d]! += other * out[q + d]!
  }
}

/** Where the points of the refined table lie, by the rules of Catmull and Clark (1978). `out` takes three numbers a point. */
export function refinePoints(t: Table, at: Float64Array, out: Float64Array): void {
  const edges = 3 * t.points
  const faces = edges + 3 * t.edges
  for (let f = 0; f < t.faces; f++) {
    const [a, b] = [t.faceStart[f]!, t.faceStart[f + 1]!]
    let [x, y, z] = [0, 0, 0]
    for (let c = a; c < b; c++) {
      const p = 3 * t.corners[c]!
      x += at[p]!
      y += at[p + 1]!
      z += at[p + 2]!
    }
    const o = faces + 3 * f
    out[o] = x / (b - a)
    out[o + 1] = y / (b - a)
    out[o + 2] = z / (b - a)
  }
  for (let e = 0; e < t.edges; e++) {
    const [a, b] = [3 * t.edgeEnds[2 * e]!, 3 * t.edgeEnds[2 * e + 1]!]
    const sharp = Math.min(1, t.edgeSharp[e]!)
    const other = t.edgeCorners[2 * e + 1]!
    const f = other === -1 ? 0 : faces + 3 * t.cornerFace[t.edgeCorners[2 * e]!]!
    const g = other === -1 ? 0 : faces + 3 * t.cornerFace[other]!
    for (let d = 0; d < 3; d++) {
      const middle = (at[a + d]! + at[b + d]!) / 2
      out[edges + 3 * e + d] =
        sharp === 1
          ? middle
          : sharp * middle + (1 - sharp) * (middle / 2 + (out[f + d]! + out[g + d]!) / 4)
    }
  }
  out.fill(0, 0, edges)
  for (let p = 0; p < t.points; p++) {
    const [before, after] = [ruleOf(t, p), ruleOf(t, p, 1)]
    const share = before === after ? 1 : shareBefore(t, p)
    addByRule(t, at, p, before, 0, share, out)
    if (share < 1) addByRule(t, at, p, after, 1, 1 - share, out)
  }
}

/** A cage's tables and points, each refined from the one before. */
export interface Level {
  readonly table: Table
  readonly at: Float64Array
}

export const refinedLevel = ({ table, at }: Level, child = refined(table)): Level => {
  const out = new Float64Array(3 * child.points)
  refinePoints(table, at, out)
  return { table: child, at: out }
}

/** The quads of a refined table, four numbers each, as two triangles each. */
export function halvedQuads(corners: ArrayLike<number>): Uint32Array {
  const out = new Uint32Array((6 * corners.length) / 4)
  for (let [c, o] = [0, 0]; c < corners.length; c += 4)
    for (const k of [0, 1, 2, 0, 2, 3]) out[o++] = corners[c + k]!
  return out
}
