import type { TopoDS_Edge, TopoDS_Shape } from 'replicad-opencascadejs'
import type { P3 } from '../../math'
import { type Oc, topologyOf } from '../explore'
import type { KernelScope } from '../scope'
import { originsOf } from '../trace'
import { type EdgeWork, KernelError } from '../types'

export function fillet(oc: Oc, s: KernelScope, given: TopoDS_Shape, work: readonly EdgeWork[]) {
  const maker = s.keep(
    new oc.BRepFilletAPI_MakeFillet(given, oc.ChFi3d_FilletShape.ChFi3d_Rational),
  )
  const { edges } = topologyOf(oc, s, given)
  for (const { edge, size, end } of work) {
    const e = s.keep(oc.TopoDS.Edge(edges.all[edge]!))
    if (end === undefined) maker.Add(size, e)
    else maker.Add(size, end, e)
  }
  maker.Build(s.keep(new oc.Message_ProgressRange()))
  if (!maker.IsDone()) {
    const faulty: P3[] = []
    for (let i = 1; i <= maker.NbFaultyContours(); i++) {
      const contour = maker.FaultyContour(i)
      for (let j = 1; j <= maker.NbEdges(contour); j++)
        faulty.push(middleOf(oc, s, s.keep(maker.Edge(contour, j))))
    }
    throw new KernelError('The kernel finds no rounding here.', faulty)
  }
  const shape = s.keep(maker.Shape())
  return { shape, origins: originsOf(oc, s, shape, [given], maker, true) }
}

export function chamfer(oc: Oc, s: KernelScope, given: TopoDS_Shape, work: readonly EdgeWork[]) {
  const maker = s.keep(new oc.BRepFilletAPI_MakeChamfer(given))
  const { edges, faces, facesOfEdge } = topologyOf(oc, s, given)
  for (const { edge, size, end } of work) {
    const e = s.keep(oc.TopoDS.Edge(edges.all[edge]!))
    if (end === undefined || end === size) maker.Add(size, e)
    else maker.Add(size, end, e, s.keep(oc.TopoDS.Face(faces.all[facesOfEdge[edge]![0]!]!)))
  }
  maker.Build(s.keep(new oc.Message_ProgressRange()))
  if (!maker.IsDone()) throw new KernelError('The kernel finds no bevel here.')
  const shape = s.keep(maker.Shape())
  return { shape, origins: originsOf(oc, s, shape, [given], maker, true) }
}

/** The place half-way along an edge by its parameter. */
function middleOf(oc: Oc, s: KernelScope, e: TopoDS_Edge): P3 {
  const c = s.keep(new oc.BRepAdaptor_Curve(e))
  const p = s.keep(c.EvalD0((c.FirstParameter() + c.LastParameter()) / 2))
  return [p.X(), p.Y(), p.Z()]
}
