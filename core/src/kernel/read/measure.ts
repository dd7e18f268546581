import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { Numbered, type Oc, partsOf } from '../explore'
import { isForward } from '../make/sew'
import type { KernelScope } from '../scope'
import type { SolidMeasure } from '../types'
import { boundsOf } from './bounds'
import type { ShownSkin } from './skin'
import { areasOf, type FaceSums, volumeOf } from './sums'

/** Measures a shape, from what is known of its faces; its skin is asked for where free faces need it. */
export function measure(
  oc: Oc,
  s: KernelScope,
  shape: TopoDS_Shape,
  sums: FaceSums,
  skin: () => ShownSkin,
): SolidMeasure {
  const { volume, centroid } = volumeOf(oc, s, shape, sums)
  const areas = areasOf(oc, s, shape, sums)
  const faces = partsOf(oc, s, shape, 'FACE')
  const once = new Numbered(oc, faces)
  const shells = partsOf(oc, s, shape, 'SHELL')
  const solids = partsOf(oc, s, shape, 'SOLID')
  return {
    volume,
    area: faces.reduce((sum, f) => sum + areas[once.of(f)]!, 0),
    centroid,
    bounds: boundsOf(oc, s, shape, skin),
    closed: shells.length > 0 && shells.every((x) => oc.BRep_Tool.IsClosed(x)),
    // A solid that is turned by its flag alone passes the kernel's check, and is taken the other way round by what works on it.
    valid: isValid(oc, s, shape) && solids.every((x) => isForward(oc, x)),
    solids: solids.length,
  }
}

/** The kernel's own check. Unless it goes on to something small, what checked keeps some 40 kB when given back. */
function isValid(oc: Oc, s: KernelScope, shape: TopoDS_Shape): boolean {
  const check = s.keep(new oc.BRepCheck_Analyzer(shape, true, false, false))
  const valid = check.IsValid()
  const vertex = s.keep(new oc.BRepBuilderAPI_MakeVertex(s.keep(new oc.gp_Pnt(0, 0, 0))))
  check.Init(s.keep(vertex.Vertex()), false)
  return valid
}
