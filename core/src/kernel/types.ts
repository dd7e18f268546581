import type { P3 } from '../math'

/** An edge of a planar face in space, mm. */
export type WireCurve =
  | { kind: 'line'; a: P3; b: P3 }
  | { kind: 'arc'; a: P3; mid: P3; b: P3 }
  | { kind: 'spline'; degree: number; knots: number[]; poles: P3[] }

/** A planar face by its loops, outer first. */
export type PlanarFace = WireCurve[][]

/** A solid kept in the kernel; good until freed. */
export interface SolidHandle {
  readonly id: number
}

export interface SolidMeasure {
  /** mm3, mm2, mm. */
  volume: number
  area: number
  centroid: P3
  bounds: { min: P3; max: P3 }
  /** No free edges. */
  closed: boolean
  /** The kernel's own check of its geometry and topology. */
  valid: boolean
  solids: number
}

export interface KernelMesh {
  positions: Float64Array
  triangles: Uint32Array
}

/** What the exact kernel does for us, in our words. Throws `KernelError` with a sentence. */
export interface Kernel {
  /** Sweeps planar faces about an axis by `angle` rad (2 pi for a whole turn); several give one compound. */
  revolve(faces: PlanarFace[], origin: P3, axis: P3, angle: number): SolidHandle
  fuse(a: SolidHandle, b: SolidHandle): SolidHandle
  measure(s: SolidHandle): SolidMeasure
  /** Triangles within `chord` mm and `angle` rad of the true surface. */
  tessellate(s: SolidHandle, chord: number, angle: number): KernelMesh
  toStep(solids: { solid: SolidHandle; name: string }[]): Uint8Array
  fromStep(bytes: Uint8Array): SolidHandle
  free(s: SolidHandle): void
  /** Solids not yet freed. */
  readonly live: number
}

export class KernelError extends Error {
  override name = 'KernelError'
}
