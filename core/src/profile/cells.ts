import { boundsOf, lengthOf, pointAt } from '../curve'
import { dist, type P2, sub, turn } from '../math'
import { arrange, flip, type Piece, pruneEnds, type Seg } from './arrangement'
import { group, mergeParts, type Region, sideOf } from './region'

/**
 * How far along a piece its direction is read at an end, as a share of the shortest piece there: curves that
 * touch have parted by then, each by as much as it bends.
 */
const SHARE = 0.02

/**
 * The smallest areas that drawn curves part the plane into, each by itself, whatever lies in each other; open
 * ends are ignored.
 */
export function cellsOf(segs: readonly Seg[]): Region[] {
  const curves = segs.map((s) => s.curve)
  const closed = pruneEnds(arrange(curves).pieces)
  const n = closed.length
  // Every piece is walked once on either side; that of number i goes back as i + n.
  const ways = [...closed, ...closed.map(flip)]
  const from = new Map<number, number[]>()
  for (const [i, p] of ways.entries()) from.set(p.from, [...(from.get(p.from) ?? []), i])
  const lengths = ways.map((p) => lengthOf(p.curve))
  /** The share of a piece that is as long as what is looked at by its end. */
  const near = (i: number, node: number): number =>
    (SHARE * Math.min(...from.get(node)!.map((k) => lengths[k]!))) / lengths[i]!
  const leaving = ways.map((p, i) => sub(pointAt(p.curve, near(i, p.from)), pointAt(p.curve, 0)))
  const next = ways.map((p, i) => {
    const heading = sub(pointAt(p.curve, 1), pointAt(p.curve, 1 - near(i, p.to)))
    const others = from.get(p.to)!.filter((k) => k !== (i + n) % (2 * n))
    return others.reduce((a, b) =>
      turn(heading, leaving[b]!) > turn(heading, leaving[a]!) ? b : a,
    )
  })
  const used = new Set<number>()
  const loops: Piece[][] = []
  for (const start of ways.keys()) {
    const loop: Piece[] = []
    for (let i = start; !used.has(i); i = next[i]!) {
      used.add(i)
      loop.push(ways[i]!)
    }
    if (loop.length > 0) loops.push(loop)
  }
  return group(loops.map((l) => mergeParts(l, curves, (p) => segs[p.part.index]!.name)))
}

/** A cell as it is kept: the pieces of its outer outline, sorted, and a place in it. */
export interface CellRef {
  pieces: string[]
  at: P2
}

const piecesOf = (cell: Region): string[] => [...new Set(cell.outer.map((s) => s.name))].sort()

/** The reference to store for a cell. */
export const cellRef = (cell: Region): CellRef => ({ pieces: piecesOf(cell), at: insideOf(cell) })

/** The cell a place lies in; null where it lies in none. */
export const cellAt = (cells: readonly Region[], at: P2): Region | null =>
  cells.find((c) => sideOf([c.outer, ...c.holes], at).inside) ?? null

/**
 * The cell a reference means: the one bounded by the same pieces, of several the one its place lies in or is
 * nearest to; else, as a likeness, the one its place lies in. Null where there is none.
 */
export function cellOf(
  cells: readonly Region[],
  ref: CellRef,
): { cell: Region; sure: boolean } | null {
  const key = ref.pieces.join()
  const same = cells.filter((c) => piecesOf(c).join() === key)
  const by = cellAt(same, ref.at)
  if (by) return { cell: by, sure: true }
  const [nearest] = same
    .map((cell) => ({ cell, d: dist(insideOf(cell), ref.at) }))
    .sort((a, b) => a.d - b.d)
  if (nearest) return { cell: nearest.cell, sure: same.length === 1 }
  const there = cellAt(cells, ref.at)
  return there && { cell: there, sure: false }
}

/** A place well inside an area: of a grid over it the one farthest from its outline. */
export function insideOf(cell: Region): P2 {
  const boxes = cell.outer.map((s) => boundsOf(s.curve))
  const span = (k: 0 | 1) => [
    Math.min(...boxes.map((b) => b.min[k])),
    Math.max(...boxes.map((b) => b.max[k])),
  ]
  const [[left, right], [low, high]] = [span(0), span(1)] as [[number, number], [number, number]]
  const loops = [cell.outer, ...cell.holes]
  let best: { at: P2; d: number } | null = null
  for (let n = 8; !best && n <= 128; n *= 2)
    for (let i = 0.5; i < n; i++)
      for (let j = 0.5; j < n; j++) {
        const at: P2 = [left + ((right - left) * i) / n, low + ((high - low) * j) / n]
        const side = sideOf(loops, at)
        if (side.inside && (!best || side.d > best.d)) best = { at, d: side.d }
      }
  return best?.at ?? pointAt(cell.outer[0]!.curve, 0.5)
}
