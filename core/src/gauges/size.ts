import { fixed } from '../math'
import type { GaugeSpec } from './spec'

const text = (x: number) => `${fixed(x, 2)} mm`

export const heightGauge: GaugeSpec = {
  kind: 'height',
  label: 'Height',
  help: 'Overall size along z.',
  unit: 'mm',
  target: 'height',
  params: [],
  ofSolid({ bounds }) {
    const { min, max } = bounds
    const h = max[2] - min[2]
    return { low: h, high: h, text: text(h), rows: [], places: [] }
  },
}

export const widthGauge: GaugeSpec = {
  kind: 'width',
  label: 'Width',
  help: 'The larger of the overall sizes along x and y.',
  unit: 'mm',
  target: 'width',
  params: [],
  ofSolid({ bounds }) {
    const { min, max } = bounds
    const [x, y] = [max[0] - min[0], max[1] - min[1]]
    const w = Math.max(x, y)
    return {
      low: w,
      high: w,
      text: text(w),
      rows: [
        { label: 'x', text: text(x) },
        { label: 'y', text: text(y) },
      ],
      places: [],
    }
  },
}
