export { type Arrangement, arrange, flip, type Piece, pruneEnds, type Seg } from './arrangement'
export { type BandNames, bandAlong } from './band'
export { type CellRef, cellAt, cellOf, cellRef, cellsOf, insideOf } from './cells'
export { openChains } from './chains'
export { CUT, combine, JOIN, type Keep, MEET } from './combine'
export {
  DRAWING_REACH,
  type Drawing,
  type Drawn,
  type DrawnPoint,
  drawingSchema,
  type Entity,
  emptyDrawing,
  endsOf,
  type Pattern,
  pointsOf,
  pruned,
  type Read,
  type Source,
  type Value,
  valueSchema,
} from './drawing'
export {
  Builder,
  breakAtCrossings,
  chamferAt,
  circleThrough,
  ellipseAbout,
  extendAt,
  filletAt,
  type Gap,
  holdIds,
  mirrored,
  offsetChain,
  offsetPieces,
  partOf,
  polygon,
  rectangle,
  rectangleAbout,
  slot,
  transformed,
  trimAt,
  withHolds,
  withPart,
  withPlaces,
} from './edit'
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
  regionsOf,
  type Side,
  segsOf,
  sideOf,
  touchesItself,
} from './region'
export {
  type Axis,
  type Shape,
  type Sources,
  shapeOf,
} from './shape'
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
export { liesLeft, turningRegions } from './turning'
