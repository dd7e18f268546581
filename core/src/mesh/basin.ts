import type { P2, P3 } from '../math'
import { slice, twiceArea } from './slice'
import type { TriMesh } from './types'

/** What a closed mesh holds when it stands upright and is filled until it runs over. */
export interface Basin {
  /** mm3 */
  volume: number
  /** Heights of the lowest inside and of the level at which it runs over, mm. */
  floor: number
  brim: number
  /** A place at the level where it runs over. */
  at: P3
  /** Hollows closed all round, which nothing can be poured into, mm3. */
  sealed: number
  /** What it holds between heights, mm and mm2. */
  slabs: readonly Slab[]
}

/** Slabs the height is cut into at least. */
const SLABS = 140
/** Heights nearer to each other than this share of the whole are one. */
const SAME = 1e-7

/** A bounded area of air in a slice: its outline (material on the left, so it runs to the right) and islands. */
interface Pocket {
  area: number
  loop: P2[]
  islands: P2[][]
}
/** Water between two heights, mm, of an even area, mm2. */
export interface Slab {
  from: number
  to: number
  area: number
}
interface Level {
  z: number
  from: number
  to: number
  pockets: Pocket[]
  /** Outlines of the material. */
  solids: P2[][]
}

/**
 * The upright basin of a closed mesh by slices: bounded areas of air in neighbouring slices are linked by
 * points beside their outlines; from below they fill until one is linked to the outside above it; what is
 * open to the outside from below drains; what is never linked to it is sealed. Null where nothing stays.
 * Kept by the mesh: gauges ask for it with every view.
 */
export function basinOf(mesh: TriMesh): Basin | null {
  const before = known.get(mesh)
  if (before !== undefined) return before
  const made = filled(mesh)
  known.set(mesh, made)
  return made
}
const known = new WeakMap<TriMesh, Basin | null>()

function filled(mesh: TriMesh): Basin | null {
  const levels = levelsOf(mesh)
  /** Each level's pockets: drained, or which basin they belong to. */
  const basins: { volume: number; open: boolean; slabs: Slab[]; brim: number; at: P3 }[] = []
  let below: { level: Level; of: (number | 'out')[] } | null = null
  const parent: number[] = []
  const root = (i: number): number => (parent[i] === i ? i : root(parent[i]!))
  for (const level of levels) {
    const of: (number | 'out')[] = level.pockets.map(() => -1)
    const up = below ? links(below.level, level) : []
    const down = below ? links(level, below.level) : []
    // Open from below: it drains, and whatever reaches it runs over into it.
    for (const { from, to } of down) if (to === 'out' || below?.of[to] === 'out') of[from] = 'out'
    for (const { from, to } of up)
      if (from >= 0 && to !== 'out' && below?.of[from] === 'out') of[to] = 'out'
    for (const { from, to } of [
      ...up,
      ...down.map((d) => ({ from: d.to, to: d.from as number | 'out' })),
    ]) {
      if (from === 'out' || !below) continue
      const b = below.of[from]!
      if (b === 'out') continue
      const basin = basins[root(b)]!
      if (to === 'out' || of[to] === 'out') {
        if (basin.open) runsOver(basin, below.level, from)
      } else if (of[to] === -1) of[to] = root(b)
      else if (root(of[to] as number) !== root(b)) join(root(of[to] as number), root(b))
    }
    for (const [i, p] of level.pockets.entries()) {
      if (of[i] === -1) {
        of[i] = basins.length
        parent.push(basins.length)
        basins.push({ volume: 0, open: true, slabs: [], brim: level.to, at: [0, 0, 0] })
      }
      if (of[i] === 'out') continue
      const basin = basins[root(of[i] as number)]!
      if (!basin.open) {
        // Above the level at which it ran over nothing more stays.
        of[i] = 'out'
        continue
      }
      basin.volume += p.area * (level.to - level.from)
      basin.slabs.push({ from: level.from, to: level.to, area: p.area })
      basin.brim = level.to
      basin.at = [...p.loop[0]!, level.to]
    }
    below = { level, of }
  }
  function join(a: number, b: number) {
    const [keep, gone] = [basins[a]!, basins[b]!]
    parent[b] = a
    keep.volume += gone.volume
    keep.slabs.push(...gone.slabs)
    keep.open = keep.open && gone.open
  }
  function runsOver(basin: (typeof basins)[number], level: Level, pocket: number) {
    basin.open = false
    const brim = spill(mesh, level, level.pockets[pocket]!)
    const last = basin.slabs.filter((s) => s.to === level.to)
    for (const s of last) {
      basin.volume += s.area * (brim - s.to)
      s.to = brim
    }
    basin.brim = brim
    basin.at = [...level.pockets[pocket]!.loop[0]!, brim]
  }
  const all = basins.filter((_, i) => parent[i] === i)
  const sealed = all.filter((b) => b.open).reduce((sum, b) => sum + b.volume, 0)
  const held = all.filter((b) => !b.open && b.volume > 0)
  const most = held.reduce<(typeof held)[number] | null>(
    (p, q) => (p && p.volume >= q.volume ? p : q),
    null,
  )
  if (!most)
    return sealed > 0 ? { volume: 0, floor: 0, brim: 0, at: [0, 0, 0], sealed, slabs: [] } : null
  return {
    volume: held.reduce((sum, b) => sum + b.volume, 0),
    floor: Math.min(...most.slabs.map((s) => s.from)),
    brim: most.brim,
    at: most.at,
    sealed,
    slabs: held.flatMap((b) => b.slabs),
  }
}

const level = (z: number) => ({
  origin: [0, 0, z] as P3,
  x: [1, 0, 0] as P3,
  y: [0, 1, 0] as P3,
  z: [0, 0, 1] as P3,
})

