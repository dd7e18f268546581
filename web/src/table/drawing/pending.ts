import {
  arcThrough,
  conjugates,
  ellipse,
  fitSpline,
  flattenParams,
  pointAt,
  uniformSpline,
} from '@ivory/core/curve'
import type { P2 } from '@ivory/core/math'
import type { Tool } from './useDrawing'

/** What is being drawn: the places so far, the pointer's last, and the middle of an arc they settle. */
export interface Pending {
  tool: Tool
  points: P2[]
  via: P2 | undefined
}

/** The curve the pending points stand for, as far as they settle it. */
export function pendingShape({ tool, points, via }: Pending): P2[] {
  const flat = (c: Parameters<typeof pointAt>[0]) =>
    flattenParams(c, 0.05).map((t) => pointAt(c, t))
  const apart = points.filter(
    (p, i) => i === 0 || Math.hypot(p[0] - points[i - 1]![0], p[1] - points[i - 1]![1]) > 1e-6,
  )
  if (apart.length < 2) return apart
  if (tool === 'fit')
    return flat(
      fitSpline(
        apart,
        apart.map(() => ({ hold: 'auto' as const })),
      ),
    )
  if (tool === 'elliptic' && apart.length === 3) {
    const [u, v] = conjugates(apart[0]!, apart[1]!, apart[2]!, Math.PI / 2)
    return flat(ellipse(apart[0]!, u, v, 0, Math.PI / 2))
  }
  if (tool === 'poles') return flat(uniformSpline(apart))
  if (tool === 'arc' && apart.length === 3) return flat(arcThrough(apart[0]!, apart[1]!, apart[2]!))
  if (tool === 'tangent-arc' && via) return flat(arcThrough(apart[0]!, via, apart[1]!))
  if (tool === 'centre-arc' && via && apart.length === 3)
    return flat(arcThrough(apart[1]!, via, apart[2]!))
  if (tool === 'rectangle' || tool === 'rectangle-about') {
    const [p, q] = [apart[0]!, apart[1]!]
    const a: P2 = tool === 'rectangle' ? p : [2 * p[0] - q[0], 2 * p[1] - q[1]]
    return [a, [q[0], a[1]], q, [a[0], q[1]], a]
  }
  if (tool === 'circle') {
    const [c, p] = [apart[0]!, apart[1]!]
    const r = Math.hypot(p[0] - c[0], p[1] - c[1])
    return Array.from(
      { length: 65 },
      (_, i) =>
        [c[0] + r * Math.cos((i * Math.PI) / 32), c[1] + r * Math.sin((i * Math.PI) / 32)] as P2,
    )
  }
  return apart
}
