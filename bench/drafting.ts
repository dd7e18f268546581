// Drawings to measure the solver, the region search and offsets on.

import { type Curve, line } from '@ivory/core/curve'
import { type Drawing, drawingSchema, type Loose } from '@ivory/core/profile'

type P2 = [number, number]

/**
 * A stepped half-section of `n` lines, alternately level and upright, all but its last step held by a
 * length, and with as many equal-length relations as make two relations or dimensions a line.
 */
export function steppedProfile(n: number): Loose {
  const points: Record<string, P2> = { p0: [0, 0] }
  for (let i = 1; i <= n; i++) {
    const [x, y] = points[`p${i - 1}`]!
    points[`p${i}`] = i % 2 === 1 ? [x + 5, y] : [x, y + 4]
  }
  const lines = Array.from({ length: n }, (_, i) => `l${i}`)
  const hold = (id: string, kind: string, entities: string[], at: string[] = []) => ({
    id,
    kind,
    points: at,
    entities,
  })
  const drawing: Drawing = drawingSchema.parse({
    points: Object.fromEntries(Object.entries(points).map(([id, [x, y]]) => [id, { x, y }])),
    entities: lines.map((id, i) => ({ id, kind: 'line', a: `p${i}`, b: `p${i + 1}` })),
    relations: [
      hold('f', 'fixed', [], ['p0']),
      ...lines.map((l, i) => hold(`d${i}`, i % 2 === 0 ? 'level' : 'upright', [l])),
      ...lines.slice(2, -2).map((l, i) => hold(`e${i}`, 'equal', [lines[i]!, l])),
    ],
    dimensions: [
      { ...hold('w', 'distance', [lines[0]!]), value: 5 },
      { ...hold('h', 'distance', [lines[1]!]), value: 4 },
    ],
  })
  return { drawing, points, radii: {}, targets: { w: 5, h: 4 } }
}

/** A closed outline of n pieces round a circle, in and out by turns. */
export function star(n: number): Curve[] {
  const at = (i: number): P2 => {
    const r = i % 2 === 0 ? 40 : 46
    return [60 + r * Math.cos((2 * Math.PI * i) / n), r * Math.sin((2 * Math.PI * i) / n)]
  }
  return Array.from({ length: n }, (_, i) => line(at(i), at((i + 1) % n)))
}
