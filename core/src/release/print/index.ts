export { type Lines, printedPdf } from './printed'
export { type Reported, reportPdf } from './report'
export { PAPERS, type Paper } from './tiles'
