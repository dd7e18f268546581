import type { P2, P3 } from '../math'
import { slice, twiceArea } from './slice'
import { turnsOf } from './turns'
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
  from: number
  to: number
  pockets: Pocket[]
  /** Outlines of the material. */
  solids: P2[][]
  /** Between it and the level below it air may part, meet or open; elsewhere each pocket runs on in one. */
  turns: boolean
}

/**
 * The upright basin of a closed mesh by slices. Air parts, meets or opens at the heights of critical vertices alone (`turns.ts`): just
 * below and above each of these, areas of air that lie over each other are linked; between them each runs on in one. From below they
 * fill until one is linked to the outside above it; what is open to the outside from below drains; what is never linked to it is
 * sealed. Null where nothing stays. Kept by the mesh: gauges ask for it with every view.
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
    const [up, down] = below ? linked(below.level, level) : [[], []]
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
        if (basin.open) runsOver(basin, level.from, below.level.pockets[from]!)
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
      if (level.to > level.from) {
        basin.volume += p.area * (level.to - level.from)
        basin.slabs.push({ from: level.from, to: level.to, area: p.area })
      }
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
  function runsOver(basin: (typeof basins)[number], brim: number, pocket: Pocket) {
    basin.open = false
    basin.brim = brim
    basin.at = [...pocket.loop[0]!, brim]
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

/** How far above and below a height where air may turn it is looked at, as a share of all. */
const BESIDE_TURN = 1e-6

/** Slices just beside every height at which air may turn, and half-way up slabs between two of these. */
function levelsOf(mesh: TriMesh): Level[] {
  const turns = turnsOf(mesh)
  const [low, high] = [turns[0]![0], turns[turns.length - 1]![1]]
  const step = (high - low) / SLABS
  const beside = BESIDE_TURN * (high - low)
  // Below and above there is nothing but the outside.
  const empty = (z: number): Level => ({ from: z, to: z, pockets: [], solids: [], turns: true })
  const out: Level[] = [empty(low)]
  const add = (z: number, from: number, to: number, turning = false) => {
    const lines = slice(mesh, level(z)).filter((l) => l.length > 3)
    out.push({
      from,
      to,
      pockets: pocketsOf(lines),
      solids: lines.filter((l) => twiceArea(l) > 0),
      turns: turning,
    })
  }
  for (let i = 1; i < turns.length; i++) {
    // Heights that lie together are passed in one: what lies between them counts as what lies above.
    const [a, b] = [turns[i - 1]!, turns[i]!]
    add(a[1] + beside, a[0], a[1], true)
    const n = Math.max(1, Math.ceil((b[0] - a[1]) / step))
    for (let k = 0; k < n; k++) {
      const [from, to] = [k, k + 1].map((x) => a[1] + ((b[0] - a[1]) * x) / n) as [number, number]
      add((from + to) / 2, from, to)
    }
    add(b[0] - beside, b[0], b[0])
  }
  return [...out, empty(high)]
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

/** How far beside an outline the air is looked at, mm. */
const BESIDE = 2e-3
/** Lines across a pocket on which it is looked at. */
const ACROSS = 24

type Link = { from: number; to: number | 'out' }

/** Where the air of each pocket goes on in the other slice: from `a` below up into `b`, and back. */
function linked(a: Level, b: Level): [Link[], Link[]] {
  // Where nothing turns, one pocket runs on in one.
  if (!b.turns && a.pockets.length === 1 && b.pockets.length === 1)
    return [[{ from: 0, to: 0 }], [{ from: 0, to: 0 }]]
  const [up, down] = [seen(a, b), seen(b, a)]
  return b.turns ? [up, down] : [oneEach(up), oneEach(down)]
}

/** Of each pocket the one it goes on in: that which was seen most; outside only where no pocket was. */
function oneEach(links: readonly (Link & { times: number })[]): Link[] {
  const best = new Map<number, Link & { times: number }>()
  for (const l of links) {
    const known = best.get(l.from)
    const better =
      !known ||
      (known.to === 'out'
        ? l.to !== 'out' || l.times > known.times
        : l.to !== 'out' && l.times > known.times)
    if (better) best.set(l.from, l)
  }
  return [...best.values()]
}

/** How often the air of each pocket is seen in what of another slice: over it, and beside the outlines of both. */
function seen(a: Level, b: Level): (Link & { times: number })[] {
  const beyond = [...b.pockets.flatMap((p) => [p.loop, ...p.islands]), ...b.solids].flatMap(besides)
  return a.pockets.flatMap((p, from) => {
    const times = new Map<number | 'out', number>()
    const holds = (at: P2) => within(p.loop, at) && !p.islands.some((l) => within(l, at))
    const look = (at: P2) => {
      const to = airAt(b, at)
      if (to !== null) times.set(to, (times.get(to) ?? 0) + 1)
    }
    for (const at of [p.loop, ...p.islands].flatMap(besides)) look(at)
    for (const at of beyond) if (holds(at)) look(at)
    for (const at of across(p)) look(at)
    return [...times].map(([to, n]) => ({ from, to, times: n }))
  })
}

/** Places beside the middles of the pieces of an outline, in the air. */
const besides = (line: readonly P2[]): P2[] => line.slice(1).map((at, i) => beside(line[i]!, at))

/** Places all over a pocket: the middles, and a third in from the ends, of what lines across it leave of it. */
function across({ loop, islands }: Pocket): P2[] {
  const ys = loop.map((q) => q[1])
  const [low, high] = [Math.min(...ys), Math.max(...ys)]
  const out: P2[] = []
  for (let k = 0; k < ACROSS; k++) {
    const y = low + ((high - low) * (k + 0.5)) / ACROSS
    const xs = [loop, ...islands].flatMap((line) =>
      line.slice(1).flatMap((q, i) => {
        const p = line[i]!
        return p[1] > y !== q[1] > y ? [p[0] + ((y - p[1]) / (q[1] - p[1])) * (q[0] - p[0])] : []
      }),
    )
    xs.sort((u, v) => u - v)
    for (let i = 1; i < xs.length; i += 2)
      for (const f of [1 / 6, 1 / 2, 5 / 6]) out.push([xs[i - 1]! + f * (xs[i]! - xs[i - 1]!), y])
  }
  return out
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
