import { gapField } from '../mesh'
import { shownMesh } from '../turned'
import type { GaugeSpec, Reading, TrueWalls } from './spec'
import { widthReading } from './wall'

const NONE = 'No two sides of the body face each other across a gap.'
const read = (w: TrueWalls | null): Reading | string =>
  w ? widthReading(w, 'over the surface', { least: 'narrowest', most: 'widest' }) : NONE

export const gapGauge: GaugeSpec = {
  kind: 'gap',
  label: 'Gap in it',
  help: 'Narrowest and widest gap between sides of one body that face each other, as between the turns of a coil or in a slot: the largest ball that fits between them outside the material; of bodies of surfaces the places found on their triangles are followed on the surfaces themselves.',
  unit: 'mm',
  params: [],
  side: 'out',
  ofWalls: read,
  ofSection: ({ turned }) => read(gapField(shownMesh(turned))),
  ofSolid: ({ mesh }) => (mesh ? read(gapField(mesh)) : 'Its triangles are not there.'),
}
