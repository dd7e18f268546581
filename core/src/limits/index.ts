export { type WorkingRange, workingRange } from './range'
export { type Solutions, solveFor } from './solve'
