import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { type Oc, partsOf } from '../explore'
import { skin } from '../make/move'
import type { KernelScope } from '../scope'
import { KernelError, type WireCurve } from '../types'
import { wiresOfEdge } from './edgecurve'

interface Faces {
  shape: TopoDS_Shape
  faces: readonly number[]
}

/** The lines in which faces go through each other, in no order: straight and round ones as such. */
export function meetsOf(oc: Oc, s: KernelScope, a: Faces, b: Faces): WireCurve[] {
  const of = ({ shape, faces }: Faces) => skin(oc, s, shape, faces).shape
  const op = s.keep(new oc.BRepAlgoAPI_Section(of(a), of(b), false))
  op.Approximation(true)
  op.Build(s.keep(new oc.Message_ProgressRange()))
  if (op.HasErrors()) throw new KernelError('Where these faces meet could not be worked out.')
  return partsOf(oc, s, s.keep(op.Shape()), 'EDGE').flatMap((e) =>
    wiresOfEdge(oc, s, s.keep(oc.TopoDS.Edge(e))),
  )
}
