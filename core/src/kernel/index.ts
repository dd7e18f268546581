export { loadKernel } from './occt'
export { KernelScope, scoped } from './scope'
export {
  type Kernel,
  KernelError,
  type KernelMesh,
  type PlanarFace,
  type SolidHandle,
  type SolidMeasure,
  type WireCurve,
} from './types'
