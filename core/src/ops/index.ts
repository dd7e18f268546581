export { outlineOn } from './draw/project'
export { edgesOn, MOST_EDGES } from './draw/projectedge'
export { sectionPieces } from './draw/projectsection'
export { exactShape } from './exact'
export { foundSymmetry } from './form/cage/begin'
export {
  type CageCure,
  type CageEditGiven,
  type CageExamination,
  examinedCage,
} from './form/cage/examine'
export { type CageEdit, type CageInputs, type CageStart, cageInputs } from './form/cage/inputs'
export { profileCells } from './form/chosen'
export { OPS, opSpec, withDefaults } from './registry'
export type { Field, OpSpec } from './spec'
export {
  type Axis,
  type Body,
  type NextRail,
  type OpContext,
  type OpMade,
  type OpResult,
  type Path,
  type Plane,
  type Point,
  type Profile,
  RoughEnough,
  type Sheet,
  type Shown,
  type ShownCage,
  START,
  type State,
  StoppedKernel,
  said,
  sectionOf,
  type Tool,
  turnedOf,
  WaitsForKernel,
} from './state'
