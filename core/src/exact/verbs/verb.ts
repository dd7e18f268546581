import type { LabelPanel } from '../../flow'
import type {
  Ball,
  BentSkin,
  Foot,
  Kernel,
  KernelMesh,
  Made,
  Ribbon,
  Seam,
  SolidHandle,
  SurfaceLine,
  WholeFace,
  WireCurve,
} from '../../kernel'
import type { Outcome, P3 } from '../../math'
import type { FacedMesh, MeshSolids } from '../../mesh'

/** A shape in the kernel with the names of its faces, in its order. */
export interface Named {
  shape: SolidHandle
  names: string[][]
  form?: SurfaceForm
}

/** What is read from the surfaces of a body on demand. */
export interface SurfaceForm {
  /** How the faces meet at each edge. */
  seams: (Seam | null)[]
  /** Places pulled onto faces; null where nothing is there. */
  feet: (Foot | null)[]
  /** Where faces go through those of another body, in no order. */
  meets: WireCurve[]
  /** Its triangles, finer than those that show it, where they were asked for. */
  skin: KernelMesh | null
  /** How its surfaces bend all over, where it was asked for. */
  bent: BentSkin | null
  /** The largest balls in it near places. */
  balls: (Ball | null)[]
  /** Lines of its curved faces. */
  lines: SurfaceLine[]
  /** Flat labels on its faces. */
  panels: FacePanel[]
  /** Faces that are whole B-spline surfaces, by number. */
  surfaces: (WholeFace | null)[]
  /** The faces along edges, by the number of the edge. */
  ribbons: Readonly<Record<number, Ribbon[]>>
}

/** The flat label that lies on a face, and the place in its middle, mm; none where it would stretch too much everywhere. */
export interface FacePanel {
  face: number
  at: P3
  panel: LabelPanel | null
}

/** A body of triangles with the names of its faces, and how many triangles were turned over or left out when it was read. */
export interface NamedMesh {
  mesh: FacedMesh
  names: string[][]
  mended?: { turned: number; twice: number; through: P3 | null }
}

/** The kernel for one job: what is made there and does not become a result is given back. */
export interface Bench {
  kernel: Kernel
  meshes: MeshSolids
  /** Notes a shape made on the way. */
  keep(shape: SolidHandle): SolidHandle
  /** The bytes of a kept file. */
  file(id: string): Outcome<Uint8Array>
}

/** One kind of work for the kernel: how it is done and measured, and what its faces are called. */
export interface Verb<A> {
  /** Raise when results change for equal arguments. */
  version: number
  run(bench: Bench, on: readonly Named[], args: A): Outcome<(Named | NamedMesh)[]>
  /** The same where one of the bodies consists of triangles; all are given as such. */
  onMeshes?(bench: Bench, on: readonly NamedMesh[], args: A): Outcome<NamedMesh[]>
}

export const keepMade = (bench: Bench, made: Made): Made => ({
  ...made,
  shape: bench.keep(made.shape),
})
