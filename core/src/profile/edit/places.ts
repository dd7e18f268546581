import type { Drawing } from '../drawing'

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
  const near = (x: number) => Number(x.toFixed(6)) + 0
  return {
    ...d,
    points: Object.fromEntries(
      Object.entries(d.points).map(([id, p]) => {
        const at = points[id]
        if (!at) return [id, p]
        return [
          id,
          {
            x: typeof p.x === 'number' ? near(at[0]) : p.x,
            y: typeof p.y === 'number' ? near(at[1]) : p.y,
          },
        ]
      }),
    ),
    entities: d.entities.map((e) =>
      e.kind === 'circle' && typeof e.radius === 'number' && radii[e.id] !== undefined
        ? { ...e, radius: near(radii[e.id]!) }
        : e,
    ),
  }
}
