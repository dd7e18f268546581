/** The solver itself, for unknowns of any kind. */
export { conflictOf } from './conflict'
export { add, atan2, constant, type Dual, hypot, mul, over, plus, sub, times } from './dual'
export { dragTo, type Held, type HoldState, hold, type Travel, tryValue } from './hold'
export { linearise, MET, solveLeast } from './least'
export { followsCurve, type Loose } from './loose'
export { AXIS, ORIGIN } from './names'
export { analyseRank } from './rank'
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
export { type Equation, entityOf } from './system'
export { relationWords, withoutHold } from './words'
