export { type Arrangement, arrange, flip, type Piece, pruneEnds, type Seg } from './arrangement'
export { CUT, combine, JOIN, type Keep, MEET } from './combine'
export {
  type Drawing,
  type DrawnPoint,
  drawingSchema,
  type Entity,
  emptyDrawing,
  endsOf,
  pointsOf,
  pruned,
  type Value,
  valueSchema,
} from './drawing'
export { axisPlacing, type Finding, profileHealth } from './health'
export { type Row, type RowKnown, reckonRow } from './pattern'
export {
  chain,
  enclosed,
  group,
  type Loop,
  lineIntegral,
  loopArea,
  loopsOf,
  type Region,
  regionArea,
  regionsFrom,
  type Side,
  segsOf,
  sideOf,
} from './region'
export { type Axis, type Drawn, looseOf, type Read, type Shape, shapeOf } from './shape'
export {
  AXIS,
  applicable,
  DIMENSIONS,
  type Dimensioned,
  type DimensionKind,
  dragTo,
  type HoldState,
  hold,
  type Loose,
  ORIGIN,
  RELATIONS,
  type Relation,
  type RelationKind,
  relationWords,
  type Suggestion,
  shapeOfRefs,
  suggestions,
  type Travel,
  tryValue,
  withoutHold,
} from './solver'
export { turningRegions } from './turning'
