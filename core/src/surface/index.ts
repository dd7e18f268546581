export { Way } from './arclength'
export { Interpolation } from './band'
export {
  averagedBasis,
  type Basis,
  basisOf,
  breaksOf,
  countOf,
  creasesIn,
  derivatives,
  evenBasis,
  greville,
  halved,
  PROBES,
  spanOf,
} from './basis'
export { offFrame, onFrame, polyline3, polynomial3, seenOn } from './convert'
export {
  type Arc3,
  type At,
  arcFrom3,
  arcThrough3,
  at3,
  bend3,
  type Curve3,
  end3,
  fitted3,
  interpolated3,
  length3,
  place3,
  reversed3,
  speed3,
  start3,
  through3,
  throughClosed3,
  way3,
} from './curve3'
export { type Field, fitted, fittedBeside, interpolated, placeByPlace, within } from './fit'
export { placesOver } from './grid'
export * from './hollow'
export * from './loft'
export { movedOff, normalOn, ownersOf, type Skin, setOff, skinOfParts, type Wall } from './offset'
export {
  areaVector,
  columnAt,
  evaluate,
  type Jet,
  jet,
  type Patch,
  pointOn,
  rowAt,
} from './patch'
export { type ShownSkin, shownSkin } from './shown'
export { straightPoles } from './straight'
export { areaOf, type Behind, behindPatch, fluxThrough } from './sums'
export { swapped, turnedBasis, turnedU, unitary } from './turned'
