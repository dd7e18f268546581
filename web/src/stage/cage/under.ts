import { edgesOf } from '@ivory/core/cage'
import { type P3, placeAt } from '@ivory/core/math'
import type { ShownCage } from '@ivory/core/ops'
import { type Camera, Vector3 } from 'three'
import type { CagePick, Spot } from '../../session/cagestate'

/** How near the pointer has to come, px. */
const NEAR = { point: 12, edge: 9 }

type Seen = readonly [x: number, y: number, far: number]

/** The places of a cage on the screen: px in a box of this size, and how far they are. */
export function seenPlaces(
  at: ArrayLike<number>,
  count: number,
  camera: Camera,
  width: number,
  height: number,
): Seen[] {
  const v = new Vector3()
  return Array.from({ length: count }, (_, p) => {
    v.set(...(placeAt(at, p) as [number, number, number]))
    v.project(camera)
    return [((v.x + 1) / 2) * width, ((1 - v.y) / 2) * height, v.z] as const
  })
}

/** Whether a face turns towards the eye: it runs against the clock on the screen. */
function facing(corners: readonly number[], seen: readonly Seen[]): boolean {
  let twice = 0
  for (const [i, p] of corners.entries()) {
    const [a, b] = [seen[p]!, seen[corners[(i + 1) % corners.length]!]!]
    twice += a[0] * b[1] - b[0] * a[1]
  }
  return twice < 0
}

function within(corners: readonly number[], seen: readonly Seen[], x: number, y: number): boolean {
  let odd = false
  for (const [i, p] of corners.entries()) {
    const [a, b] = [seen[p]!, seen[corners[(i + 1) % corners.length]!]!]
    if (a[1] > y !== b[1] > y && x < a[0] + ((y - a[1]) / (b[1] - a[1])) * (b[0] - a[0])) odd = !odd
  }
  return odd
}

function toLine(a: Seen, b: Seen, x: number, y: number): number {
  const [ux, uy] = [b[0] - a[0], b[1] - a[1]]
  const long = ux * ux + uy * uy
  const t = long > 0 ? Math.min(1, Math.max(0, ((x - a[0]) * ux + (y - a[1]) * uy) / long)) : 0
  return Math.hypot(a[0] + t * ux - x, a[1] + t * uy - y)
}

/** Points of faces that turn towards the eye: what only faces turned away have lies behind. */
function inFront(cage: ShownCage, seen: readonly Seen[]): Uint8Array {
  const front = new Uint8Array(cage.points.length)
  for (const { corners } of cage.faces)
    if (facing(corners, seen)) for (const p of corners) front[p] = 1
  return front
}

/** Edges with the words they stand for: their own, that of their row or of their column. */
function linesOf(cage: ShownCage, what: CagePick): { word: string; ends: [number, number] }[] {
  const name = (p: number) => cage.points[p]!
  const columnOf = (p: number) => name(p).slice(name(p).lastIndexOf('.') + 1)
  return what === 'rows'
    ? cage.rows.flatMap(({ name: row, points }) =>
        points.map((p, i) => ({
          word: `row ${row}`,
          ends: [p, points[(i + 1) % points.length]!] as [number, number],
        })),
      )
    : [...edgesOf(cage.faces).values()].flatMap(([p, q]) => {
        if (what === 'edges') return [{ word: `${name(p)}~${name(q)}`, ends: [p, q] }]
        return name(p).includes('.') && columnOf(p) === columnOf(q)
          ? [{ word: `column ${columnOf(p)}`, ends: [p, q] }]
          : []
      })
}

/** The words of all that lies in a loop on the screen; of faces turned away too where it goes through. */
export function cageWithin(
  cage: ShownCage,
  seen: readonly Seen[],
  what: CagePick,
  loop: readonly Spot[],
  through: boolean,
): string[] {
  const corners = loop.map((_, i) => i)
  const spots = loop.map(([x, y]): Seen => [x, y, 0])
  const front = inFront(cage, seen)
  const inside = seen.map(
    ([x, y], p) => (through || front[p] === 1) && within(corners, spots, x, y),
  )
  if (what === 'points') return cage.points.filter((_, p) => inside[p])
  if (what === 'faces')
    return cage.faces
      .filter((f) => (through || facing(f.corners, seen)) && f.corners.every((p) => inside[p]))
      .map((f) => f.name)
  return [
    ...new Set(
      linesOf(cage, what)
        .filter(({ ends: [p, q] }) => inside[p] && inside[q])
        .map((l) => l.word),
    ),
  ]
}

/** The word of what lies under the pointer, what is in front first; null where nothing does. */
export function cageUnder(
  cage: ShownCage,
  seen: readonly Seen[],
  what: CagePick,
  x: number,
  y: number,
): string | null {
  const front = inFront(cage, seen)
  const name = (p: number) => cage.points[p]!
  const least = <T>(all: Iterable<T>, cost: (one: T) => number): T | null => {
    let [best, found]: [number, T | null] = [Number.POSITIVE_INFINITY, null]
    for (const one of all) {
      const c = cost(one)
      if (c < best) [best, found] = [c, one]
    }
    return found
  }
  const behind = (...points: number[]) => (points.every((p) => front[p]) ? 0 : 1000)
  if (what === 'points') {
    const p = least(cage.points.keys(), (p) => {
      const d = Math.hypot(seen[p]![0] - x, seen[p]![1] - y)
      return d <= NEAR.point ? d + behind(p) : Number.POSITIVE_INFINITY
    })
    return p === null ? null : name(p)
  }
  if (what === 'faces') {
    const f = least(cage.faces, ({ corners }) => {
      if (!within(corners, seen, x, y)) return Number.POSITIVE_INFINITY
      const far = corners.reduce((s, p) => s + seen[p]![2], 0) / corners.length
      return far + (facing(corners, seen) ? 0 : 1000)
    })
    return f?.name ?? null
  }
  const lines = linesOf(cage, what)
  const line = least(lines, ({ ends: [p, q] }) => {
    const d = toLine(seen[p]!, seen[q]!, x, y)
    return d <= NEAR.edge ? d + behind(p, q) : Number.POSITIVE_INFINITY
  })
  return line?.word ?? null
}

/** A direction in space as pixels on the screen a millimetre, at a place. */
export function onScreen(
  place: P3,
  way: P3,
  camera: Camera,
  width: number,
  height: number,
): [number, number] {
  const at = [...place, ...place.map((x, k) => x + way[k]!)]
  const [a, b] = seenPlaces(at, 2, camera, width, height)
  return [b![0] - a![0], b![1] - a![1]]
}
