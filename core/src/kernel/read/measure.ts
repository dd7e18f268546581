import type { TopoDS_Shape } from 'replicad-opencascadejs'
import type { P3 } from '../../math'
import { type Oc, partsOf } from '../explore'
import type { KernelScope } from '../scope'
import type { SolidMeasure } from '../types'
import { boundsOf } from './bounds'

/** How exactly each face is summed up, and the same of shapes of more faces than `MANY`: each has a small share. */
const EXACT = { few: 1e-9, many: 1e-5 }
const MANY = 1000
/** The same of areas, which nothing is decided by: 7e-8 off on a swept band, in half the time. */
const AREA = 1e-6

export function measure(oc: Oc, s: KernelScope, shape: TopoDS_Shape): SolidMeasure {
  const eps = partsOf(oc, s, shape, 'FACE').length > MANY ? EXACT.many : EXACT.few
  const vol = s.keep(new oc.GProp_GProps())
  oc.BRepGProp.VolumeProperties(shape, vol, eps, false, false)
  const surf = s.keep(new oc.GProp_GProps())
  oc.BRepGProp.SurfaceProperties(shape, surf, Math.max(eps, AREA), false)
  const c = s.keep(vol.CentreOfMass())
  const shells = partsOf(oc, s, shape, 'SHELL')
  return {
    volume: vol.Mass(),
    area: surf.Mass(),
    centroid: [c.X(), c.Y(), c.Z()] as P3,
    bounds: boundsOf(oc, s, shape),
    closed: shells.length > 0 && shells.every((x) => oc.BRep_Tool.IsClosed(x)),
    valid: isValid(oc, s, shape),
    solids: partsOf(oc, s, shape, 'SOLID').length,
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
