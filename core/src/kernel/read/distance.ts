import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { Numbered, type Oc, partsOf } from '../explore'
import { together } from '../make/move'
import { type KernelScope, scoped } from '../scope'

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
    // Nodes along the border lie on its edges, which may run beside the surface by what they tolerate; on flat faces there are no others.
    const surface = s.keep(new oc.BRepAdaptor_Surface(face, true))
    const node = (n: number) => {
      const uv = s.keep(mesh.UVNode(n))
      return [uv.X(), uv.Y()] as const
    }
    const middle = (n: number) => {
      const t = s.keep(mesh.Triangle(n))
      const [a, b, c] = [node(t.Value(1)), node(t.Value(2)), node(t.Value(3))]
      return [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3] as const
    }
    const [nodes, all] = [mesh.NbNodes(), mesh.NbNodes() + mesh.NbTriangles()]
    const step = Math.max(1, Math.floor(all / per))
    for (let n = 1; n <= all; n += step) {
      const p = s.keep(surface.EvalD0(...(n <= nodes ? node(n) : middle(n - nodes))))
      // One after the other is given back: each holds as much as the faces.
      scoped((own) => {
        const vertex = own.keep(own.keep(new oc.BRepBuilderAPI_MakeVertex(p)).Vertex())
        const measured = own.keep(new oc.BRepExtrema_DistShapeShape(vertex, target))
        if (measured.IsDone()) out.push(measured.Value())
      })
    }
    return out
  })
}
