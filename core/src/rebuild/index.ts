export { cageCures, cageSymmetry } from './cages'
export { type Driver, type Drivers, driversOf } from './drivers'
export { linesJob, wallsJob } from './gaugejobs'
export {
  densityOf,
  expressionFor,
  type GaugeReport,
  rangeOf,
  readGauges,
  type SolveReply,
  type SolveRequest,
  solveWorkpiece,
  triangleMesh,
  tryDimension,
} from './inquire'
export { JobResults, STOPPED } from './jobs'
export {
  type OpReport,
  type OpStatus,
  RebuildCache,
  type Rebuilt,
  rebuild,
  rebuildSteps,
} from './rebuild'
export { type Reshape, reshape, SHAPES, type ShapeTool } from './reshape'
export { done, inPlace, type RunJob, rebuildWith, workedOut } from './solids'
export { wallsOf } from './truewalls'
