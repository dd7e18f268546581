export { loadKernel } from './occt'
export { SHOWN } from './read/skin'
export { asPatch } from './read/surfaces'
export { KernelScope, scoped } from './scope'
export {
  type Anatomy,
  type Ball,
  type BallSpot,
  type BentSkin,
  type EdgeInfo,
  type EdgeWork,
  type FaceInfo,
  type Foot,
  type How,
  type Kernel,
  KernelError,
  type KernelMesh,
  type Made,
  type Origin,
  type PlanarFace,
  type Ribbon,
  type RibbonSpot,
  type Seam,
  type Side,
  type SolidHandle,
  type SolidMeasure,
  type SplineFace,
  type SurfaceKind,
  type SurfaceLine,
  type WholeFace,
  type WireCurve,
  type WireRing,
} from './types'
