import { cross3, dot3, norm3, type P3, placeAt, sub3 } from '../../math'
import { evaluate, jet, type Patch } from '../../surface'
import type { Cage } from '../layout'
import { limitNormal, limitPoint } from '../limit/limit'
import { type Level, refinedLevel } from '../limit/refine'
import { type Table, twinOf } from '../limit/table'
import { Between, fromCorner, type Meeting } from './between'
import { type Block, blocksOf, isOpen, regularIn, sideOf } from './blocks'
import { type BlockPatch, patchOfBlock } from './patches'
import { Stars } from './stars'

/** The limit of a cage as B-spline surfaces beside each other. */
export interface Surfaced {
  /**
   * `face` is the face of the cage the middle of a patch comes from; `open` tells whether nothing lies beside where v begins, u
   * ends, v ends and u begins.
   */
  patches: { patch: Patch; face: number; open: boolean[] }[]
  /** Parts of it that lie in one plane and are sharp all round: no patches, but what is open there. A face of the cage in each. */
  flats: number[]
  /** How far the limit is off the patches where that was looked at, about its stars, mm; and how far its normals turn, rad. */
  off: number
  turned: number
  /** The largest angle between patches side by side where the limit is smooth. */
  between: Meeting
  /** A place there where the limit looks the other way than its patch: it folds over itself; null where none was seen. */
  folds: P3 | null
  /** How often knots halve towards stars. */
  depth: number
  stars: number
}

/** A table of quads in which nothing is half sharp, and the face of the cage each of its quads comes from. */
function settled(table: Table, at: Float64Array): { level: Level; from: Int32Array } {
  let level: Level = { table, at }
  let from = Int32Array.from({ length: table.faces }, (_, f) => f)
  const half = (s: Float64Array) => s.some((x) => x > 0 && x !== Number.POSITIVE_INFINITY)
  for (;;) {
    const t = level.table
    const quads = t.corners.length === 4 * t.faces && t.faceStart.every((s, f) => s === 4 * f)
    if (quads && !half(t.edgeSharp) && !half(t.pointSharp)) return { level, from }
    const before = from
    from = Int32Array.from(t.cornerFace, (f) => before[f]!)
    level = refinedLevel(level)
  }
}

/** Faces lie in a plane where no point is farther off it, mm. */
const FLAT = 1e-9

/**
 * Parts of a table between what is sharp that lie in one plane and hold a star: each becomes one flat face, its border told by what is
 * beside it. So no two of them are side by side, and none is at an open edge.
 */
function flatParts({ table: t, at }: Level): number[][] {
  const seen = new Uint8Array(t.faces)
  const taken = new Set<number>()
  const out: number[][] = []
  for (let f = 0; f < t.faces; f++) {
    if (seen[f]) continue
    seen[f] = 1
    const part = [f]
    const beside: number[] = []
    let [open, star] = [false, false]
    for (const g of part)
      for (let c = 4 * g; c < 4 * g + 4; c++) {
        star ||= !regularIn(t, t.corners[c]!, g)
        const twin = twinOf(t, c)
        if (twin === -1) open = true
        else if (t.edgeSharp[t.cornerEdge[c]!]! > 0) beside.push(twin >> 2)
        else if (!seen[twin >> 2]) {
          seen[twin >> 2] = 1
          part.push(twin >> 2)
        }
      }
    if (!star || open || part.length === t.faces || beside.some((g) => taken.has(g))) continue
    if (!inPlane(t, at, part)) continue
    for (const g of part) taken.add(g)
    out.push(part)
  }
  return out
}
function inPlane(t: Table, at: Float64Array, faces: readonly number[]): boolean {
  const corner = (f: number, k: number): P3 => placeAt(at, t.corners[4 * f + k]!)
  const from = corner(faces[0]!, 0)
  const [a, b, c, d] = [0, 1, 2, 3].map((k) => corner(faces[0]!, k)) as [P3, P3, P3, P3]
  const [u, v] = [sub3(c, a), sub3(d, b)]
  const n = cross3(u, v)
  const size = norm3(n)
  return (
    size > 0 &&
    faces.every((f) =>
      [0, 1, 2, 3].every((k) => Math.abs(dot3(sub3(corner(f, k), from), n)) <= FLAT * size),
    )
  )
}

/** Looked at where a star is: so many times refined farther than the knots go. */
const FINER = 3
/** Knots halve so often at most, and at first. */
const [DEEPEST, FIRST] = [12, 2]

/**
 * The limit of a cage as few bicubic patches: exact but for small cells at stars, where knots are added until it is within
 * `tolerance` mm, and patches meet within the angle `meet` (rad) there. What is told was measured: how far places of the limit in those
 * cells are from the patches, and the patches from each other along their edges.
 */
export function surfaced(table: Table, { at }: Cage, tolerance: number, meet = ANY): Surfaced {
  const { level, from } = settled(table, at)
  const flats = flatParts(level)
  const left = new Set(flats.flat())
  const stars = new Stars(level)
  const blocks = blocksOf(level.table, left)
  for (let depth = FIRST; ; depth++) {
    const made = within(blocks, stars, depth, depth < DEEPEST ? tolerance : ANY)
    if (!made || (made.between.angle > meet && depth < DEEPEST)) continue
    const { patches, ...seen } = made
    return {
      patches: patches.map(({ patch }, k) => ({
        patch,
        face: from[middleOf(blocks[k]!)]!,
        open: openSides(level.table, blocks[k]!, left),
      })),
      flats: flats.map((part) => from[part[0]!]!),
      ...seen,
      depth,
      stars: new Set(patches.flatMap((m) => m.stars.map((s) => level.table.corners[s.corner]!)))
        .size,
    }
  }
}
const ANY = Number.POSITIVE_INFINITY
const middleOf = ({ m, n, cells }: Block): number => cells[(n >> 1) * m + (m >> 1)]! >> 2

