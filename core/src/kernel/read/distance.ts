import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { Numbered, type Oc, partsOf } from '../explore'
import { together } from '../make/move'
import type { KernelScope } from '../scope'

/** Face by face, from places on its surface to the nearest of some faces of another shape, mm. The shape is meshed. */
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
    const face = s.keep(oc.TopoDS.Face(mine[i]!))
    const mesh = oc.BRep_Tool.Triangulation(face, s.keep(new oc.TopLoc_Location()), 0)
    if (!mesh) return out
    s.keep(mesh)
    // Nodes along the border lie on its edges, which may run beside the surface by what they tolerate.
    const surface = s.keep(new oc.BRepAdaptor_Surface(face, true))
    const step = Math.max(1, Math.floor(mesh.NbNodes() / per))
    for (let n = 1; n <= mesh.NbNodes(); n += step) {
      const uv = s.keep(mesh.UVNode(n))
      const p = s.keep(surface.EvalD0(uv.X(), uv.Y()))
      const vertex = s.keep(s.keep(new oc.BRepBuilderAPI_MakeVertex(p)).Vertex())
      const measured = s.keep(new oc.BRepExtrema_DistShapeShape(vertex, target))
      if (measured.IsDone()) out.push(measured.Value())
    }
    return out
  })
}
