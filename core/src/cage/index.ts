export { startCarried, startRegion } from './begin/drawn'
export { startBox, startCylinder, startGiven, startPlane, startRing } from './begin/start'
export { startTurned } from './begin/turned'
export { type Crease, type CreaseLine, creaseLines } from './creases'
export { cageCrossing } from './crossing'
export { pointsOf, type Shaping } from './doctor/cure'
export { examined, type Finding, shareOf, worth } from './doctor/examine'
export * from './edit'
export { meshed } from './faces/meshed'
export { type Surfaced, surfaced } from './faces/surfaced'
export { finer } from './kept/finer'
export { formKept } from './kept/keep'
export { laidOnto, layOf, pulledTo } from './kept/lay'
export {
  type Cage,
  type CageFace,
  ENDLESS,
  edgeKey,
  edgeOfKey,
  edgesOf,
  facesAtEdges,
  type Layout,
  neighbours,
} from './layout'
export { type CageSkin, CageSkinner, levelsFor } from './limit/skin'
export { type Table, tableOf } from './limit/table'
export {
  edgesAlike,
  letGoOf,
  madeAlike,
  mirrored,
  motionsOf,
  movedAlike,
  type Orbits,
  orbitsOf,
  type Symmetry,
  withCopies,
} from './symmetry'
