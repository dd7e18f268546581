import { fixed, type P2, type P3 } from '../math'
import { wallField } from '../mesh'
import { wallAlong } from '../turned'
import type { GaugeSpec, Reading } from './spec'

/** Words of a wall, and of what takes its place where the air between two sides is read. */
const WALL = { least: 'thinnest', most: 'thickest' }
const text = (x: number) => `${fixed(x, 2)} mm`

/** A reading from its extremes and its mean. */
export const widthReading = (
  w: Record<'min' | 'max', { at: P2 | P3; wall: number }> & { mean: number },
  over: string,
  words = WALL,
): Reading => ({
  low: w.min.wall,
  high: w.max.wall,
  text:
    w.max.wall - w.min.wall < 0.005
      ? text(w.min.wall)
      : `${fixed(w.min.wall, 2)}–${fixed(w.max.wall, 2)} mm`,
  rows: [
    { label: words.least, text: text(w.min.wall) },
    { label: `mean ${over}`, text: text(w.mean) },
    { label: words.most, text: text(w.max.wall) },
  ],
  places: [
    { at: w.min.at, label: `${words.least} ${text(w.min.wall)}` },
    { at: w.max.at, label: `${words.most} ${text(w.max.wall)}` },
  ],
})

const NONE = 'No two sides of the body face each other, so it has no wall.'

export const wallGauge: GaugeSpec = {
  kind: 'wall',
  label: 'Wall',
  help: 'Thinnest and thickest wall, by the largest ball that fits between both sides; where both run together in an edge there is none. Of bodies of surfaces the places found on their triangles are followed on the surfaces themselves, to 0.001 mm; bodies of triangles are as near as these, and nothing under 0.05 mm is read.',
  unit: 'mm',
  target: 'wall',
  params: [],
  ofSection({ turned }) {
    const w = wallAlong(turned)
    if (!w) return 'The body is solid all through, so it has no wall.'
    return widthReading(w, 'along the section')
  },
  ofWalls: (walls) => (walls ? widthReading(walls, 'over the surface') : NONE),
  ofSolid({ mesh }) {
    const w = mesh && wallField(mesh)
    return w ? widthReading(w, 'over the surface') : NONE
  },
}
