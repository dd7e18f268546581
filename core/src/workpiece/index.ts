export { type BodyRow, bodyCells, bodyRows, csvOf, type ListedBody, tabbed } from './bodylist'
export {
  type BodyDifference,
  bodiesBeside,
  type Difference,
  type Differences,
  differencesOf,
  type KeptBody,
  type KeptReading,
  type OpDifference,
  type ReadingDifference,
  readingsBeside,
} from './compare'
export {
  type Dimension,
  ExpressionError,
  evaluateExpression,
  inDimension,
  type LengthUnit,
  namesIn,
  type Quantity,
  RESERVED,
} from './expression'
export { type FigureTable, type FigureValue, workOut } from './figures'
export { type KeptFile, packFile, unpackFile } from './files'
export {
  clearing,
  FITS,
  type Fit,
  type FitReckoning,
  limitsOf,
  printedWall,
  reckonFit,
} from './fits'
export { sayIssue } from './issues'
export { AS_WORKED_OUT, asLiked, inFractions, type Liking } from './liked'
export { MATERIALS, materialOf, WATER } from './materials'
export { checkWorkpiece, MAX_BYTES, readWorkpiece, writeWorkpiece } from './read'
export { emptyWorkpiece, insertOp, renumber, shownRoute } from './route'
export { type RowSizes, rowTroubles } from './rows'
export {
  type Brief,
  briefSchema,
  type Figure,
  figureSchema,
  type GaugeDoc,
  gaugeSchema,
  idSchema,
  type Limits,
  type LinkDoc,
  limitsSchema,
  type NoteDoc,
  type Op,
  opSchema,
  TARGETS,
  type Target,
  type Workpiece,
  workpieceSchema,
} from './schema'
export {
  type Material,
  materialSchema,
  PROCESSES,
  type Printer,
  type ProcessLimits,
  printerSchema,
  processSchema,
  readTables,
  START_TABLES,
  type Tables,
  tablesSchema,
} from './tables'
export { neededBy, renewed, taken, usedBy, usersOf } from './taking'
export { sayLengths } from './units'
export { renameFigure, usesOf } from './uses'
