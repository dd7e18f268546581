export {
  expressionFor,
  type GaugeReport,
  rangeOf,
  readGauges,
  type SolveReply,
  type SolveRequest,
  solveWorkpiece,
  tryDimension,
} from './inquire'
export {
  type OpReport,
  type OpStatus,
  RebuildCache,
  type Rebuilt,
  rebuild,
  rebuildSteps,
} from './rebuild'
export { type Reshape, reshape, SHAPES, type ShapeTool } from './reshape'
export { readSolid, rebuildWith } from './solids'
