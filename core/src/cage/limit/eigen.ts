import { EigenvalueDecomposition, Matrix } from 'ml-matrix'

/** What a point counts for, the ends of its edges in order, and the points over from it in its faces, each after the edge before it. */
export interface Mask {
  readonly own: number
  readonly edges: Float64Array
  readonly faces: Float64Array
}

/** Where a point where a single sharp edge ends goes, and the direction along the limit there towards that edge. */
export interface Dart {
  readonly limit: Mask
  readonly towards: Mask
}
/** Two directions along the limit on one side of a crease: towards the end the side begins with, and into the side. */
export interface Side {
  readonly along: Mask
  readonly across: Mask
}

/**
 * Masks are left eigenvectors of one refinement of what lies round a point (the way of Halstead, Kass and DeRose, 1993), worked out by
 * numbers where no formula holds. With n faces round it, the sharp edge being edge 0, a dart follows the rule of a smooth point, but
 * that edge goes on to its middle each time (DeRose, Kass and Truong, 1998): its limit is not the smooth one. What changes sign across
 * the edge is the smooth point's.
 */
export function dartOf(n: number): Dart {
  darts[n] ??= dart(n)
  return darts[n]
}
const darts: Dart[] = []

/** The same of k faces between two sharp edges, 2 or more: edges 0 and k are sharp. */
export function sideOf(k: number): Side {
  sides[k] ??= side(k)
  return sides[k]
}
const sides: Side[] = []

function dart(n: number): Dart {
  const mate = [0, ...range(n).map((k) => 1 + ((n - k) % n)), ...range(n).map((k) => 2 * n - k)]
  const [limit, towards] = leftVectors(ringStep(n), mate, 1, 2)
  return {
    limit: asMask(limit!, n, (m) => m.own + sum(m.edges) + sum(m.faces)),
    towards: asMask(towards!, n, (m) => sum(m.edges, (k) => Math.cos((2 * Math.PI * k) / n))),
  }
}

function side(k: number): Side {
  const mate = [0, ...range(k + 1).map((i) => 1 + k - i), ...range(k).map((i) => 2 * k + 1 - i)]
  const step = sideStep(k)
  const turn = (of: (x: number) => number) => (i: number) => of((Math.PI * i) / k)
  return {
    along: asMask(leftVectors(step, mate, -1, 1)[0]!, k + 1, (m) => sum(m.edges, turn(Math.cos))),
    across: asMask(leftVectors(step, mate, 1, 2)[1]!, k + 1, (m) => sum(m.edges, turn(Math.sin))),
  }
}

/**
 * The `count` left eigenvectors of the largest eigenvalues among those that are the same (`sign` 1) or the opposite (-1) for points that
 * are each other's mirror image.
 */
function leftVectors(
  step: readonly (readonly number[])[],
  mate: readonly number[],
  sign: 1 | -1,
  count: number,
): Float64Array[] {
  const firsts = mate.flatMap((m, i) => (i < m || (i === m && sign > 0) ? [i] : []))
  const folded = new Matrix(
    firsts.map((a) =>
      firsts.map((c) => step[c]![a]! + (mate[c] === c ? 0 : sign * step[mate[c]!]![a]!)),
    ),
  )
  const { realEigenvalues, eigenvectorMatrix } = new EigenvalueDecomposition(folded)
  const order = range(firsts.length).sort((a, b) => realEigenvalues[b]! - realEigenvalues[a]!)
  return order.slice(0, count).map((k) => {
    const column = eigenvectorMatrix.getColumn(k)
    return Float64Array.from(mate, (m, i) => {
      const at = firsts.indexOf(Math.min(i, m))
      return at < 0 ? 0 : (i <= m ? 1 : sign) * column[at]!
    })
  })
}

const range = (n: number): number[] => Array.from({ length: n }, (_, k) => k)
const sum = (v: Float64Array, by: (k: number) => number = () => 1): number =>
  v.reduce((s, x, k) => s + x * by(k), 0)

/** A vector with so many edges as a mask, divided by its `size`. */
function asMask(v: Float64Array, edges: number, size: (m: Mask) => number): Mask {
  const mask = { own: v[0]!, edges: v.slice(1, 1 + edges), faces: v.slice(1 + edges) }
  const by = size(mask)
  return {
    own: mask.own / by,
    edges: mask.edges.map((x) => x / by),
    faces: mask.faces.map((x) => x / by),
  }
}

type Row = number[]
const mean = (rows: readonly (readonly [Row, number])[]): Row =>
  rows[0]![0].map((_, i) => rows.reduce((s, [r, w]) => s + w * r[i]!, 0))

/** Rows of one refinement: of a face after edge k, of the end of a smooth edge between two such, and of a sharp one. */
function rules(size: number, edge: (k: number) => number, face: (k: number) => number) {
  const row = (...at: [number, number][]): Row => {
    const r = new Array<number>(size).fill(0)
    for (const [i, w] of at) r[i]! += w
    return r
  }
  const inFace = (k: number) =>
    row([0, 0.25], [edge(k), 0.25], [edge(k + 1), 0.25], [face(k), 0.25])
  const smooth = (k: number, before: Row, after: Row) =>
    mean([
      [row([0, 0.25], [edge(k), 0.25]), 1],
      [before, 0.25],
      [after, 0.25],
    ])
  const sharp = (k: number) => row([0, 0.5], [edge(k), 0.5])
  return { row, inFace, smooth, sharp }
}

/** One refinement of a dart and what lies round it; edge 0 is sharp. */
function ringStep(n: number): Row[] {
  const edge = (k: number) => 1 + (k % n)
  const { row, inFace, smooth, sharp } = rules(2 * n + 1, edge, (k) => 1 + n + k)
  const faces = range(n).map(inFace)
  const edges = range(n).map((k) => (k === 0 ? sharp(0) : smooth(k, faces[k - 1]!, faces[k]!)))
  const own = mean([
    [row([0, (n - 2) / n], ...range(n).map((k): [number, number] => [edge(k), 1 / (n * n)])), 1],
    ...faces.map((f) => [f, 1 / (n * n)] as const),
  ])
  return [own, ...edges, ...faces]
}

/** One refinement of a point on a crease and what lies on one side of it. */
function sideStep(k: number): Row[] {
  const { row, inFace, smooth, sharp } = rules(
    2 * k + 2,
    (i) => 1 + i,
    (i) => 2 + k + i,
  )
  const faces = range(k).map(inFace)
  const edges = range(k + 1).map((i) =>
    i === 0 || i === k ? sharp(i) : smooth(i, faces[i - 1]!, faces[i]!),
  )
  return [row([0, 0.75], [1, 0.125], [1 + k, 0.125]), ...edges, ...faces]
}
