export { sectionDrawing } from './drawing'
export { readDxf, writeDxf } from './dxf'
export { letterOutlines } from './lettering'
export { levelScale } from './levelscale'
export {
  type BodyMeasure,
  MAX_GEOMETRY_BYTES,
  type MeasureReport,
  measureFile,
  measureReport,
  measureWorkpiece,
} from './measure'
export { type BroughtIn, drawingOf, MAX_OUTLINE_BYTES, type Outlines } from './outlines'
export { type Overlap, overlaps } from './overlaps'
export { placeWords } from './readback'
export {
  FINENESS,
  FORMATS,
  type Format,
  fileStem,
  type ReleasedFile,
  release,
  releaseFile,
  volumeDeviation,
} from './release'
export { readSvg, writeSvg } from './svgoutline'
