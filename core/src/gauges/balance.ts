import { extremes, pointAt } from '../curve'
import { POINT } from '../math'
import {
  centroidOf,
  faceSegs,
  filledTo,
  isWhole,
  sectionBounds,
  type TurnedBody,
  volumeOf,
} from '../turned'
import { WATER } from '../workpiece'
import { fixed, type GaugeSpec } from './spec'

/** Radius of the ring the body stands on, mm: the widest place at its lowest level. */
export function footRadius(b: TurnedBody): number {
  const low = sectionBounds(b).min[1]
  let r = 0
  for (const s of faceSegs(b)) {
    for (const t of [0, ...extremes(s.curve, 1), 1]) {
      const p = pointAt(s.curve, t)
      if (p[1] < low + 10 * POINT) r = Math.max(r, p[0])
    }
  }
  return r
}

/** Tipping angle, rad, of a body of revolution standing on a ring: atan(foot radius / height of its centre). */
export const tippingAngle = (foot: number, height: number): number => Math.atan2(foot, height)

const deg = (x: number) => (x * 180) / Math.PI

export const balanceGauge: GaugeSpec = {
  kind: 'tipping',
  label: 'Tipping angle',
  help: 'How far it leans on its foot before it falls over: empty, and filled with water to the brim (taken as not spilling).',
  unit: 'deg',
  target: 'tipping',
  needs: 'section',
  params: [],
  measure({ turned, density, cavity }) {
    if (!isWhole(turned) || Math.abs(turned.frame.z[2]) < 1 - 1e-9) {
      return 'Only a whole turn about an upright axis stands on a foot ring.'
    }
    const low = sectionBounds(turned).min[1]
    const centre = centroidOf(turned)[2] - turned.frame.origin[2]
    const foot = footRadius(turned)
    if (foot < 1e-3) return 'It stands on a point, so it tips at once.'
    const empty = deg(tippingAngle(foot, centre - low))
    const rows = [
      { label: 'foot ring', text: `Ø ${fixed(2 * foot, 2)} mm` },
      { label: 'centre of gravity, empty', text: `${fixed(centre - low, 2)} mm up` },
    ]
    let least = empty
    if (cavity && density !== undefined) {
      const water = filledTo(cavity, cavity.brim)
      const [m, w] = [volumeOf(turned) * density, water.volume * WATER]
      const full = (m * centre + w * water.centre) / (m + w)
      const filled = deg(tippingAngle(foot, full - low))
      least = Math.min(empty, filled)
      rows.push(
        { label: 'centre of gravity, filled', text: `${fixed(full - low, 2)} mm up` },
        { label: 'tips when filled', text: `${fixed(filled, 1)} deg` },
      )
    }
    rows.push({ label: 'tips when empty', text: `${fixed(empty, 1)} deg` })
    return {
      low: least,
      high: least,
      text: `${fixed(least, 1)} deg`,
      rows,
      places: [
        { at: [0, centre], label: 'centre of gravity' },
        { at: [foot, low], label: 'foot' },
      ],
    }
  },
}
