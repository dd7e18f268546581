export {
  dragTo,
  followsCurve,
  type Held,
  type HoldState,
  hold,
  type Loose,
  type Travel,
  tryValue,
} from './hold'
export { AXIS, ORIGIN } from './names'
export { splineOf } from './runs'
export {
  DIMENSIONS,
  type Dimensioned,
  type DimensionKind,
  dimensionSchema,
  RELATIONS,
  type Relation,
  type RelationKind,
  relationSchema,
  shapeOfRefs,
} from './schema'
export { applicable, type Suggestion, suggestions } from './suggest'
export { entityOf } from './system'
export { relationWords, withoutHold } from './words'
