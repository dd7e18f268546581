import { cross3, dot3, type P3, placeAt, sub3, unit3 } from '../../math'
import { Groups } from '../groups'
import type { TriMesh } from '../types'

/** A skin of a mesh that hangs together along edges. */
export interface Shell {
  /** Its triangles, by number. */
  triangles: number[]
  /** mm3; below 0 where it looks inward. */
  volume: number
  min: P3
  max: P3
  /** The shells it lies in, by number. */
  within: number[]
}

/** The triangles at each edge of a mesh, with which of its edges it is; by both corners, the lower first. */
export function edgesOf({ triangles }: TriMesh): Map<number, number[]> {
  const corners = triangles.reduce((most, v) => Math.max(most, v + 1), 0)
  const edges = new Map<number, number[]>()
  for (let k = 0; k < triangles.length; k++) {
    const [a, b] = [triangles[k]!, triangles[k - (k % 3) + ((k + 1) % 3)]!]
    const key = Math.min(a, b) * corners + Math.max(a, b)
    const own = edges.get(key)
    if (own) own.push(k)
    else edges.set(key, [k])
  }
  return edges
}

/** The skins of a mesh, and which lies in which: where the other goes round a place of it once. */
export function shellsOf(mesh: TriMesh): Shell[] {
  const groups = new Groups(mesh.triangles.length / 3)
  for (const own of edgesOf(mesh).values())
    for (const [k, l] of pairsAt(mesh, own)) groups.join(Math.floor(k / 3), Math.floor(l / 3))
  const shells = groups.lists().map((triangles) => shell(mesh, triangles))
  for (const s of shells)
    s.within = windings(mesh, s, shells).flatMap((w, j) =>
      Math.abs(w) > 0.5 && holds(shells[j]!, s.min) && holds(shells[j]!, s.max) ? [j] : [],
    )
  return shells
}

/**
 * Which triangles at an edge hang together: both of two; of more each with the first of the other turn that is met through the
 * material behind it, so that pieces that touch along an edge stay two. All where there is no such order.
 */
function pairsAt({ positions, triangles }: TriMesh, own: readonly number[]): [number, number][] {
  const all = own.slice(1).map((k): [number, number] => [own[0]!, k])
  if (own.length <= 2) return all
  const corner = (k: number, step: number) =>
    placeAt(positions, triangles[k - (k % 3) + ((k + step) % 3)]!)
  const [from, to] = [corner(own[0]!, 0), corner(own[0]!, 1)]
  const axis = unit3(sub3(to, from))
  const start = sub3(corner(own[0]!, 2), from)
  const at = own.map((k) => {
    const way = sub3(corner(k, 2), from)
    const angle = angleAbout(axis, start, way)
    return { k, angle, forward: triangles[k] === triangles[own[0]!] }
  })
  const ahead = at.filter((x) => x.forward)
  const back = at.filter((x) => !x.forward)
  if (ahead.length !== back.length) return all
  return ahead.map((x) => {
    const turn = (y: (typeof at)[number]) => {
      const d = x.angle - y.angle
      return d > 1e-9 ? d : d + 2 * Math.PI
    }
    return [x.k, back.reduce((a, b) => (turn(b) < turn(a) ? b : a)).k]
  })
}
/** By how much one way is turned from another about an axis, rad. */
function angleAbout(axis: P3, a: P3, b: P3): number {
  return Math.atan2(dot3(axis, cross3(a, b)), dot3(acrossTo(a, axis), acrossTo(b, axis)))
}
/** What of a way lies square to an axis. */
const acrossTo = (way: P3, axis: P3): P3 => {
  const d = dot3(way, axis)
  return [way[0] - d * axis[0], way[1] - d * axis[1], way[2] - d * axis[2]]
}

function shell({ positions: p, triangles: t }: TriMesh, triangles: number[]): Shell {
  const min: [number, number, number] = [Infinity, Infinity, Infinity]
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity]
  const first = placeAt(p, t[3 * triangles[0]!]!)
  let volume = 0
  for (const i of triangles) {
    const [a, b, c] = [0, 1, 2].map((k) => placeAt(p, t[3 * i + k]!)) as [P3, P3, P3]
    for (const q of [a, b, c])
      for (const k of [0, 1, 2] as const) {
        min[k] = Math.min(min[k], q[k])
        max[k] = Math.max(max[k], q[k])
      }
    volume += tripleFrom(first, a, b, c) / 6
  }
  return { triangles, volume, min, max, within: [] }
}

/** Places of a shell that are tried for one that lies on no other. */
const TRIED = 12

/** How often every shell goes round a place of one of them, its own counted 0; of the place where that is nearest to whole numbers. */
function windings(mesh: TriMesh, own: Shell, shells: readonly Shell[]): number[] {
  let best: number[] = []
  let least = Infinity
  const step = Math.max(1, Math.floor(own.triangles.length / TRIED))
  for (let i = 0; i < own.triangles.length && least > 1e-6; i += step) {
    const t = own.triangles[i]!
    const at = [0, 1, 2].map(
      (k) =>
        [0, 1, 2].reduce((sum, c) => sum + mesh.positions[3 * mesh.triangles[3 * t + c]! + k]!, 0) /
        3,
    ) as unknown as P3
    const all = shells.map((s) => (s === own || !holds(s, at) ? 0 : winding(mesh, s, at)))
    const off = Math.max(...all.map((w) => Math.abs(w - Math.round(w))))
    if (off >= least) continue
    least = off
    best = all
  }
  return best
}

const holds = ({ min, max }: Shell, at: P3) =>
  [0, 1, 2].every((k) => at[k]! >= min[k]! && at[k]! <= max[k]!)

/** How often a shell goes round a place: its solid angles (van Oosterom and Strackee 1983) over 4 pi. */
function winding({ positions: p, triangles: t }: TriMesh, { triangles }: Shell, at: P3): number {
  let sum = 0
  for (const i of triangles) {
    const [ax, ay, az] = from(p, t[3 * i]!, at)
    const [bx, by, bz] = from(p, t[3 * i + 1]!, at)
    const [cx, cy, cz] = from(p, t[3 * i + 2]!, at)
    const [a, b, c] = [Math.hypot(ax, ay, az), Math.hypot(bx, by, bz), Math.hypot(cx, cy, cz)]
    const triple = ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx)
    const under =
      a * b * c +
      (ax * bx + ay * by + az * bz) * c +
      (bx * cx + by * cy + bz * cz) * a +
      (cx * ax + cy * ay + cz * az) * b
    sum += 2 * Math.atan2(triple, under)
  }
  return sum / (4 * Math.PI)
}
const from = (p: TriMesh['positions'], v: number, at: P3): P3 => [
  p[3 * v]! - at[0],
  p[3 * v + 1]! - at[1],
  p[3 * v + 2]! - at[2],
]

function tripleFrom(o: P3, p: P3, q: P3, r: P3): number {
  const [ax, ay, az] = [p[0] - o[0], p[1] - o[1], p[2] - o[2]]
  const [bx, by, bz] = [q[0] - o[0], q[1] - o[1], q[2] - o[2]]
  const [cx, cy, cz] = [r[0] - o[0], r[1] - o[1], r[2] - o[2]]
  return ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx)
}
