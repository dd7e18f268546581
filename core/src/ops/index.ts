export { outlineOn } from './project'
export { OPS, opSpec, withDefaults } from './registry'
export type { Field, OpSpec } from './spec'
export {
  type Axis,
  type Body,
  type ExactPart,
  type OpContext,
  type OpResult,
  type Plane,
  type Point,
  type Profile,
  START,
  type State,
  sectionOf,
  turnedOf,
  WaitsForKernel,
} from './state'
