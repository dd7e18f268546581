import { pointAt } from '../curve'
import { fixed, type Place } from '../math'
import { basinOf } from '../mesh'
import {
  brimVolume,
  type Cavity,
  filledTo,
  levelFor,
  type TurnedBody,
  trappedVolume,
  voidVolume,
} from '../turned'
import { fillCurve, heightFor } from './charts'
import type { GaugeSpec, Reading } from './spec'

/** US fluid ounce, ml (NIST Handbook 44). */
const FL_OZ = 29.5735295625

const ml = (mm3: number) => `${fixed(mm3 / 1000, 1)} ml`
const floz = (mm3: number) => `${fixed(mm3 / 1000 / FL_OZ, 2)} US fl oz`

/** Why a body holds nothing, in words. */
export function nothing(sealed: number): string {
  return sealed > 0
    ? `Nothing can be poured in: the hollow of ${ml(sealed)} is closed all round.`
    : 'The body holds nothing: it has no hollow that is open at the top.'
}

/** A reading of a volume, mm3, in both measures. */
export const reading = (v: number, rows: Reading['rows'], places: Reading['places']): Reading => ({
  low: v / 1000,
  high: v / 1000,
  text: ml(v),
  rows: [{ label: 'in US measure', text: floz(v) }, ...rows],
  places,
})

/** What a person would otherwise count in. */
const apart = (cavity: Cavity, turned: TurnedBody): Reading['rows'] => {
  const [air, sealed] = [trappedVolume(cavity), voidVolume(turned)]
  return [
    ...(air > 0 ? [{ label: 'air trapped under the overhang, not counted', text: ml(air) }] : []),
    ...(sealed > 0 ? [{ label: 'closed hollow, not counted', text: ml(sealed) }] : []),
  ]
}

export const capacityGauge: GaugeSpec = {
  kind: 'capacity',
  label: 'Capacity to the brim',
  help: 'What the upright vessel holds before it runs over.',
  unit: 'ml',
  target: 'capacity',
  params: [],
  ofSection({ cavity, turned }) {
    if (!cavity) return nothing(voidVolume(turned))
    return reading(
      brimVolume(cavity),
      [
        { label: 'depth inside', text: `${fixed(cavity.brim - cavity.floor, 2)} mm` },
        ...apart(cavity, turned),
      ],
      [
        { at: [0, cavity.brim], label: 'brim' },
        ...cavity.trapped.map((r) => ({
          at: pointAt(r.outer[0]!.curve, 0.5),
          label: 'trapped air',
        })),
      ],
    )
  },
  ofSolid({ mesh }) {
    const basin = mesh && basinOf(mesh)
    if (!basin || basin.volume === 0) return nothing(basin?.sealed ?? 0)
    const { volume, brim, floor, at, sealed } = basin
    return reading(
      volume,
      [
        { label: 'depth inside', text: `${fixed(brim - floor, 2)} mm` },
        { label: 'read from slices of its triangles', text: 'to about 0.1 %' },
        ...(sealed > 0 ? [{ label: 'closed hollow, not counted', text: ml(sealed) }] : []),
      ],
      [{ at, label: 'brim' }],
    )
  },
}

/** The share of the brim asked for, 0 to 1. */
const shareOf = (params: Readonly<Record<string, number | string>>): number =>
  Math.min(100, Math.max(0, Number(params.share ?? 90))) / 100

const fillReading = (v: number, depth: number, brim: number, at: Place['at']): Reading =>
  reading(
    v,
    [
      { label: 'depth', text: `${fixed(depth, 2)} mm` },
      { label: 'headspace', text: `${fixed(100 * (1 - v / brim), 1)} %` },
    ],
    [{ at, label: 'level' }],
  )

export const fillGauge: GaugeSpec = {
  kind: 'fill',
  label: 'Filled to a level',
  help: 'What it holds up to a level above the inside floor; drag the level on the Stage.',
  unit: 'ml',
  params: [
    { name: 'share', label: 'Fill, % of brim', help: 'Share of the brim volume.', start: 90 },
  ],
  ofSection({ cavity, turned }, params) {
    if (!cavity) return nothing(voidVolume(turned))
    const brim = brimVolume(cavity)
    const level = levelFor(cavity, brim * shareOf(params)) ?? cavity.brim
    return fillReading(filledTo(cavity, level).volume, level - cavity.floor, brim, [0, level])
  },
  ofSolid({ mesh }, params) {
    const basin = mesh && basinOf(mesh)
    const curve = mesh && fillCurve({ mesh })
    if (!basin || !curve) return nothing(basin?.sealed ?? 0)
    const v = basin.volume * shareOf(params)
    const depth = heightFor(curve, v / 1000) ?? basin.brim - basin.floor
    return fillReading(v, depth, basin.volume, [basin.at[0], basin.at[1], basin.floor + depth])
  },
}
