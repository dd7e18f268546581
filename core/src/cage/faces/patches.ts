import { type Basis, basisOf, breaksOf, countOf, type Patch } from '../../surface'
import { limitNormal, limitPoint, sectorOf } from '../limit/limit'
import { type Block, beside, regularIn } from './blocks'
import { type Args, blossom, type Net, netOf } from './net'
import type { Stars } from './stars'

/** Corners of a cell against the clock, as shares of u and v. */
const CORNERS = [
  [0, 0],
  [1, 0],
  [1, 1],
  [0, 1],
] as const

/** Seen from corner k of a cell, x along the edge that begins there: what u and v in the cell are. */
const seenFrom = (k: number, u: number, v: number): [number, number] =>
  k === 0 ? [u, v] : k === 1 ? [v, 1 - u] : k === 2 ? [1 - u, 1 - v] : [1 - v, u]

/** A bicubic piece: its net, the corner of the cell it is seen from, and its low corner and size there. */
interface Piece {
  net: Net
  corner: number
  x: number
  y: number
  size: number
}

/** The surface over a block and where it is only near: of each star at its corners, the corner in the base. */
export interface BlockPatch {
  patch: Patch
  stars: { corner: number; k: number }[]
}

/** Breaks along a side of so many cells that halve towards ends which hold a star. */
function breaksAlong(cells: number, first: boolean, last: boolean, depth: number): number[] {
  const halves = Array.from({ length: depth }, (_, k) => 2 ** (k - depth))
  const all = new Set<number>(first ? halves : [])
  for (let i = 1; i < cells; i++) all.add(i)
  if (last) for (const h of [...halves].reverse()) all.add(cells - h)
  return [...all].sort((a, b) => a - b)
}

/**
 * The limit over a block as one bicubic B-spline. Knots stand at the whole numbers and halve `depth` times towards corners that are
 * stars; every pole is the blossom of an exact piece in its support but those at stars, which are their limits, and those next to
 * them. So it is exact but for the cell of size 2^(1 - depth) at a star, and blocks side by side have the same curve between them.
 */
export function patchOfBlock(block: Block, stars: Stars, depth: number): BlockPatch {
  const { m, n, cells } = block
  const t = stars.base.table
  const corners = CORNERS.map(([i, j], k) => {
    const c = cells[j * (n - 1) * m + i * (m - 1)]!
    const at = (c & ~3) | ((c + k) & 3)
    return { at, star: !regularIn(t, t.corners[at]!, at >> 2) }
  })
  const star = (k: number) => corners[k]!.star
  const bases = [
    basisOf(
      3,
      breaksAlong(m, star(0) || star(3), star(1) || star(2), depth).map((at) => ({ at })),
      0,
      m,
    ),
    basisOf(
      3,
      breaksAlong(n, star(0) || star(1), star(3) || star(2), depth).map((at) => ({ at })),
      0,
      n,
    ),
  ] as const
  const kept = new Map<string, Piece | null>()
  const reader = { block, stars, corners, depth, kept }
  const [u, v] = bases
  const [nu, nv] = [countOf(u), countOf(v)]
  const [spansU, spansV] = [spansOf(u), spansOf(v)]
  const poles = new Float64Array(3 * nu * nv)
  for (let i = 0; i < nu; i++)
    for (let j = 0; j < nv; j++) {
      const to = i * nv + j
      const k = CORNERS.findIndex(([a, b]) => i === a * (nu - 1) && j === b * (nv - 1))
      if (k !== -1 && star(k)) {
        limitPoint(stars.once.table, stars.once.at, t.corners[corners[k]!.at]!, poles, to)
        continue
      }
      const found = pieceFor(reader, spansU[i]!, spansV[j]!)
      place(found, u, v, i, j, poles, to)
    }
  for (const [k, { at }] of corners.entries()) if (star(k)) lean(stars, at, k, nu, nv, poles)
  return {
    patch: { u, v, poles },
    stars: corners.flatMap(({ at, star }, k) => (star ? [{ corner: at, k }] : [])),
  }
}

const normal = new Float64Array(3)

/**
 * Leans the poles next to a star, corner k of a patch and corner c of the base, towards the plane the limit touches there: all the way
 * would make all patches about it touch that plane, and bend them the more between, the more faces are about it. So much that they
 * meet best: their angles by 8 where three faces meet, by 2 where five or six do, and no worse where there are more (tried on cups and boxes of 3
 * to 12). One on a sharp edge stays, since it is in two such planes.
 */
