import { fixed } from '../math'
import type { GaugeSpec } from './spec'

/** Area of a round strand of this width, mm2. */
const strand = (across: number): number => (Math.PI * across ** 2) / 4

export const filamentGauge: GaugeSpec = {
  kind: 'filament',
  label: 'Filament',
  help: 'Length of filament in a solid print of the body: its volume over the area of the strand. Supports, brims and what is purged come on top; sparse infill takes less.',
  unit: 'm',
  params: [
    {
      name: 'across',
      label: 'strand, mm',
      help: 'Width of the filament; 1.75 and 2.85 are common practice, no source.',
      start: 1.75,
    },
  ],
  ofSolid({ volume, density }, params) {
    const across = Number(params.across ?? 1.75)
    if (!(across > 0)) return 'The filament is wider than 0.'
    const metres = volume / strand(across) / 1000
    return {
      low: metres,
      high: metres,
      text: `${fixed(metres, 2)} m`,
      rows: [
        { label: 'volume', text: `${fixed(volume / 1000, 2)} cm³` },
        ...(density === undefined
          ? []
          : [{ label: 'mass', text: `${fixed((volume / 1000) * density, 1)} g` }]),
      ],
      places: [],
    }
  },
}
