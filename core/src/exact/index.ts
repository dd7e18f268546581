export { alongEdge, exactEnd } from './along'
export { wholeEdge, wholeMiddle } from './around'
export { curveOfWire, edgeCurve } from './edgecurve'
export { formJob, jobKey, type KernelJob, type PartKey, partKey, splitKey } from './job'
export { leanAlong } from './lean'
export { edgesAlike, plainName } from './likewise'
export { joinedUp, type Outline, outlineOf, ringsOf, wiresIn, wiresOf } from './outline'
export {
  type ExactEdge,
  type ExactFace,
  type ExactPart,
  edgeLine,
  faceCentroid,
  SHOWN,
} from './part'
export { patchOf } from './patch'
export {
  edgeNames,
  edgeRef,
  faceName,
  faceRef,
  realEdges,
  realVertices,
  resolveEdge,
  resolveFace,
  resolveVertex,
  sizeOf,
  vertexRef,
} from './references'
export { loadShapes, ShapeStore } from './store'
export { ballSpots, wallOf } from './touching'
export { twinJob } from './twin'
export type { Bench, Sheet, VerbArgs } from './verbs'
export { fullRadius } from './width'
export { CLEAR } from './witness'
