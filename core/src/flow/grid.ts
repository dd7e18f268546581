import { cross3, dot3, norm3, type P3, placeAt, sub3 } from '../math'

/**
 * A surface at even shares of both its parameters, node by node, row by row (u runs first): its places, its derivatives along u and v
 * (three numbers each, mm), and its second fundamental form in them (three numbers: uu, uv, vv).
 */
export interface SurfaceGrid {
  /** Nodes along u and along v, and the steps between them in the parameters. */
  columns: number
  rows: number
  steps: readonly [number, number]
  places: number[]
  us: number[]
  vs: number[]
  forms: number[]
  /** Cell by cell, u first: whether all of it lies within the face. */
  inside: boolean[]
}

/** Cells of a grid, from and up to these lines of nodes. */
export interface Region {
  u: readonly [number, number]
  v: readonly [number, number]
}

/** How a grid's surface bends at a node along a direction, 1/mm; 0 where it has no direction there. */
function bendAlong({ us, vs, forms }: SurfaceGrid, node: number, way: P3): number {
  const [u, v] = [placeAt(us, node), placeAt(vs, node)]
  const [E, F, G] = [dot3(u, u), dot3(u, v), dot3(v, v)]
  const det = E * G - F * F
  if (!(det > 1e-12 * E * G)) return 0
  const [p, q] = [dot3(way, u), dot3(way, v)]
  const [a, b] = [(p * G - q * F) / det, (q * E - p * F) / det]
  const [L, M, N] = placeAt(forms, node)
  return (L * a * a + 2 * M * a * b + N * b * b) / (E * a * a + 2 * F * a * b + G * b * b)
}

/**
 * How far two nodes lie from each other along the surface, mm: the arc over their chord that bends as the surface does at both in the
 * (harmonic) mean. Exact on planes, round cylinders' own lines and spheres; else off by the fourth power of what it turns.
 */
export function along(grid: SurfaceGrid, a: number, b: number): number {
  const way = sub3(placeAt(grid.places, b), placeAt(grid.places, a))
  const chord = norm3(way)
  if (chord === 0) return 0
  const [p, q] = [bendAlong(grid, a, way), bendAlong(grid, b, way)]
  const bend = p * q > 0 ? (2 * p * q) / Math.abs(p + q) : 0
  const half = Math.min((bend * chord) / 2, 1)
  return half < 1e-6 ? chord : (chord * Math.asin(half)) / half
}

/** How long a line of nodes is, mm: each step as the arc that turns as the line does. */
export function lineLength(grid: SurfaceGrid, nodes: readonly number[], way: 0 | 1): number {
  const tangents = way === 0 ? grid.us : grid.vs
  let sum = 0
  for (let k = 1; k < nodes.length; k++) {
    const [a, b] = [nodes[k - 1]!, nodes[k]!]
    const half = angleBetween(placeAt(tangents, a), placeAt(tangents, b)) / 2
    const chord = norm3(sub3(placeAt(grid.places, b), placeAt(grid.places, a)))
    sum += half < 1e-6 ? chord : (chord * half) / Math.sin(half)
  }
  return sum
}
const angleBetween = (a: P3, b: P3) => Math.atan2(norm3(cross3(a, b)), dot3(a, b))

/** The nodes of the lines of a region along one of its ways, line by line. */
export function linesIn({ columns }: SurfaceGrid, { u, v }: Region, way: 0 | 1): number[][] {
  const run = ([from, to]: readonly [number, number]) =>
    Array.from({ length: to - from + 1 }, (_, k) => from + k)
  return way === 0
    ? run(v).map((j) => run(u).map((i) => j * columns + i))
    : run(u).map((i) => run(v).map((j) => j * columns + i))
}

/** The area of a region, mm2: of each cell by the mean of what its corners have of it. */
export function areaOf({ us, vs, steps, columns }: SurfaceGrid, { u, v }: Region): number {
  let sum = 0
  for (let j = v[0]; j <= v[1]; j++)
    for (let i = u[0]; i <= u[1]; i++) {
      const share = (i === u[0] || i === u[1] ? 0.5 : 1) * (j === v[0] || j === v[1] ? 0.5 : 1)
      const k = j * columns + i
      sum += share * norm3(cross3(placeAt(us, k), placeAt(vs, k)))
    }
  return sum * steps[0] * steps[1]
}

/** What a grid's surface turns along one of its ways in all, rad: which way it goes round. */
export function turning(grid: SurfaceGrid, region: Region, way: 0 | 1): number {
  const lines = linesIn(grid, region, way)
  const nodes = lines[lines.length >> 1]!
  let sum = 0
  for (let k = 1; k < nodes.length; k++) {
    const [a, b] = [nodes[k - 1]!, nodes[k]!]
    const step = sub3(placeAt(grid.places, b), placeAt(grid.places, a))
    sum += Math.abs(bendAlong(grid, a, step)) * norm3(step)
  }
  return sum
}

/** Of all regions whose cells lie within the face the one of most area; null where no cell does. */
export function largest(grid: SurfaceGrid): Region | null {
  const [m, n] = [grid.columns - 1, grid.rows - 1]
  const areas = Array.from({ length: m * n }, (_, c) => cellArea(grid, c % m, Math.floor(c / m)))
  const sums = summed(areas, m, n)
  const out = summed(
    grid.inside.map((x, c) => (x && fourSided(grid, c % m, Math.floor(c / m)) ? 0 : 1)),
    m,
    n,
  )
  let best: Region | null = null
  let most = 0
  for (let j = 0; j < n; j++)
    for (let i = 0; i < m; i++) {
      let wide = m
      for (let t = j + 1; t <= n; t++) {
        while (wide > i && over(out, m, i, j, wide, t) > 0) wide--
        if (wide === i) break
        const area = over(sums, m, i, j, wide, t)
        if (area > most * (1 + 1e-9)) {
          most = area
          best = { u: [i, wide], v: [j, t] }
        }
      }
    }
  return best
}

function cellArea({ places, columns }: SurfaceGrid, i: number, j: number): number {
  const [p, q, r, s] = corners(places, columns, i, j)
  return norm3(cross3(sub3(s, p), sub3(r, q))) / 2
}
function corners(places: readonly number[], columns: number, i: number, j: number) {
  const a = j * columns + i
  return [a, a + 1, a + columns, a + columns + 1].map((k) => placeAt(places, k)) as [P3, P3, P3, P3]
}
/** Whether a cell has four sides: at a pole one has no length. */
function fourSided({ places, columns }: SurfaceGrid, i: number, j: number): boolean {
  const [p, q, r, s] = corners(places, columns, i, j)
  const least = 1e-6 * norm3(sub3(s, p))
  return [sub3(q, p), sub3(s, r), sub3(r, p), sub3(s, q)].every((d) => norm3(d) > least)
}

/** Sums of values over all cells before each node, both ways. */
function summed(values: readonly number[], m: number, n: number): Float64Array {
  const out = new Float64Array((m + 1) * (n + 1))
  for (let j = 0; j < n; j++)
    for (let i = 0; i < m; i++)
      out[(j + 1) * (m + 1) + i + 1] =
        values[j * m + i]! +
        out[j * (m + 1) + i + 1]! +
        out[(j + 1) * (m + 1) + i]! -
        out[j * (m + 1) + i]!
  return out
}
const over = (s: Float64Array, m: number, i: number, j: number, k: number, t: number): number =>
  s[t * (m + 1) + k]! - s[j * (m + 1) + k]! - s[t * (m + 1) + i]! + s[j * (m + 1) + i]!
