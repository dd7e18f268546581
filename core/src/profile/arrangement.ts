import {
  boundsOf,
  type Curve,
  endOf,
  intersect,
  lengthOf,
  nearest,
  pointAt,
  reverse,
  selfIntersect,
  startOf,
  subCurve,
} from '../curve'
import { boxesMeet, dist, type P2, POINT } from '../math'

/** A boundary piece: its curve and the name saying where it comes from. */
export interface Seg {
  readonly curve: Curve
  readonly name: string
}
/** One of the input curves a piece lies on; `same` when it runs the same way. */
export interface Source {
  readonly index: number
  readonly same: boolean
}
/** A stretch between two nodes that no other curve crosses. */
export interface Piece {
  readonly curve: Curve
  readonly from: number
  readonly to: number
  readonly sources: Source[]
  /** The input curve and the interval this piece is of it. */
  readonly part: { index: number; t0: number; t1: number }
}
export interface Arrangement {
  nodes: P2[]
  pieces: Piece[]
}

/** Merge radius of nodes: meetings are good to POINT on either curve. */
const NODE = 4 * POINT

/** Cuts the curves where they meet and merges what lies on top of one another. */
export function arrange(curves: readonly Curve[]): Arrangement {
  const cuts: number[][] = curves.map((c) => selfIntersect(c).flatMap((m) => [m.t, m.s]))
  for (let i = 0; i < curves.length; i++) {
    for (let j = i + 1; j < curves.length; j++) {
      if (!boxesMeet(boundsOf(curves[i]!), boundsOf(curves[j]!), POINT)) continue
      for (const m of intersect(curves[i]!, curves[j]!)) {
        cuts[i]!.push(m.t)
        cuts[j]!.push(m.s)
      }
    }
  }
  const nodes = new NodeSet()
  const pieces: Piece[] = []
  const byEnds = new Map<string, Piece[]>()
  for (const [index, c] of curves.entries()) {
    const ts = innerCuts(c, cuts[index]!)
    for (let k = 1; k < ts.length; k++) {
      const [t0, t1] = [ts[k - 1]!, ts[k]!]
      const curve = subCurve(c, t0, t1)
      const from = nodes.at(startOf(curve))
      const to = nodes.at(endOf(curve))
      if (from === to && lengthOf(curve) < 4 * NODE) continue
      const key = from < to ? `${from}-${to}` : `${to}-${from}`
      const twins = byEnds.get(key) ?? []
      byEnds.set(key, twins)
      const twin = twins.find((p) => lieTogether(p.curve, curve))
      if (twin) {
        twin.sources.push({ index, same: sameWay(twin, curve, from) })
        continue
      }
      const piece = { curve, from, to, sources: [{ index, same: true }], part: { index, t0, t1 } }
      twins.push(piece)
      pieces.push(piece)
    }
  }
  return { nodes: nodes.points, pieces }
}

function innerCuts(c: Curve, cuts: number[]): number[] {
  const out = [0]
  let last = startOf(c)
  const end = endOf(c)
  for (const t of [...cuts].sort((a, b) => a - b)) {
    const p = pointAt(c, t)
    if (t <= 0 || t >= 1 || dist(p, last) <= NODE) {
      // A closed curve meets its own start again half-way round only if it is there by length.
      if (t <= 0 || t >= 1 || t - out[out.length - 1]! < 1e-6) continue
      if (dist(p, last) <= NODE && lengthOf(subCurve(c, out[out.length - 1]!, t)) <= 4 * NODE)
        continue
    }
    if (dist(p, end) <= NODE && (1 - t < 1e-6 || lengthOf(subCurve(c, t, 1)) <= 4 * NODE)) continue
    out.push(t)
    last = p
  }
  out.push(1)
  // A full circle without cuts is halved, so that every piece has two different ends.
  if (out.length === 2 && dist(startOf(c), end) <= NODE) out.splice(1, 0, 0.5)
  return out
}

const lieTogether = (a: Curve, b: Curve): boolean =>
  [0.5, 0.2].every((u) => nearest(a, pointAt(b, u)).d <= NODE)

const sameWay = (twin: Piece, curve: Curve, from: number): boolean =>
  twin.from !== twin.to
    ? twin.from === from
    : nearest(twin.curve, pointAt(curve, 0.25)).t < nearest(twin.curve, pointAt(curve, 0.75)).t

/** Points closer than NODE share an index; looked up on a grid. */
class NodeSet {
  readonly points: P2[] = []
  readonly #grid = new Map<string, number[]>()

  at(p: P2): number {
    const [i, j] = [Math.floor(p[0] / NODE), Math.floor(p[1] / NODE)]
    for (let a = i - 1; a <= i + 1; a++) {
      for (let b = j - 1; b <= j + 1; b++) {
        for (const n of this.#grid.get(`${a},${b}`) ?? []) {
          if (dist(this.points[n]!, p) <= NODE) return n
        }
      }
    }
    const n = this.points.push(p) - 1
    const key = `${i},${j}`
    this.#grid.set(key, [...(this.#grid.get(key) ?? []), n])
    return n
  }
}

/** The piece run the other way. */
export const flip = (p: Piece): Piece => ({
  ...p,
  curve: reverse(p.curve),
  from: p.to,
  to: p.from,
  sources: p.sources.map((s) => ({ ...s, same: !s.same })),
})

/** Pieces left when everything that ends nowhere has been taken away, end by end. */
export function pruneEnds(pieces: readonly Piece[]): Piece[] {
  let kept = [...pieces]
  for (;;) {
    const degree = new Map<number, number>()
    for (const p of kept) for (const n of [p.from, p.to]) degree.set(n, (degree.get(n) ?? 0) + 1)
    const next = kept.filter((p) => degree.get(p.from)! > 1 && degree.get(p.to)! > 1)
    if (next.length === kept.length) return kept
    kept = next
  }
}
