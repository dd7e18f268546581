import {
  add3,
  cornersAt,
  cross3,
  dot3,
  lerp3,
  norm3,
  type P3,
  placeAt,
  scale3,
  sub3,
  unit3,
} from '../../math'
import { Groups } from '../../mesh'
import type { Skin } from '../spec'

/** How far a place of a ceiling lies from what holds it up, mm. */
export interface Span {
  far: number
  at: P3
  /** Whether all that holds it lies to one side of that place: an arm, no bridge. */
  arm: boolean
}

/** A ceiling is looked at by so many places along its longest way at first; then closed in on to this, mm. */
const PLACES = 40
const CLOSE = 1e-3
/** What lies below the plane of a ceiling, beyond its edge, by more than this holds it up, mm. */
const LOWER = 1e-4

/**
 * The place of the (nearly) level undersides marked in `ceilings` (one mark a triangle) that lies farthest, seen from above, from the
 * edges which hold them up, those at which the skin turns in; null where there is none. A bridge spans twice that. What nothing holds begins in the air
 * and is no ceiling.
 */
export function reach(skin: Skin, joined: Uint32Array, ceilings: Uint8Array, up: P3): Span | null {
  const { triangles, positions } = skin
  const beside = new Map<string, number[]>()
  const edge = (i: number): [number, number] => [
    joined[triangles[i]!]!,
    joined[triangles[i - (i % 3) + ((i + 1) % 3)]!]!,
  ]
  const key = (i: number) => {
    const [a, b] = edge(i)
    return a < b ? `${a} ${b}` : `${b} ${a}`
  }
  for (let i = 0; i < triangles.length; i++) {
    const at = beside.get(key(i))
    if (at) at.push(i)
    else beside.set(key(i), [i])
  }
  const groups = new Groups(ceilings.length)
  const holds: number[] = []
  for (const at of beside.values()) {
    const level = at.filter((i) => ceilings[Math.floor(i / 3)])
    for (const i of level) groups.join(Math.floor(level[0]! / 3), Math.floor(i / 3))
    if (level.length === 0 || level.length === at.length) continue
    // A wall below it, an arch that goes on down, the tip where it meets a floor: all turn in there; an edge that stands free turns out.
    const corner = placeAt(positions, triangles[level[0]!]!)
    const [p, q, r] = cornersAt(skin, Math.floor(level[0]! / 3))
    const out = unit3(cross3(sub3(q, p), sub3(r, p)))
    const turnsIn = at.some((i) => {
      const across = triangles[i - (i % 3) + ((i + 2) % 3)]!
      return !level.includes(i) && dot3(sub3(placeAt(positions, across), corner), out) > LOWER
    })
    if (turnsIn) holds.push(level[0]!)
  }
  let best: Span | null = null
  for (const own of groups.lists()) {
    if (!ceilings[own[0]!]) continue
    const group = groups.of(own[0]!)
    const edges = holds
      .filter((i) => groups.of(Math.floor(i / 3)) === group)
      .map((i) => edge(i).map((v) => placeAt(skin.positions, v)) as [P3, P3])
    if (edges.length === 0) continue
    const found = farthestFrom(
      own.map((t) => cornersAt(skin, t)),
      edges,
      up,
    )
    if (found.far > (best?.far ?? 0)) best = found
  }
  return best
}

/** The place of level triangles farthest from some edges. */
function farthestFrom(
  triangles: readonly (readonly [P3, P3, P3])[],
  edges: readonly (readonly [P3, P3])[],
  up: P3,
): Span {
  const [x, y] = square(up)
  const seen = (p: P3): P3 => sub3(p, scale3(up, dot3(p, up)))
  const plan = edges.map(([a, b]) => [seen(a), seen(b)] as const)
  const away = (p: P3) =>
    plan.reduce((m, [a, b]) => Math.min(m, toEdge(seen(p), a, b)), Number.POSITIVE_INFINITY)
  const size = Math.max(
    ...[x, y].map((way) => {
      let [least, most] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
      for (const t of triangles)
        for (const p of t) {
          least = Math.min(least, dot3(p, way))
          most = Math.max(most, dot3(p, way))
        }
      return most - least
    }),
  )
  let step = size / PLACES
  let best = { far: 0, at: triangles[0]![0] }
  const look = (p: P3) => {
    const far = away(p)
    if (far > best.far) best = { far, at: p }
  }
  for (const [a, b, c] of triangles) {
    const n = Math.max(
      1,
      Math.ceil(Math.max(norm3(sub3(b, a)), norm3(sub3(c, a)), norm3(sub3(c, b))) / step),
    )
    for (let i = 0; i <= n; i++)
      for (let j = 0; i + j <= n; j++)
        look(add3(add3(a, scale3(sub3(b, a), i / n)), scale3(sub3(c, a), j / n)))
  }
  // Closed in on: the eight ways round the best place, less far each time.
  for (; step > CLOSE; step /= 1.5) {
    const from = best.at
    for (let k = 0; k < 8; k++) {
      const p = add3(
        add3(from, scale3(x, step * Math.cos((k * Math.PI) / 4))),
        scale3(y, step * Math.sin((k * Math.PI) / 4)),
      )
      if (triangles.some((t) => inside(p, t, x, y))) look(p)
    }
  }
  return { ...best, arm: oneSided(best.at, edges) }
}

/** Whether no edge has a place over from the nearest of all, as seen from p. */
function oneSided(p: P3, edges: readonly (readonly [P3, P3])[]): boolean {
  const ways = edges.map(([a, b]) => sub3(onEdge(p, a, b), p))
  const nearest = ways.reduce((m, w) => (norm3(w) < norm3(m) ? w : m))
  return !ways.some((w) => dot3(w, nearest) < -OVER * norm3(w) * norm3(nearest))
}
/** Over from something is what lies within 78 deg of straight behind, as a cosine. */
const OVER = 0.2

/** Two directions square to one along an axis. */
const square = (up: P3): [P3, P3] => {
  const k = up.findIndex((c) => Math.abs(c) > 0.5)
  const axis = (i: number): P3 => [0, 1, 2].map((j) => (j === i ? 1 : 0)) as unknown as P3
  return [axis((k + 1) % 3), axis((k + 2) % 3)]
}

const toEdge = (p: P3, a: P3, b: P3): number => norm3(sub3(p, onEdge(p, a, b)))

/** The place of an edge nearest to p. */
function onEdge(p: P3, a: P3, b: P3): P3 {
  const [d, e] = [sub3(b, a), sub3(p, a)]
  const long = dot3(d, d)
  return lerp3(a, b, long > 0 ? Math.min(1, Math.max(0, dot3(d, e) / long)) : 0)
}

function inside(p: P3, corners: readonly [P3, P3, P3], x: P3, y: P3): boolean {
  const at = corners.map((q) => {
    const d = sub3(q, p)
    return [dot3(d, x), dot3(d, y)] as const
  })
  const turns = at.map(([s, t], k) => {
    const [u, v] = at[(k + 1) % 3]!
    return s * v - t * u
  })
  return turns.every((k) => k >= 0) || turns.every((k) => k <= 0)
}
