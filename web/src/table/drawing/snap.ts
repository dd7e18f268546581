import type { P2 } from '@ivory/core/math'
import type { Hint, Spot } from './edits'

export interface Snap extends Spot {
  /** What it snapped to, in words. */
  to: string
  holds?: Hint[]
}

/**
 * Where the pointer means: an existing point, the axis, level with or upright over the last point,
 * the grid. `reach` is how near counts, mm; `grid` the grid step, mm (0: none).
 */
export function snapTo(
  p: P2,
  options: { points: Record<string, P2>; last: P2 | null; reach: number; grid: number },
): Snap {
  const { points, last, reach, grid } = options
  let near: { id: string; d: number } | null = null
  for (const [id, q] of Object.entries(points)) {
    const d = Math.hypot(q[0] - p[0], q[1] - p[1])
    if (d <= reach && (!near || d < near.d)) near = { id, d }
  }
  if (near) return { at: points[near.id]!, id: near.id, to: `point ${near.id}` }
  const onGrid = (x: number) => (grid > 0 ? Math.round(x / grid) * grid : x)
  let [x, y] = p
  const words: Hint[] = []
  if (Math.abs(x) <= reach) {
    x = 0
    words.push('axis')
  } else if (last && Math.abs(x - last[0]) <= reach) {
    x = last[0]
    words.push('upright')
  } else x = onGrid(x)
  if (last && Math.abs(y - last[1]) <= reach) {
    y = last[1]
    words.push('level')
  } else if (Math.abs(y) <= reach) {
    y = 0
    words.push('base')
  } else y = onGrid(y)
  return { at: [x, y], to: words.join(', ') || (grid > 0 ? 'grid' : ''), holds: words }
}

/** A round grid step that is at least `pixels` wide on screen. */
export function gridStep(mmPerPixel: number, pixels: number): number {
  const least = mmPerPixel * pixels
  const power = 10 ** Math.floor(Math.log10(least))
  for (const m of [1, 2, 5, 10]) if (m * power >= least) return m * power
  return 10 * power
}
