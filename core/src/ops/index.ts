export { OPS, opSpec } from './registry'
export type { Field, OpSpec } from './spec'
export {
  type Body,
  type ExactPart,
  type OpContext,
  type OpResult,
  type Plane,
  type Profile,
  START,
  type State,
  sectionOf,
  turnedOf,
  WaitsForKernel,
} from './state'
