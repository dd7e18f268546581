export { dragTo, type Held, type HoldState, hold, type Travel, tryValue } from './hold'
export { followsCurve, type Loose } from './loose'
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