/** Slices half-way up slabs that end at every flat height of the mesh. */
function levelsOf(mesh: TriMesh): Level[] {
  const flats = flatHeights(mesh)
  const [low, high] = [flats[0]!, flats[flats.length - 1]!]
  const step = (high - low) / SLABS
  // Below and above there is nothing but the outside.
  const empty = (z: number): Level => ({ z, from: z, to: z, pockets: [], solids: [] })
  const out: Level[] = [empty(low)]
  for (let i = 1; i < flats.length; i++) {
    const [a, b] = [flats[i - 1]!, flats[i]!]
    const n = Math.max(1, Math.ceil((b - a) / step))
    for (let k = 0; k < n; k++) {
      const [from, to] = [a + ((b - a) * k) / n, a + ((b - a) * (k + 1)) / n]
      const z = (from + to) / 2
      const lines = slice(mesh, level(z)).filter((l) => l.length > 3)
      out.push({
        z,
        from,
        to,
        pockets: pocketsOf(lines),
        solids: lines.filter((l) => twiceArea(l) > 0),
      })
    }
  }
  return [...out, empty(high)]
}

/** Heights of level triangles, with the lowest and highest of all, rising. */
function flatHeights({ positions: p, triangles: t }: TriMesh): number[] {
  const zs: number[] = []
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
  for (let i = 0; i < t.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => p[3 * t[i + k]! + 2]!) as [number, number, number]
    low = Math.min(low, a, b, c)
    high = Math.max(high, a, b, c)
    if (Math.max(a, b, c) - Math.min(a, b, c) < 1e-5) zs.push(a)
  }
  const near = SAME * (high - low) + 1e-5
  const sorted = [low, ...zs, high].sort((x, y) => x - y)
  return sorted.filter((z, i) => i === 0 || z - sorted[i - 1]! > near)
}

function pocketsOf(lines: readonly P2[][]): Pocket[] {
  const loops = lines.filter((l) => l.length > 3).map((l) => ({ l, area: twiceArea(l) / 2 }))
  const holes = loops.filter((x) => x.area < 0)
  const solids = loops.filter((x) => x.area > 0)
  return holes.map(({ l, area }) => {
    const inside = (x: { l: P2[]; area: number }) => Math.abs(x.area) < -area && within(l, x.l[0]!)
    const deeper = holes.filter(inside)
    // Islands of material straight inside: not those inside another hole of this one.
    const islands = solids.filter(
      (x) => inside(x) && !deeper.some((h) => x.area < -h.area && within(h.l, x.l[0]!)),
    )
    return {
      area: -area - islands.reduce((sum, x) => sum + x.area, 0),
      loop: l,
      islands: islands.map((x) => x.l),
    }
  })
}

/** Even and odd. */
function within(loop: readonly P2[], [x, y]: P2): boolean {
  let odd = false
  for (let i = 1; i < loop.length; i++) {
    const [a, b] = [loop[i - 1]!, loop[i]!]
    if (a[1] > y !== b[1] > y && x < a[0] + ((y - a[1]) / (b[1] - a[1])) * (b[0] - a[0])) odd = !odd
  }
  return odd
}

/** Points of an outline looked at, and how far beside it they stand, mm. */
const POINTS = 24
const BESIDE = 2e-3
/** Places beside an outline that are followed up to where it opens. */
const PLACES = 12

/** Where the air beside each pocket's outlines is in another slice: in one of its pockets, or outside. */
function links(a: Level, b: Level): { from: number; to: number | 'out' }[] {
  return a.pockets.flatMap((p, from) => {
    const met = new Set<number | 'out'>()
    for (const line of [p.loop, ...p.islands]) {
      const step = Math.max(1, Math.floor((line.length - 1) / POINTS))
      for (let i = 1; i < line.length; i += step) {
        const to = airAt(b, beside(line[i - 1]!, line[i]!))
        if (to !== null) met.add(to)
      }
    }
    return [...met].map((to) => ({ from, to }))
  })
}

/** The air beside the middle of a piece of an outline: material lies on its left. */
function beside(u: P2, v: P2): P2 {
  const l = Math.hypot(v[0] - u[0], v[1] - u[1]) || 1
  return [
    (u[0] + v[0]) / 2 + ((v[1] - u[1]) / l) * BESIDE,
    (u[1] + v[1]) / 2 - ((v[0] - u[0]) / l) * BESIDE,
  ]
}

/** The pocket a place lies in, outside, or null in the material. */
function airAt(b: Level, at: P2): number | 'out' | null {
  let best = -1
  for (const [i, p] of b.pockets.entries()) {
    if (!within(p.loop, at) || p.islands.some((l) => within(l, at))) continue
    if (best < 0 || p.area < b.pockets[best]!.area) best = i
  }
  if (best >= 0) return best
  return b.solids.some((l) => within(l, at)) ? null : 'out'
}

/** The height above a slice at which one of its pockets opens to the outside, by halving. */
function spill(mesh: TriMesh, from: Level, pocket: Pocket): number {
  const step = from.to - from.from
  let [low, high] = [from.z, from.to + step]
  // Where walls lean in, a place beside one is material a little higher up: others round it are not.
  const { loop } = pocket
  const every = Math.max(1, Math.floor((loop.length - 1) / PLACES))
  const places = loop.flatMap((p, i) => (i > 0 && i % every === 0 ? [beside(loop[i - 1]!, p)] : []))
  const held = (z: number) =>
    pocketsOf(slice(mesh, level(z))).some((p) => places.some((at) => within(p.loop, at)))
  for (let i = 0; i < 30 && high - low > 1e-7 * (1 + Math.abs(high)); i++) {
    const m = (low + high) / 2
    if (held(m)) low = m
    else high = m
  }
  return (low + high) / 2
}
