import { sectorOf } from '../limit/limit'
import { ruleOf } from '../limit/refine'
import { type Table, twinOf } from '../limit/table'

/**
 * A rectangle of quads. `cells[j * m + i]` is the corner at the low end of cell (i, j), whose edge runs along u; v runs to the left
 * of it.
 */
export interface Block {
  readonly m: number
  readonly n: number
  readonly cells: Int32Array
}

/** Whether the limit is one bicubic piece over every quad that touches point p in the sector of face f. */
export function regularIn(t: Table, p: number, f: number): boolean {
  const { count, round } = sectorOf(t, p, f)
  const rule = ruleOf(t, p)
  if (rule === 0) return round && count === 4
  return count === (rule === 2 ? 2 : 1)
}

/** Ways over the sides of a cell: along u, along v, against u, against v. */
const WAYS = [0, 1, 2, 3] as const
type Way = (typeof WAYS)[number]

/** The corner from which the quad over a side begins, turned alike; -1 where the skin ends or is sharp. */
export function beside(t: Table, c: number, way: Way): number {
  const side = (c & ~3) | ((c + 1 + way) & 3)
  if (t.edgeSharp[t.cornerEdge[side]!]! > 0) return -1
  const h = twinOf(t, side)
  return h === -1 ? -1 : (h & ~3) | ((h + 1 - way) & 3)
}
/** Whether nothing lies over a cell's side but what is left out. */
export function isOpen(t: Table, c: number, way: Way, left: ReadonlySet<number>): boolean {
  const twin = twinOf(t, (c & ~3) | ((c + 1 + way) & 3))
  return twin === -1 || left.has(twin >> 2)
}

/** The two points of a cell's side, in the direction of u or v. */
export function endsOf(t: Table, c: number, way: Way): [number, number] {
  const at = (k: number) => t.corners[(c & ~3) | ((c + k) & 3)]!
  if (way === 0) return [at(1), at(2)]
  if (way === 1) return [at(3), at(2)]
  return way === 2 ? [at(0), at(3)] : [at(0), at(1)]
}

const columnOf = ({ m, n, cells }: Block, i: number): number[] =>
  Array.from({ length: n }, (_, j) => cells[j * m + i]!)
const rowOf = ({ m, cells }: Block, j: number): number[] => [...cells.subarray(j * m, (j + 1) * m)]
export const sideOf = (b: Block, way: Way): number[] => {
  if (way === 0 || way === 2) return columnOf(b, way === 0 ? b.m - 1 : 0)
  return rowOf(b, way === 1 ? b.n - 1 : 0)
}

/** A block with a strip of cells more over a side; null where a star or something sharp would lie inside or along its border. */
function grown(t: Table, b: Block, way: Way, free: (quad: number) => boolean): Block | null {
  const near = sideOf(b, way)
  const strip = near.map((c) => beside(t, c, way))
  const quads = new Set(strip.map((c) => c >> 2))
  if (strip.some((c) => c === -1 || !free(c >> 2)) || quads.size < strip.length) return null
  if (b.cells.some((c) => quads.has(c >> 2))) return null
  const along = way === 0 || way === 2 ? 1 : 0
  for (let k = 0; k < strip.length; k++) {
    if (k > 0 && beside(t, strip[k - 1]!, along) !== strip[k]) return null
    // The line between: its ends lie along the border now, what is between them inside.
    const [f, [p, q]] = [near[k]! >> 2, endsOf(t, near[k]!, way)]
    if (!regularIn(t, p, f) || !regularIn(t, q, f)) return null
    if (k === 0) continue
    // Beyond: what is between the ends lies along the border.
    if (ruleOf(t, p) !== 0 || !regularIn(t, endsOf(t, strip[k]!, way)[0], strip[k]! >> 2))
      return null
  }
  const [m, n] = along === 1 ? [b.m + 1, b.n] : [b.m, b.n + 1]
  const rows = Array.from({ length: n }, (_, j) => {
    if (way === 0) return [...rowOf(b, j), strip[j]!]
    if (way === 2) return [strip[j]!, ...rowOf(b, j)]
    if (way === 1) return j < b.n ? rowOf(b, j) : strip
    return j === 0 ? strip : rowOf(b, j - 1)
  })
  return { m, n, cells: Int32Array.from(rows.flat()) }
}

/** A block grown from one cell as far as it goes, one pair of ways before the other. */
function grownFrom(
  t: Table,
  c: number,
  ways: readonly Way[],
  free: (quad: number) => boolean,
): Block {
  let block: Block = { m: 1, n: 1, cells: Int32Array.of(c) }
  for (let blocked = 0, k = 0; blocked < ways.length; ) {
    const more = grown(t, block, ways[k % ways.length]!, free)
    if (more) {
      block = more
      blocked = 0
      continue
    }
    blocked++
    k++
  }
  return block
}

/** A block whose two opposite sides are one, in two halves: no face of a body meets itself. */
function unclosed(t: Table, b: Block): Block[] {
  const points = (way: Way) => sideOf(b, way).map((c) => endsOf(t, c, way).join())
  const same = (p: Way, q: Way) => points(p).join(' ') === points(q).join(' ')
  if (b.m > 1 && same(0, 2)) {
    const half = b.m >> 1
    const part = (from: number, m: number): Block => ({
      m,
      n: b.n,
      cells: Int32Array.from(
        Array.from({ length: b.n }, (_, j) => rowOf(b, j).slice(from, from + m)).flat(),
      ),
    })
    return [part(0, half), part(half, b.m - half)].flatMap((x) => unclosed(t, x))
  }
  if (b.n > 1 && same(1, 3)) {
    const half = b.n >> 1
    return [
      { m: b.m, n: half, cells: b.cells.slice(0, half * b.m) },
      { m: b.m, n: b.n - half, cells: b.cells.slice(half * b.m) },
    ]
  }
  return [b]
}

/** Which sides a block is grown over first. */
const ORDERS = [
  [0, 2, 1, 3],
  [1, 3, 0, 2],
] as const

/**
 * Few blocks that cover a table of quads in which nothing is half sharp, but for quads that are left out: the largest that fits is
 * taken first.
 */
export function blocksOf(t: Table, leftOut: ReadonlySet<number> = new Set()): Block[] {
  const taken = new Uint8Array(t.faces)
  for (const f of leftOut) taken[f] = 1
  const free = (quad: number) => taken[quad] === 0
  const out: Block[] = []
  // What was grown from a quad stays as it is until a part of it is taken: nothing that stopped it becomes free again.
  const grew = new Map<number, Block[]>()
  const from = (f: number): Block[] => {
    const known = grew.get(f)
    if (known?.every((b) => b.cells.every((c) => free(c >> 2)))) return known
    const made = ORDERS.map((ways) => grownFrom(t, 4 * f, ways, free))
    grew.set(f, made)
    return made
  }
  for (let left = t.faces - leftOut.size; left > 0; ) {
    let best: Block | null = null
    const seen = new Uint8Array(t.faces)
    for (let f = 0; f < t.faces; f++) {
      if (taken[f] || seen[f]) continue
      for (const block of from(f)) {
        if (!best || block.cells.length > best.cells.length) best = block
        for (const c of block.cells) seen[c >> 2] = 1
      }
    }
    for (const c of best!.cells) taken[c >> 2] = 1
    left -= best!.cells.length
    out.push(...unclosed(t, best!))
  }
  return out
}
