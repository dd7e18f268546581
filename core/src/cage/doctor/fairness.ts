import type { P3 } from '../../math'
import { limitPoint } from '../limit/limit'
import { type Level, refinedLevel } from '../limit/refine'
import type { Table } from '../limit/table'

/**
 * How unevenly the limit of each face of a table bends, after so many refinements: over places p of its limit the sum of
 * ((H̄ - H) √A)², H the mean curvature at p, H̄ that of the places round it, A its share of the area. No unit; 0 on a ball, whatever its
 * size. Places on what never smooths out or on a border, and those round them, do not count; `plain` is without those at stars and round
 * them too, where curvature has no limit.
 */
export function unevenFaces(
  { table, at }: Level,
  levels: number,
): { all: Float64Array; plain: Float64Array } {
  let level: Level = { table, at }
  // The face of the given table that each face of the fine one lies on: a child is numbered by the corner it comes from.
  let face = Int32Array.from({ length: table.faces }, (_, f) => f)
  for (let k = 0; k < levels; k++) {
    const { cornerFace } = level.table
    face = Int32Array.from(cornerFace, (f) => face[f]!)
    level = refinedLevel(level)
  }
  const t = level.table
  const limit = new Float64Array(3 * t.points)
  for (let p = 0; p < t.points; p++) limitPoint(t, level.at, p, limit, p)
  const { h, area } = meanCurvature(t, limit)
  const left = leftOut(t)
  const [all, plain] = [new Float64Array(table.faces), new Float64Array(table.faces)]
  for (let p = 0; p < t.points; p++) {
    if (left[p] === SHARP) continue
    let [sum, n] = [0, 0]
    for (let k = t.edgeRing[p]!; k < t.edgeRing[p + 1]!; k++) {
      const e = 2 * t.pointEdges[k]!
      sum += h[t.edgeEnds[e] === p ? t.edgeEnds[e + 1]! : t.edgeEnds[e]!]!
      n++
    }
    const off = (sum / n - h[p]!) ** 2 * area[p]!
    const [from, to] = [t.faceRing[p]!, t.faceRing[p + 1]!]
    for (let k = from; k < to; k++) {
      const f = face[t.pointFaces[k]!]!
      all[f]! += off / (to - from)
      if (left[p] === 0) plain[f]! += off / (to - from)
    }
  }
  return { all, plain }
}

const [SHARP, STAR] = [2, 1]
/** Points on something sharp for ever, and at stars, each with those in the faces about it. */
function leftOut(t: Table): Uint8Array {
  const own = new Uint8Array(t.points)
  for (let p = 0; p < t.points; p++)
    if (t.pointSharp[p]! > 0) own[p] = SHARP
    else if (t.faceRing[p + 1]! - t.faceRing[p]! !== 4) own[p] = STAR
  for (let e = 0; e < t.edges; e++)
    if (t.edgeSharp[e] === Number.POSITIVE_INFINITY)
      own[t.edgeEnds[2 * e]!] = own[t.edgeEnds[2 * e + 1]!] = SHARP
  const out = new Uint8Array(t.points)
  for (let c = 0; c < t.corners.length; c += 4) {
    let most = 0
    for (let i = c; i < c + 4; i++) most = Math.max(most, own[t.corners[i]!]!)
    for (let i = c; i < c + 4; i++) out[t.corners[i]!] = Math.max(out[t.corners[i]!]!, most)
  }
  return out
}

/**
 * Signed mean curvature and share of area at the points of a table of quads, by cotangents (Meyer, Desbrun, Schröder and Barr, Discrete
 * differential-geometry operators, 2003), the mean of both ways each quad can be halved.
 */
function meanCurvature(t: Table, at: Float64Array): { h: Float64Array; area: Float64Array } {
  const way = new Float64Array(3 * t.points)
  const normal = new Float64Array(3 * t.points)
  const area = new Float64Array(t.points)
  const [u, v, w]: [number, number, number][] = [
    [0, 0, 0],
    [0, 0, 0],
    [0, 0, 0],
  ]
  const side = (o: [number, number, number], a: number, b: number) => {
    for (let d = 0; d < 3; d++) o[d] = at[3 * b + d]! - at[3 * a + d]!
  }
  const dot = (a: P3, b: P3) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
  const n: [number, number, number] = [0, 0, 0]
  const triangle = (a: number, b: number, c: number) => {
    side(u, a, b)
    side(v, b, c)
    side(w, c, a)
    n[0] = u[1] * v[2] - u[2] * v[1]
    n[1] = u[2] * v[0] - u[0] * v[2]
    n[2] = u[0] * v[1] - u[1] * v[0]
    const twice = Math.sqrt(dot(n, n))
    if (!(twice > 0)) return
    for (const [p, q, s, x, y] of [
      [a, b, u, w, v],
      [b, c, v, u, w],
      [c, a, w, v, u],
    ] as const) {
      // The angle over from the side p q lies between the two others.
      const cot = -dot(x, y) / twice
      for (let d = 0; d < 3; d++) {
        way[3 * p + d]! += cot * s[d]!
        way[3 * q + d]! -= cot * s[d]!
      }
    }
    for (const p of [a, b, c]) {
      area[p]! += twice / 12
      for (let d = 0; d < 3; d++) normal[3 * p + d]! += n[d]!
    }
  }
  for (let c = 0; c < t.corners.length; c += 4) {
    const [a, b, d, e] = [t.corners[c]!, t.corners[c + 1]!, t.corners[c + 2]!, t.corners[c + 3]!]
    triangle(a, b, d)
    triangle(a, d, e)
    triangle(a, b, e)
    triangle(b, d, e)
  }
  const h = new Float64Array(t.points)
  for (let p = 0; p < t.points; p++) {
    const [x, y, z] = [normal[3 * p]!, normal[3 * p + 1]!, normal[3 * p + 2]!]
    const size = Math.sqrt(x * x + y * y + z * z)
    if (!(size > 0 && area[p]! > 0)) continue
    // Sums over both halvings count twice; the cotangents over 2 A make twice H along the normal, out of the form below 0.
    const along = (way[3 * p]! * x + way[3 * p + 1]! * y + way[3 * p + 2]! * z) / size
    h[p] = -along / (8 * area[p]!)
  }
  return { h, area }
}
