/** A point or vector in space, mm. */
export type P3 = readonly [number, number, number]

export const add3 = (a: P3, b: P3): P3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]]
export const sub3 = (a: P3, b: P3): P3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]]
export const scale3 = (a: P3, s: number): P3 => [a[0] * s, a[1] * s, a[2] * s]
export const dot3 = (a: P3, b: P3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
export const cross3 = (a: P3, b: P3): P3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
]
/** The place at a share t of the way from a to b. */
export const lerp3 = (a: P3, b: P3, t: number): P3 => add3(a, scale3(sub3(b, a), t))
/** The middle of places. */
export const mean3 = (places: readonly P3[]): P3 =>
  scale3(
    places.reduce((sum, p) => add3(sum, p), [0, 0, 0] as P3),
    1 / places.length,
  )
export const norm3 = (a: P3): number => Math.hypot(a[0], a[1], a[2])
export const unit3 = (a: P3): P3 => {
  const n = norm3(a)
  return n > 0 ? scale3(a, 1 / n) : [0, 0, 0]
}

/** The angle between two unit directions, rad from 0 to pi. */
export const angle3 = (a: P3, b: P3): number => Math.acos(Math.min(1, Math.max(-1, dot3(a, b))))

/** A right-handed frame: a drawing plane's origin with its x, y and normal directions. */
export interface Frame {
  origin: P3
  x: P3
  y: P3
  z: P3
}
/** From plane coordinates (and height along the normal) to space. */
export const toSpace = (f: Frame, u: number, v: number, w = 0): P3 => [
  f.origin[0] + f.x[0] * u + f.y[0] * v + f.z[0] * w,
  f.origin[1] + f.x[1] * u + f.y[1] * v + f.z[1] * w,
  f.origin[2] + f.x[2] * u + f.y[2] * v + f.z[2] * w,
]

/** The i-th place of a list of coordinates, three numbers each. */
export const placeAt = (p: ArrayLike<number>, i: number): P3 => [
  p[3 * i]!,
  p[3 * i + 1]!,
  p[3 * i + 2]!,
]

type Indexed = { positions: ArrayLike<number>; triangles: ArrayLike<number> }

/** The corners of the t-th triangle of an indexed mesh. */
export const cornersAt = ({ positions: p, triangles }: Indexed, t: number): [P3, P3, P3] => [
  placeAt(p, triangles[3 * t]!),
  placeAt(p, triangles[3 * t + 1]!),
  placeAt(p, triangles[3 * t + 2]!),
]

/** Out of the t-th triangle of an indexed mesh, as long as twice its area. */
export function outAt(mesh: Indexed, t: number): P3 {
  const [a, b, c] = cornersAt(mesh, t)
  return cross3(sub3(b, a), sub3(c, a))
}

/** The same of all triangles at each corner, summed: three numbers a corner. */
export function outSums({ positions, triangles }: Indexed): Float64Array {
  const sums = new Float64Array(positions.length)
  for (let t = 0; t < triangles.length / 3; t++) {
    const n = outAt({ positions, triangles }, t)
    for (let k = 0; k < 3; k++)
      for (let j = 0; j < 3; j++) sums[3 * triangles[3 * t + k]! + j]! += n[j]!
  }
  return sums
}

/** Distance of a place from a straight piece between two others, mm. */
export function toSegment(a: P3, b: P3, p: P3): number {
  const u = sub3(b, a)
  const f = Math.min(1, Math.max(0, dot3(sub3(p, a), u) / (dot3(u, u) || 1)))
  return norm3(sub3(p, add3(a, scale3(u, f))))
}

/** A frame about a place whose z is this unit direction; x is any square to it. */
export function frameAlong(origin: P3, z: P3): Frame {
  const x = unit3(cross3(Math.abs(z[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0], z))
  return { origin, x, y: cross3(z, x), z }
}

/** Curvatures under this (1/mm) count as this when they are compared. */
const STRAIGHT = 1e-3

/** How far two curvatures (1/mm) are apart by `off`, as a share of the larger. */
export const curvatureOff = (off: number, k: number, m: number): number =>
  off / Math.max(Math.abs(k), Math.abs(m), STRAIGHT)
