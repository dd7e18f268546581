export { chamferCorner, filletCorner } from './blend'
export { bodyLoops, FULL_TURN, faceSegs, isWhole, type TurnedBody, turnedPoint } from './body'
export {
  brimVolume,
  type Cavity,
  cavityOf,
  filledTo,
  levelFor,
  liquidAt,
  SURFACE,
  voidsOf,
} from './cavity'
export { type Corner, cornersOf, isSharp, SMOOTH } from './corners'
export { liftToSolid } from './lift'
export {
  areaOf,
  centroidOf,
  sectionAreaOf,
  sectionBounds,
  sectionCentroid,
  spaceBounds,
  volumeOf,
} from './properties'
export {
  type EdgeRef,
  edgeRef,
  edgeRefSchema,
  type Face,
  type FaceRef,
  faceRef,
  faceRefSchema,
  facesOf,
  type Resolved,
  resolveEdge,
  resolveFace,
} from './references'
export { type ShellResult, shell } from './shell'
export { splitAt } from './split'
export {
  type DisplayMesh,
  displayMesh,
  type Fineness,
  facetsAround,
  SECTION,
  type SolidMesh,
  sectionLines,
  solidMesh,
} from './tessellate'
export { insideSegs, type WallReading, type WallSpot, wallAlong, wallOver } from './wall'
