import { dot3, type P3 } from '../../math'

/** How far a normal leans towards a direction from square to it, deg. */
export const leanOf = (normal: P3, pull: P3): number =>
  (Math.asin(Math.min(1, Math.max(-1, dot3(normal, pull)))) * 180) / Math.PI

/** The share of a triangle in which a value that runs evenly between its corners lies below a limit. */
export function shareBelow(values: readonly number[], limit: number): number {
  const [a, b, c] = [...values].sort((x, y) => x - y) as [number, number, number]
  if (limit <= a) return 0
  if (limit >= c) return 1
  if (limit < b) return (limit - a) ** 2 / ((b - a) * (c - a))
  return 1 - (c - limit) ** 2 / ((c - a) * (c - b))
}

/** x, y and z. */
export const DIRECTIONS: readonly P3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
]
