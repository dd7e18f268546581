import { brimVolume, filledTo, levelFor } from '../turned'
import { fixed, type GaugeSpec } from './spec'

/** US fluid ounce, ml (NIST Handbook 44). */
const FL_OZ = 29.5735295625

const ml = (mm3: number) => `${fixed(mm3 / 1000, 1)} ml`
const floz = (mm3: number) => `${fixed(mm3 / 1000 / FL_OZ, 2)} US fl oz`
const NO_CAVITY = 'The body holds nothing: it has no hollow that is open at the top.'

export const capacityGauge: GaugeSpec = {
  kind: 'capacity',
  label: 'Capacity to the brim',
  help: 'What the upright vessel holds before it runs over.',
  unit: 'ml',
  target: 'capacity',
  needs: 'section',
  params: [],
  measure({ cavity }) {
    if (!cavity) return NO_CAVITY
    const v = brimVolume(cavity)
    return {
      low: v / 1000,
      high: v / 1000,
      text: ml(v),
      rows: [
        { label: 'in US measure', text: floz(v) },
        { label: 'depth inside', text: `${fixed(cavity.brim - cavity.floor, 2)} mm` },
      ],
      places: [{ at: [0, cavity.brim], label: 'brim' }],
    }
  },
}

export const fillGauge: GaugeSpec = {
  kind: 'fill',
  label: 'Filled to a level',
  help: 'What it holds up to a level above the inside floor; drag the level on the Stage.',
  unit: 'ml',
  needs: 'section',
  params: [
    { name: 'share', label: 'Fill, % of brim', help: 'Share of the brim volume.', start: 90 },
  ],
  measure({ cavity }, params) {
    if (!cavity) return NO_CAVITY
    const brim = brimVolume(cavity)
    const share = Math.min(100, Math.max(0, Number(params.share ?? 90))) / 100
    const level = levelFor(cavity, brim * share) ?? cavity.brim
    const v = filledTo(cavity, level).volume
    return {
      low: v / 1000,
      high: v / 1000,
      text: ml(v),
      rows: [
        { label: 'in US measure', text: floz(v) },
        { label: 'depth', text: `${fixed(level - cavity.floor, 2)} mm` },
        { label: 'headspace', text: `${fixed(100 * (1 - v / brim), 1)} %` },
      ],
      places: [{ at: [0, level], label: 'level' }],
    }
  },
}
