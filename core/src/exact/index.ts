export { jobKey, type KernelJob, type PartKey, partKey, splitKey } from './job'
export { type Outline, outlineOf, wiresOf } from './outline'
export { type ExactEdge, type ExactFace, type ExactPart, SHOWN } from './part'
export {
  edgeNames,
  edgeRef,
  faceName,
  faceRef,
  realEdges,
  resolveEdge,
  resolveFace,
  sizeOf,
} from './references'
export { loadShapes, ShapeStore } from './store'
export type { Bench, Sheet, VerbArgs } from './verbs'
