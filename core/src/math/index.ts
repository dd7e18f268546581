export { conjugate } from './conjugate'
export { hermite, monotone } from './hermite'
export { freshId } from './ids'
export {
  after,
  type Motion,
  mirrorIn,
  moved,
  scaleFrom,
  shift,
  stretchFrom,
  turnAbout,
  turnTo,
  undone,
} from './motion'
export {
  bad,
  type Diagnosis,
  type Fix,
  good,
  inSpace,
  mm,
  type Outcome,
  type Place,
} from './outcome'
export { gaussRule, integrate, integrateEach, integrateTo } from './quadrature'
export { brent, goldenMin } from './roots'
export { fixed, rounded } from './round'
export { downhill } from './simplex'
export { ANGLE, FIT, MODEL, POINT } from './tolerance'
export {
  add,
  along,
  type Box2,
  boxDistance,
  boxesMeet,
  cross,
  dist,
  dot,
  emptyBox,
  growBox,
  left,
  lerp,
  norm,
  type P2,
  polar,
  scale,
  sub,
  turn,
  unit,
} from './vec2'
export {
  add3,
  angle3,
  cornersAt,
  cross3,
  curvatureOff,
  dot3,
  type Frame,
  frameAlong,
  lerp3,
  mean3,
  norm3,
  outAt,
  outSums,
  type P3,
  placeAt,
  scale3,
  sub3,
  toSegment,
  toSpace,
  unit3,
} from './vec3'
