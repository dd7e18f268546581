export { type Crease, type CreaseLine, creaseLines } from './creases'
export { cageCrossing } from './crossing'
export { pointsOf } from './doctor/cures'
export { examined, type Finding, shareOf, worth } from './doctor/examine'
export { startCarried, startRegion } from './drawn'
export * from './edit'
export { finer } from './finer'
export { formKept } from './keep'
export { laidOnto, layOf, pulledTo } from './lay'
export {
  type Cage,
  type CageFace,
  ENDLESS,
  edgeKey,
  edgeOfKey,
  edgesOf,
  facesAtEdges,
  type Layout,
} from './layout'
export { meshed } from './meshed'
export { type CageSkin, CageSkinner, levelsFor } from './skin'
export { startBox, startCylinder, startGiven, startPlane, startRing } from './start'
export { type Surfaced, surfaced } from './surfaced'
export {
  edgesAlike,
  madeAlike,
  motionsOf,
  movedAlike,
  type Orbits,
  orbitsOf,
  type Symmetry,
  withCopies,
} from './symmetry'
export { type Table, tableOf } from './table'
export { startTurned } from './turned'
