import { pointAt, tangentAt } from '../../curve'
import { fixed, POINT } from '../../math'
import { faceSegs, type TurnedBody } from '../../turned'
import type { GaugeSpec } from '../spec'

/** Places where a face meets the axis, and how far off square, rad. */
export function polesOf(b: TurnedBody): { at: [number, number]; off: number; face: string }[] {
  return faceSegs(b).flatMap((s) =>
    [0, 1].flatMap((t) => {
      const p = pointAt(s.curve, t)
      if (Math.abs(p[0]) > 10 * POINT) return []
      const u = tangentAt(s.curve, t)
      return [
        {
          at: [0, p[1]] as [number, number],
          off: Math.atan2(Math.abs(u[1]), Math.abs(u[0])),
          face: s.name,
        },
      ]
    }),
  )
}

export const polesGauge: GaugeSpec = {
  kind: 'poles',
  label: 'Poles off square',
  help: 'Where a face meets the axis other than square, the body has a point or a dimple.',
  unit: 'deg',
  params: [],
  ofSection({ turned }) {
    const poles = polesOf(turned)
    if (poles.length === 0) return 'No face meets the axis.'
    const off = poles.map((p) => (p.off * 180) / Math.PI)
    const most = Math.max(...off)
    return {
      low: most,
      high: most,
      text: `${fixed(most, 2)} deg`,
      rows: poles.map((p, i) => ({
        label: `at z ${fixed(p.at[1], 2)} mm`,
        text: `${fixed(off[i]!, 2)} deg`,
      })),
      places: poles.map((p, i) => ({ at: p.at, label: `${fixed(off[i]!, 2)} deg off square` })),
    }
  },
}
