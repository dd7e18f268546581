/** A point or vector in a drawing plane, mm. In a half-section it is [r, z]. */
export type P2 = readonly [number, number]

export const add = (a: P2, b: P2): P2 => [a[0] + b[0], a[1] + b[1]]
export const sub = (a: P2, b: P2): P2 => [a[0] - b[0], a[1] - b[1]]
export const scale = (a: P2, s: number): P2 => [a[0] * s, a[1] * s]
/** a + s * b */
export const along = (a: P2, b: P2, s: number): P2 => [a[0] + b[0] * s, a[1] + b[1] * s]
export const lerp = (a: P2, b: P2, t: number): P2 => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
]
export const dot = (a: P2, b: P2): number => a[0] * b[0] + a[1] * b[1]
/** z of the cross product: positive when `b` lies to the left of `a`. */
export const cross = (a: P2, b: P2): number => a[0] * b[1] - a[1] * b[0]
// Math.sqrt, not Math.hypot: an order of magnitude faster, and no length here nears overflow.
export const norm = (a: P2): number => Math.sqrt(a[0] * a[0] + a[1] * a[1])
export const dist = (a: P2, b: P2): number => {
  const [x, y] = [a[0] - b[0], a[1] - b[1]]
  return Math.sqrt(x * x + y * y)
}
/** Unit vector, or [0, 0] for a vector of no length. */
export const unit = (a: P2): P2 => {
  const n = norm(a)
  return n > 0 ? [a[0] / n, a[1] / n] : [0, 0]
}
/** `a` turned a quarter to the left. */
export const left = (a: P2): P2 => [-a[1], a[0]]
/** Signed angle from `a` to `b`, rad, in (-pi, pi]. */
export const turn = (a: P2, b: P2): number => Math.atan2(cross(a, b), dot(a, b))
export const polar = (c: P2, radius: number, angle: number): P2 => [
  c[0] + radius * Math.cos(angle),
  c[1] + radius * Math.sin(angle),
]

/** Axis-parallel box, mm. */
export interface Box2 {
  min: [number, number]
  max: [number, number]
}
export const emptyBox = (): Box2 => ({
  min: [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY],
  max: [Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY],
})
export function growBox(box: Box2, p: P2): Box2 {
  for (const k of [0, 1] as const) {
    if (p[k] < box.min[k]) box.min[k] = p[k]
    if (p[k] > box.max[k]) box.max[k] = p[k]
  }
  return box
}
export const boxesMeet = (a: Box2, b: Box2, gap: number): boolean =>
  a.min[0] <= b.max[0] + gap &&
  b.min[0] <= a.max[0] + gap &&
  a.min[1] <= b.max[1] + gap &&
  b.min[1] <= a.max[1] + gap
/** Distance from a point to a box, 0 inside. */
export const boxDistance = (b: Box2, p: P2): number => {
  const x = Math.max(b.min[0] - p[0], 0, p[0] - b.max[0])
  const y = Math.max(b.min[1] - p[1], 0, p[1] - b.max[1])
  return Math.sqrt(x * x + y * y)
}
