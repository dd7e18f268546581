export { type Effort, SPARING, type Span, spanAt, type WorkingRange, workingRange } from './range'
export { type Solutions, solveFor } from './solve'
