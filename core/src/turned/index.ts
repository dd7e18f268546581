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
  trappedVolume,
  voidsOf,
  voidVolume,
} from './cavity'
export { type Corner, cornersOf, isSharp, SMOOTH } from './corners'
export { inFrameOf, sameTurn } from './frames'
export { chamferFront, filletFront, roundingMarks } from './fronts'
export { fullRound } from './fullround'
export { liftToSolid, turnedJob } from './lift'
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
  edgeRef,
  type Face,
  faceNames,
  faceRef,
  facesOf,
  resolveEdge,
  resolveFace,
} from './references'
export { type ShellResult, shell, shellMarks } from './shell'
export { splitAt } from './split'
export {
  type DisplayMesh,
  displayMesh,
  type Fineness,
  facetsAround,
  SECTION,
  type SolidMesh,
  sectionLines,
  shownMesh,
  solidMesh,
} from './tessellate'
export { thinnestNeck, type WallReading, type WallSpot, wallAlong, wallOver } from './wall'