function lean(stars: Stars, c: number, k: number, nu: number, nv: number, poles: Float64Array) {
  const t = stars.base.table
  const p = t.corners[c]!
  const sector = sectorOf(t, p, c >> 2)
  limitNormal(stars.once.table, stars.once.at, p, c, normal, 0)
  const share = Math.min(1, (3 / (sector.round ? sector.count : 2 * sector.count)) ** 1.5)
  const [a, b] = CORNERS[k]!
  const [i, j] = [a * (nu - 1), b * (nv - 1)]
  const from = i * nv + j
  for (const way of [0, 1] as const) {
    if (t.edgeSharp[t.cornerEdge[way === 0 ? c : (c & ~3) | ((c + 3) & 3)]!]! > 0) continue
    // From corner 0 or 2 of a patch its edge runs along u, from the others along v.
    const alongU = (way === 0) === (k % 2 === 0)
    const to = alongU ? (i + (a ? -1 : 1)) * nv + j : i * nv + j + (b ? -1 : 1)
    let off = 0
    for (let d = 0; d < 3; d++) off += normal[d]! * (poles[3 * to + d]! - poles[3 * from + d]!)
    for (let d = 0; d < 3; d++) poles[3 * to + d]! -= share * off * normal[d]!
  }
}

/** Of each function of a basis, the middles of the spans it lives on, those nearest to its own middle first. */
function spansOf(basis: Basis): number[][] {
  const { knots } = basis
  return Array.from({ length: countOf(basis) }, (_, i) => {
    const own = knots.subarray(i, i + 5)
    const breaks = breaksOf(basis).filter((x) => x >= own[0]! && x <= own[4]!)
    return breaks
      .slice(1)
      .map((b, k) => (breaks[k]! + b) / 2)
      .sort((a, b) => Math.abs(a - own[2]!) - Math.abs(b - own[2]!))
  })
}

interface Reader {
  block: Block
  stars: Stars
  corners: readonly { at: number; star: boolean }[]
  depth: number
  kept: Map<string, Piece | null>
}
interface Found {
  piece: Piece
  i: number
  j: number
}

/** A piece that holds one of these places. */
function pieceFor(r: Reader, us: readonly number[], vs: readonly number[]): Found {
  for (const u of us)
    for (const v of vs) {
      const [i, j] = [Math.floor(u), Math.floor(v)]
      const piece = pieceAt(r, i, j, u - i, v - j)
      if (piece) return { piece, i, j }
    }
  throw new Error('no exact piece in the support of a pole')
}

function pieceAt(r: Reader, i: number, j: number, u: number, v: number): Piece | null {
  const { block, stars, corners, depth, kept } = r
  const { m, n, cells } = block
  const own = corners.map(
    (c, k) =>
      c.star &&
      (CORNERS[k]![0] === 1 ? i === m - 1 : i === 0) &&
      (CORNERS[k]![1] === 1 ? j === n - 1 : j === 0),
  )
  const c = cells[j * m + i]!
  const keep = (name: string, make: () => Piece | null): Piece | null => {
    const key = `${i} ${j} ${name}`
    const there = kept.get(key)
    if (there !== undefined) return there
    const made = make()
    kept.set(key, made)
    return made
  }
  if (!own.includes(true))
    return keep('all', () => ({
      net: netOf(stars.base.table, stars.base.at, c),
      corner: 0,
      x: 0,
      y: 0,
      size: 1,
    }))
  const k = CORNERS.findIndex(([a, b]) => a === (u > 0.5 ? 1 : 0) && b === (v > 0.5 ? 1 : 0))
  const from = (c & ~3) | ((c + k) & 3)
  if (!own[k])
    return keep(`quarter ${k}`, () => ({
      net: netOf(stars.once.table, stars.once.at, 4 * from),
      corner: k,
      x: 0,
      y: 0,
      size: 0.5,
    }))
  const [x, y] = seenFrom(k, u, v)
  const level = Math.ceil(-Math.log2(Math.max(x, y)))
  if (level > depth) return null
  const size = 2 ** -level
  const [right, up] = [x > size, y > size]
  return keep(`star ${k} ${level} ${right} ${up}`, () => {
    const { level: near, corner } = stars.about(from, level)
    const over = right ? beside(near.table, corner, 0) : corner
    const at = up ? beside(near.table, over, 1) : over
    return {
      net: netOf(near.table, near.at, at),
      corner: k,
      x: right ? size : 0,
      y: up ? size : 0,
      size,
    }
  })
}

function place(
  { piece, i, j }: Found,
  u: Basis,
  v: Basis,
  a: number,
  b: number,
  poles: Float64Array,
  to: number,
): void {
  const { corner, net, x, y, size } = piece
  const us = [1, 2, 3].map((k) => u.knots[a + k]! - i)
  const vs = [1, 2, 3].map((k) => v.knots[b + k]! - j)
  const seen = us.map((s, k) => seenFrom(corner, s, vs[k]!))
  const xs = seen.map((s) => (s[0] - x) / size) as unknown as Args
  const ys = seen.map((s) => (s[1] - y) / size) as unknown as Args
  blossom(net, xs, ys, poles, to)
}
