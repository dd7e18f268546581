import { type Cage, edgeKey, edgesOf, type Orbits, type Ways } from '../../../cage'
import { bad, placeAt, sub3 } from '../../../math'
import { nearestShares } from '../../../path'
import { Way } from '../../../surface'
import type { Chosen } from './chosen'
import type { CageEdit, Reads } from './inputs'
import { alike, type Made } from './made'

/** Chosen points put onto a path: each where it is nearest, or one line of them evenly along it. */
export function putAlong(
  cage: Cage,
  { points, edges }: Chosen,
  { path, spread }: Extract<CageEdit, { kind: 'along' }>,
  orbits: Orbits,
  read: Reads,
): Made {
  const found = read.way(path)
  if (!found.ok) return found
  const { pieces, closed } = found.value
  const line = spread === 'even' ? lineOf(cage, points, edges) : { points, closed: false }
  if (!line)
    return bad('cage-line', 'Points that go evenly along a path are one line, from edge to edge.', [
      { at: placeAt(cage.at, points[0]!) },
    ])
  if (line.closed && !closed)
    return bad('cage-line', 'A line of points that closes goes onto a path that closes.')
  const places = line.points.map((p) => placeAt(cage.at, p))
  const near = nearestShares(pieces, places)
  const way = new Way(pieces)
  const shares = spread === 'kept' ? near : evenly(near, line.closed, closed)
  const ways: Ways = new Map(
    line.points.map((p, k) => [p, sub3(way.place(shares[k]!), places[k]!)]),
  )
  return alike(cage, orbits, ways)
}

const wrapped = (s: number): number => s - Math.floor(s)
/** How far it is from one share of a closed way to another, -1/2 to 1/2. */
const apart = (from: number, to: number): number => wrapped(to - from + 0.5) - 0.5

/** Shares at even steps: of a closed line round a closed way where they lie nearest, of another from its first to its last. */
function evenly(near: readonly number[], round: boolean, closed: boolean): number[] {
  const n = near.length
  if (round) {
    const sense = Math.sign(near.reduce((s, x, k) => s + apart(x, near[(k + 1) % n]!), 0)) || 1
    const first = near[0]!
    const off = near.reduce((s, x, k) => s + apart(first + (sense * k) / n, x), 0) / n
    return near.map((_, k) => wrapped(first + off + (sense * k) / n))
  }
  const steps = closed
    ? near.slice(1).reduce((s, x, k) => s + apart(near[k]!, x), 0)
    : near[n - 1]! - near[0]!
  const at = (k: number) => near[0]! + (steps * k) / (n - 1)
  return near.map((_, k) => (closed ? wrapped(at(k)) : at(k)))
}

/** Points in the order of edges between them: those chosen, or all there are; null where they are no one line. */
function lineOf(
  cage: Cage,
  points: readonly number[],
  edges: readonly (readonly [number, number])[],
): { points: number[]; closed: boolean } | null {
  const there = new Set(points)
  const between = [...edgesOf(cage.layout.faces).values()].filter(
    ([a, b]) => there.has(a) && there.has(b),
  )
  const chosen = new Set(edges.map(([a, b]) => edgeKey(a, b)))
  const own = chosen.size > 0 ? between.filter(([a, b]) => chosen.has(edgeKey(a, b))) : between
  const beside = new Map<number, number[]>(points.map((p) => [p, []]))
  for (const [a, b] of own) {
    beside.get(a)!.push(b)
    beside.get(b)!.push(a)
  }
  const ends = points.filter((p) => beside.get(p)!.length === 1)
  if (points.length < 2 || ends.length > 2 || points.some((p) => beside.get(p)!.length > 2))
    return null
  const out = [ends[0] ?? points[0]!]
  for (let last = -1; out.length < points.length; ) {
    const p = out[out.length - 1]!
    const next = beside.get(p)!.find((q) => q !== last && q !== out[0])
    if (next === undefined) return null
    out.push(next)
    last = p
  }
  return { points: out, closed: ends.length === 0 }
}
