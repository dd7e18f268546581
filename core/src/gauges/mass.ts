import { fixed } from '../math'
import type { GaugeSpec } from './spec'

export const massGauge: GaugeSpec = {
  kind: 'mass',
  label: 'Mass',
  help: 'Material volume times the density of the material chosen for the body or in the brief.',
  unit: 'g',
  target: 'mass',
  params: [],
  ofSolid({ volume: v, density }) {
    if (density === undefined) return 'Choose a material for the body or in the brief.'
    const g = (v / 1000) * density
    return {
      low: g,
      high: g,
      text: `${fixed(g, 1)} g`,
      rows: [
        { label: 'material', text: `${fixed(v / 1000, 2)} cm³` },
        { label: 'density', text: `${density} g/cm³` },
      ],
      places: [],
    }
  },
}
