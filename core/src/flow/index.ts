export { leastStrain, type Strain } from './flat'
export type { Region, SurfaceGrid } from './grid'
export { type LabelPanel, labelPanel } from './panel'
