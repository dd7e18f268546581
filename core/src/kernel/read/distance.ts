import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { Numbered, type Oc, partsOf } from '../explore'
import { together } from '../make/move'
import type { KernelScope } from '../scope'

/** Face by face, from places on it to the nearest of some faces of another shape, mm. The shape is meshed. */
export function distances(
  oc: Oc,
  s: KernelScope,
  shape: TopoDS_Shape,
  faces: readonly number[],
  other: TopoDS_Shape,
  otherFaces: readonly number[],
  per: number,
): number[][] {
  const mine = new Numbered(oc, partsOf(oc, s, shape, 'FACE')).all
  const theirs = new Numbered(oc, partsOf(oc, s, other, 'FACE')).all
  const target = together(
    oc,
    s,
    otherFaces.map((i) => theirs[i]!),
  ).shape
  return faces.map((i) => {
    const out: number[] = []
    const at = s.keep(new oc.TopLoc_Location())
    const mesh = oc.BRep_Tool.Triangulation(s.keep(oc.TopoDS.Face(mine[i]!)), at, 0)
    if (!mesh) return out
    s.keep(mesh)
    const move = s.keep(at.Transformation())
    const step = Math.max(1, Math.floor(mesh.NbNodes() / per))
    for (let n = 1; n <= mesh.NbNodes(); n += step) {
      const p = s.keep(s.keep(mesh.Node(n)).Transformed(move))
      const vertex = s.keep(s.keep(new oc.BRepBuilderAPI_MakeVertex(p)).Vertex())
      const measured = s.keep(new oc.BRepExtrema_DistShapeShape(vertex, target))
      if (measured.IsDone()) out.push(measured.Value())
    }
    return out
  })
}
