import {
  add3,
  dot3,
  mean3,
  moved,
  norm3,
  type P3,
  placeAt,
  scale3,
  sub3,
  turnAbout,
  unit3,
} from '../../math'
import { type Cage, neighbours } from '../layout'
import { faceVector } from './extrude'

/** How far each point goes, mm. */
export type Ways = Map<number, P3>

/** Unit normals of points, by the faces about them. */
export function pointNormals({
  faces,
  at,
}: {
  faces: readonly { readonly corners: readonly number[] }[]
  at: Float64Array
}): P3[] {
  const places = Array.from({ length: at.length / 3 }, (_, p) => placeAt(at, p))
  const sums = places.map((): P3 => [0, 0, 0])
  for (const { corners } of faces) {
    const n = faceVector(corners, places)
    for (const p of corners) sums[p] = add3(sums[p]!, n)
  }
  return sums.map(unit3)
}

/** The middle of points, mm. */
export const middleOf = ({ at }: Cage, points: readonly number[]): P3 =>
  mean3(points.map((p) => placeAt(at, p)))

/**
 * Chosen points with what they count, 1, and those about them, less the farther along edges they are: 0 at `reach` mm, by a
 * smooth step.
 */
export function withFalloff(
  cage: Cage,
  points: readonly number[],
  reach: number,
): Map<number, number> {
  const out = new Map(points.map((p) => [p, 1]))
  if (!(reach > 0)) return out
  const far = new Map(points.map((p) => [p, 0]))
  const beside = neighbours(cage)
  const queue = [...points]
  for (const p of queue)
    for (const q of beside[p]!) {
      const d = far.get(p)! + norm3(sub3(placeAt(cage.at, p), placeAt(cage.at, q)))
      if (d >= reach || d >= (far.get(q) ?? Number.POSITIVE_INFINITY)) continue
      far.set(q, d)
      queue.push(q)
    }
  for (const [p, d] of far) {
    const s = 1 - d / reach
    out.set(p, s * s * (3 - 2 * s))
  }
  return out
}

/** Directions by their letters. */
export const AXES = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] } as const

/** What points are turned or sized about: their own middle, or the z axis at its height. */
export const aboutOf = (cage: Cage, points: readonly number[], about: 'own' | 'axis'): P3 => {
  const middle = middleOf(cage, points)
  return about === 'own' ? middle : [0, 0, middle[2]]
}

export function movedBy(counts: ReadonlyMap<number, number>, by: P3): Ways {
  return new Map([...counts].map(([p, w]) => [p, scale3(by, w)]))
}
export function movedOut(cage: Cage, counts: ReadonlyMap<number, number>, by: number): Ways {
  const normals = pointNormals({ faces: cage.layout.faces, at: cage.at })
  return new Map([...counts].map(([p, w]) => [p, scale3(normals[p]!, w * by)]))
}
/** Sizes by x, y and z about a place. */
export function scaledBy(
  { at }: Cage,
  counts: ReadonlyMap<number, number>,
  by: P3,
  about: P3,
): Ways {
  return new Map(
    [...counts].map(([p, w]) => {
      const d = sub3(placeAt(at, p), about)
      return [p, [0, 1, 2].map((k) => w * (by[k]! - 1) * d[k]!) as unknown as P3]
    }),
  )
}
/** Turned by an angle (rad) about a line through a place. */
export function turnedBy(
  { at }: Cage,
  counts: ReadonlyMap<number, number>,
  angle: number,
  about: P3,
  axis: P3,
): Ways {
  return new Map(
    [...counts].map(([p, w]) => {
      const place = placeAt(at, p)
      return [p, sub3(moved(turnAbout(about, axis, w * angle), place), place)]
    }),
  )
}
/** Put onto the plane through a place, square to a unit direction. */
export const flattened = ({ at }: Cage, points: readonly number[], from: P3, normal: P3): Ways =>
  new Map(points.map((p) => [p, scale3(normal, -dot3(sub3(placeAt(at, p), from), normal))]))

/** A ring put onto the circle about the z axis at its mean radius and height, its points where they are round it or evenly. */
export function rounded(cage: Cage, ring: readonly number[], evenly: boolean): Ways {
  const places = ring.map((p) => placeAt(cage.at, p))
  const middle = middleOf(cage, ring)
  const out = places.map((p) => sub3(p, middle))
  const radius = out.reduce((s, d) => s + Math.hypot(d[0], d[1]), 0) / ring.length
  const first = Math.atan2(out[0]![1], out[0]![0])
  const way = Math.sign(out[0]![0] * out[1]![1] - out[0]![1] * out[1]![0]) || 1
  return new Map(
    ring.map((p, k) => {
      const [x, y] = out[k]!
      const a = evenly ? first + (way * 2 * Math.PI * k) / ring.length : Math.atan2(y, x)
      const to: P3 = [middle[0] + radius * Math.cos(a), middle[1] + radius * Math.sin(a), middle[2]]
      return [p, sub3(to, places[k]!)]
    }),
  )
}

/** Each point half way to the middle of those beside it, so many times; the others stay. */
export function relaxed(cage: Cage, points: readonly number[], rounds: number): Ways {
  const beside = neighbours(cage)
  let at = cage.at
  for (let k = 0; k < rounds; k++) {
    const next = at.slice()
    for (const p of points) {
      const middle = middleOf({ ...cage, at }, beside[p]!)
      for (let d = 0; d < 3; d++) next[3 * p + d] = (at[3 * p + d]! + middle[d]!) / 2
    }
    at = next
  }
  return new Map(points.map((p) => [p, sub3(placeAt(at, p), placeAt(cage.at, p))]))
}
