import type { MeshCombined } from '../../mesh'
import type { NamedMesh } from './verb'

/** A result of triangles; its faces keep their names, new ones are the op's cut. */
export const fromMeshes = (
  { mesh, from }: MeshCombined,
  on: readonly NamedMesh[],
  op: string,
): NamedMesh => ({
  mesh,
  names: from.map((f) => (f ? (on[f.mesh]!.names[f.face] ?? []) : [`${op}:cut`])),
})