const openSides = (t: Table, b: Block, left: ReadonlySet<number>): boolean[] =>
  ([3, 0, 1, 2] as const).map((way) => isOpen(t, sideOf(b, way)[0]!, way, left))

type Seen = Pick<Surfaced, 'off' | 'turned' | 'folds'>

/**
 * Patches of blocks, and how far the limit is off them in the cells at their stars and its normals turn away there; null once it is off
 * by more than `most`.
 */
function within(
  blocks: readonly Block[],
  stars: Stars,
  depth: number,
  most: number,
): (Seen & Pick<Surfaced, 'between'> & { patches: BlockPatch[] }) | null {
  const fine = new Map<Level, Level>()
  const finer = (level: Level): Level => {
    let found = fine.get(level)
    if (!found) {
      found = level
      for (let k = 0; k < FINER; k++) found = refinedLevel(found)
      fine.set(level, found)
    }
    return found
  }
  const patches: BlockPatch[] = []
  const between = new Between(stars.base.table, 2 ** (1 - depth))
  let [off, turned] = [0, 0]
  let folds: P3 | null = null
  for (const block of blocks) {
    const made = patchOfBlock(block, stars, depth)
    patches.push(made)
    for (const { corner, k } of made.stars) {
      between.take(made.patch, block, k, corner)
      const about = stars.about(corner, depth - 1)
      const cells = cellsOf(about.corner)
      const seen = offIn(made.patch, block, k, 2 ** (1 - depth), finer(about.level), cells)
      off = Math.max(off, seen.off)
      turned = Math.max(turned, seen.turned)
      folds ??= seen.folds
      if (off > most) return null
    }
  }
  return { patches, off, turned, folds, between: between.most }
}

/** The corners that begin the cells of a quad refined `FINER` times, and their low ends as shares of its sides. */
function cellsOf(corner: number): { corner: number; x: number; y: number }[] {
  let cells = [{ corner, x: 0, y: 0 }]
  for (let i = 0; i < FINER; i++) {
    const size = 2 ** -(i + 1)
    // Child q of a quad begins at its corner q; its low end is its corner 4 - q.
    cells = cells.flatMap(({ corner: c, x, y }) =>
      [0, 1, 2, 3].map((q) => ({
        corner: 4 * ((c & ~3) | ((c + q) & 3)) + ((4 - q) & 3),
        x: x + (q === 1 || q === 2 ? size : 0),
        y: y + (q > 1 ? size : 0),
      })),
    )
  }
  return cells
}

const [place, normal] = [new Float64Array(3), new Float64Array(3)]
const j = jet()

/** The same in one cell of size `size` at corner k of a block. */
function offIn(
  patch: Patch,
  { m, n }: Block,
  k: number,
  size: number,
  { table: t, at }: Level,
  cells: readonly { corner: number; x: number; y: number }[],
): Seen {
  let [off, turned] = [0, 0]
  let folds: P3 | null = null
  for (const { corner: c, x, y } of cells) {
    const p = t.corners[c]!
    limitPoint(t, at, p, place, 0)
    let [u, v] = fromCorner(k, x * size, y * size, m, n)
    for (let step = 0; step < 4; step++) {
      evaluate(patch, u, v, 1, j)
      const [du, dv] = towards(place)
      u = Math.min(m, Math.max(0, u + du))
      v = Math.min(n, Math.max(0, v + dv))
    }
    evaluate(patch, u, v, 1, j)
    off = Math.max(off, Math.hypot(j.p[0]! - place[0]!, j.p[1]! - place[1]!, j.p[2]! - place[2]!))
    // At the star itself the normal is that of no one place.
    if (x === 0 && y === 0) continue
    limitNormal(t, at, p, c >> 2, normal, 0)
    const by = turnedBy(j.u, j.v, normal)
    turned = Math.max(turned, by)
    if (by > Math.PI / 2) folds ??= placeAt(place, 0)
  }
  return { off, turned, folds }
}

/** A step of u and v from the jet's place towards another. */
function towards(to: Float64Array): [number, number] {
  let [uu, uv, vv, ud, vd] = [0, 0, 0, 0, 0]
  for (let d = 0; d < 3; d++) {
    const [a, b, r] = [j.u[d]!, j.v[d]!, to[d]! - j.p[d]!]
    uu += a * a
    uv += a * b
    vv += b * b
    ud += a * r
    vd += b * r
  }
  const det = uu * vv - uv * uv
  if (!(det > 1e-12 * uu * vv)) return [0, 0]
  return [(vv * ud - uv * vd) / det, (uu * vd - uv * ud) / det]
}

/** The angle between u x v and a unit normal, rad. */
function turnedBy(u: Float64Array, v: Float64Array, n: Float64Array): number {
  const x = u[1]! * v[2]! - u[2]! * v[1]!
  const y = u[2]! * v[0]! - u[0]! * v[2]!
  const z = u[0]! * v[1]! - u[1]! * v[0]!
  const size = Math.hypot(x, y, z)
  if (!(size > 0)) return Math.PI / 2
  return Math.acos(Math.min(1, Math.max(-1, (x * n[0]! + y * n[1]! + z * n[2]!) / size)))
}
