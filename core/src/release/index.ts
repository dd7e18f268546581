export { sectionDrawing } from './drawing'
export {
  type BodyMeasure,
  MAX_GEOMETRY_BYTES,
  type MeasureReport,
  measureFile,
  measureWorkpiece,
} from './measure'
export { writeObj } from './obj'
export {
  FINENESS,
  FORMATS,
  type Format,
  fileStem,
  type ReleasedFile,
  release,
  volumeDeviation,
} from './release'
export { readStl, writeStl } from './stl'
export { writeThreeMf } from './threemf'
