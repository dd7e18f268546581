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
export { type PageOf, pageOf, type ShownBody } from './page/page'
export type { Paper } from './print/tiles'
export { PAPERS } from './print/tiles'
export { placeWords } from './readback'
export {
  digestOf,
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

/** What writes PDF is large and seldom wanted: prints in real size, and the report. */
export const printing = () => import('./print')
