export { Bundle, type BundleHit } from './bundle'
export { arcAbout, arcTangent, arcThrough } from './circle'
export {
  boundsOf,
  curvatureAt,
  endOf,
  evaluate,
  extremes,
  lengthOf,
  type Placing,
  placeCurve,
  pointAt,
  reverse,
  smoothBreaks,
  startOf,
  subCurve,
  tangentAt,
} from './curve'
export { conjugates, ellipse } from './ellipse'
export { type EndCondition, fitSpline, HANDLE_REACH, type Handle } from './fit'
export { flattenParams } from './flatten'
export { intersect, type Meeting, selfIntersect } from './intersect'
export { type Nearest, nearest } from './nearest'
export { offsetCurve } from './offset'
export {
  basis,
  elevate,
  findSpan,
  insertKnot,
  joinSpans,
  spansOf,
  spline,
  uniformSpline,
} from './spline'
export { type Arc, arc, type Curve, type Line, line, type Spline } from './types'
