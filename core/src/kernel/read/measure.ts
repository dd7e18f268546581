import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { add3, type P3, scale3 } from '../../math'
import { Numbered, type Oc, partsOf } from '../explore'
import { together } from '../make/move'
import type { KernelScope } from '../scope'
import type { SolidMeasure } from '../types'
import { boundsOf } from './bounds'
import { behindCarried, isCarried } from './carried'
import { behindTriangles, isSetOff } from './setoff'
import type { ShownSkin } from './skin'

/** How exactly each face is summed up, and the same of shapes of more faces than `MANY`: each has a small share. */
const EXACT = { few: 1e-9, many: 1e-5 }
const MANY = 1000
/** A sum over triangles may be off by some such share, by what lies between their edges and those of the face; the kernel's that differs by more is not believed. */
const MISTRUST = 3e-4
/** The same of areas, which nothing is decided by: 7e-8 off on a swept band, in half the time. */
const AREA = 1e-6

/** How exactly a shape is summed up. */
const exactness = (oc: Oc, s: KernelScope, shape: TopoDS_Shape): number =>
  partsOf(oc, s, shape, 'FACE').length > MANY ? EXACT.many : EXACT.few

/** The area of each face of a shape, each once, in the order they are met, mm2. */
export function areasOf(oc: Oc, s: KernelScope, shape: TopoDS_Shape): number[] {
  const eps = Math.max(exactness(oc, s, shape), AREA)
  return new Numbered(oc, partsOf(oc, s, shape, 'FACE')).all.map((face) => {
    const props = s.keep(new oc.GProp_GProps())
    oc.BRepGProp.SurfaceProperties(face, props, eps, false)
    return props.Mass()
  })
}

/** Measures a shape whose faces have these areas; its skin is asked for where free faces need it. */
export function measure(
  oc: Oc,
  s: KernelScope,
  shape: TopoDS_Shape,
  areas: readonly number[],
  skin: () => ShownSkin,
): SolidMeasure {
  const { volume, centroid } = volumeOf(oc, s, shape, exactness(oc, s, shape), skin)
  const faces = partsOf(oc, s, shape, 'FACE')
  const once = new Numbered(oc, faces)
  const shells = partsOf(oc, s, shape, 'SHELL')
  return {
    volume,
    area: faces.reduce((sum, f) => sum + areas[once.of(f)]!, 0),
    centroid,
    bounds: boundsOf(oc, s, shape, skin),
    closed: shells.length > 0 && shells.every((x) => oc.BRep_Tool.IsClosed(x)),
    valid: isValid(oc, s, shape),
    solids: partsOf(oc, s, shape, 'SOLID').length,
  }
}

/**
 * The volume with its centre. The kernel halves spans until it thinks itself exact, and is off by 1e-4, without a word, on free
 * curves carried straight out: those faces are summed up along their edges, and the rest by the kernel from the same point. On faces
 * set off from free ones it was 1e-3 to 1e-2 off: where a sum over their triangles says so, that is taken.
 */
function volumeOf(oc: Oc, s: KernelScope, shape: TopoDS_Shape, eps: number, skin: () => ShownSkin) {
  const faces = partsOf(oc, s, shape, 'FACE')
  const carried = faces.filter((f) => isCarried(oc, s, f))
  const offset = faces.filter((f) => isSetOff(oc, s, f))
  if (offset.length > 0) skin()
  const astray = offset.filter((f) => strays(oc, s, f, eps))
  const rest =
    carried.length + astray.length === 0
      ? shape
      : together(
          oc,
          s,
          faces.filter((f) => !carried.includes(f) && !astray.includes(f)),
        ).shape
  const sum = s.keep(new oc.GProp_GProps())
  oc.BRepGProp.VolumeProperties(rest, sum, eps, false, false)
  const c = s.keep(sum.CentreOfMass())
  let volume = sum.Mass()
  let moment = scale3([c.X(), c.Y(), c.Z()], volume)
  if (rest !== shape) {
    const from = middleOfCorners(oc, s, rest)
    for (const own of [
      ...carried.map((f) => behindCarried(oc, s, f, from)),
      ...astray.map((f) => behindTriangles(oc, s, f, from)),
    ]) {
      volume += own.volume
      moment = add3(moment, add3(own.moment, scale3(from, own.volume)))
    }
  }
  return { volume, centroid: scale3(moment, 1 / volume) }
}

/** Whether the kernel's sum over a face that was set off is not that over its triangles. */
function strays(oc: Oc, s: KernelScope, face: TopoDS_Shape, eps: number): boolean {
  const said = s.keep(new oc.GProp_GProps())
  oc.BRepGProp.VolumeProperties(face, said, eps, false, false)
  const own = behindTriangles(oc, s, face, middleOfCorners(oc, s, face)).volume
  return !(Math.abs(own - said.Mass()) <= MISTRUST * Math.abs(own))
}

/** The point that the kernel sums up volumes from: the middle of the corners, each as often as it is met. */
function middleOfCorners(oc: Oc, s: KernelScope, shape: TopoDS_Shape): P3 {
  let sum: P3 = [0, 0, 0]
  const corners = partsOf(oc, s, shape, 'VERTEX')
  for (const v of corners) {
    const p = s.keep(oc.BRep_Tool.Pnt(s.keep(oc.TopoDS.Vertex(v))))
    sum = add3(sum, [p.X(), p.Y(), p.Z()])
  }
  return scale3(sum, 1 / Math.max(corners.length, 1))
}

/** The kernel's own check. Unless it goes on to something small, what checked keeps some 40 kB when given back. */
function isValid(oc: Oc, s: KernelScope, shape: TopoDS_Shape): boolean {
  const check = s.keep(new oc.BRepCheck_Analyzer(shape, true, false, false))
  const valid = check.IsValid()
  const vertex = s.keep(new oc.BRepBuilderAPI_MakeVertex(s.keep(new oc.gp_Pnt(0, 0, 0))))
  check.Init(s.keep(vertex.Vertex()), false)
  return valid
}
