import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { outSums } from '../../math'
import type { Oc } from '../explore'
import type { KernelScope } from '../scope'
import type { Anatomy } from '../types'

/** How near triangles that show a shape come to it, mm and rad. */
export const SHOWN = { chord: 0.05, angle: 0.2 }

/** Triangles with normals, and which face of the shape each run of them is of: start, count and hash. */
export type ShownSkin = Pick<Anatomy, 'positions' | 'normals' | 'triangles'> & {
  groups: Uint32Array
}

/** Numbers at an address, which the kernel gives as a signed one: past 2 GB it is below 0. */
export const floats = (oc: Oc, at: number, n: number) =>
  new Float32Array(oc.wasmMemory.buffer, at >>> 0, n).slice()
export const ints = (oc: Oc, at: number, n: number) =>
  new Uint32Array(oc.wasmMemory.buffer, at >>> 0, n).slice()

/** The triangles that show a shape, with the normals of its surfaces, and which belong to which face. */
export function shownSkin(
  oc: Oc,
  s: KernelScope,
  shape: TopoDS_Shape,
  chord: number,
  angle: number,
): ShownSkin {
  const mesh = s.keep(oc.ReplicadMeshExtractor.extract(shape, chord, angle, false))
  const skin = {
    positions: floats(oc, mesh.getVerticesPtr(), mesh.getVerticesSize()),
    normals: floats(oc, mesh.getNormalsPtr(), mesh.getNormalsSize()),
    triangles: ints(oc, mesh.getTrianglesPtr(), mesh.getTrianglesSize()),
    groups: ints(oc, mesh.getFaceGroupsPtr(), mesh.getFaceGroupsSize()),
  }
  rightPoles(skin)
  return skin
}

/** Where a surface has no normal (a pole) the kernel may tell one that looks inward: there that of the triangles is taken. */
function rightPoles({ positions, normals, triangles }: Omit<ShownSkin, 'groups'>): void {
  const sums = outSums({ positions, triangles })
  for (let v = 0; v < normals.length; v += 3) {
    const [x, y, z] = [sums[v]!, sums[v + 1]!, sums[v + 2]!]
    if (x * normals[v]! + y * normals[v + 1]! + z * normals[v + 2]! >= 0) continue
    const l = Math.hypot(x, y, z)
    normals[v] = x / l
    normals[v + 1] = y / l
    normals[v + 2] = z / l
  }
}
