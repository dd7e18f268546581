export { OPS, opSpec } from './registry'
export type { Field, OpSpec } from './spec'
export {
  type Body,
  type OpContext,
  type OpResult,
  type Plane,
  type Profile,
  START,
  type State,
} from './state'
