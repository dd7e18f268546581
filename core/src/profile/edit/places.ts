import { rounded } from '../../math'
import type { Drawing } from '../drawing'

/** A coordinate as it is kept: to a nanometre unless finer is asked. */
export const tidy = (x: number, digits = 6): number => rounded(x, digits) + 0

/** The drawing with its plain numbers brought to given places. */
export function withPlaces(
  d: Drawing,
  {
    points,
    radii,
  }: {
    points: Readonly<Record<string, readonly [number, number]>>
    radii: Readonly<Record<string, number>>
  },
): Drawing {
  return {
    ...d,
    points: Object.fromEntries(
      Object.entries(d.points).map(([id, p]) => {
        const at = points[id]
        if (!at) return [id, p]
        return [
          id,
          {
            x: typeof p.x === 'number' ? tidy(at[0]) : p.x,
            y: typeof p.y === 'number' ? tidy(at[1]) : p.y,
          },
        ]
      }),
    ),
    entities: d.entities.map((e) =>
      e.kind === 'circle' && typeof e.radius === 'number' && radii[e.id] !== undefined
        ? { ...e, radius: tidy(radii[e.id]!) }
        : e,
    ),
  }
}
