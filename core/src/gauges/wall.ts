import { fixed } from '../math'
import { wallAlong } from '../turned'
import type { GaugeSpec } from './spec'

export const wallGauge: GaugeSpec = {
  kind: 'wall',
  label: 'Wall',
  help: 'Thinnest and thickest wall along the section, by the largest ball that fits between both sides.',
  unit: 'mm',
  target: 'wall',
  params: [],
  ofSection({ turned }) {
    const w = wallAlong(turned)
    if (!w) return 'The body is solid all through, so it has no wall.'
    const text = (x: number) => `${fixed(x, 2)} mm`
    return {
      low: w.min.wall,
      high: w.max.wall,
      text:
        w.max.wall - w.min.wall < 0.005
          ? text(w.min.wall)
          : `${fixed(w.min.wall, 2)}–${fixed(w.max.wall, 2)} mm`,
      rows: [
        { label: 'thinnest', text: text(w.min.wall) },
        { label: 'mean along the section', text: text(w.mean) },
        { label: 'thickest', text: text(w.max.wall) },
      ],
      places: [
        { at: w.min.at, label: `thinnest ${text(w.min.wall)}` },
        { at: w.max.at, label: `thickest ${text(w.max.wall)}` },
      ],
    }
  },
}
