export {
  expressionFor,
  type GaugeReport,
  rangeOf,
  readGauges,
  type SolveReply,
  type SolveRequest,
  solveWorkpiece,
} from './inquire'
export {
  type OpReport,
  type OpStatus,
  RebuildCache,
  type Rebuilt,
  rebuild,
  rebuildSteps,
} from './rebuild'
export { readSolid, rebuildWith } from './solids'
