import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { add3, type P3, scale3 } from '../../math'
import { Numbered, type Oc, partsOf } from '../explore'
import { together } from '../make/move'
import type { KernelScope } from '../scope'
import type { SolidMeasure } from '../types'
import { boundsOf } from './bounds'
import { behindCarried, isCarried } from './carried'
import { areaOfField, behindField, ownField } from './ownsum'
import type { ShownSkin } from './skin'

/** How exactly each face is summed up, and the same of shapes of more faces than `MANY`: each has a small share. */
const EXACT = { few: 1e-9, many: 1e-5 }
const MANY = 1000
/** The same of areas, which nothing is decided by: 7e-8 off on a swept band, in half the time. */
const AREA = 1e-6

/** How exactly a shape is summed up. */
const exactness = (oc: Oc, s: KernelScope, shape: TopoDS_Shape): number =>
  partsOf(oc, s, shape, 'FACE').length > MANY ? EXACT.many : EXACT.few

/** The area of each face of a shape, each once, in the order they are met, mm2. */
export function areasOf(oc: Oc, s: KernelScope, shape: TopoDS_Shape): number[] {
  const eps = Math.max(exactness(oc, s, shape), AREA)
  return new Numbered(oc, partsOf(oc, s, shape, 'FACE')).all.map((face) => {
    const own = ownField(oc, s, face)
    if (own) return areaOfField(oc, s, face, own)
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
  const { volume, centroid } = volumeOf(oc, s, shape, exactness(oc, s, shape))
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
 * The volume with its centre. The kernel halves spans until it thinks itself exact, and is off without a word by 1e-4 on free curves
 * carried straight out, and on those that have a field of their own: they are summed up along their edges, and the rest by the kernel
 * from the same point.
 */
function volumeOf(oc: Oc, s: KernelScope, shape: TopoDS_Shape, eps: number) {
  const faces = partsOf(oc, s, shape, 'FACE')
  const carried = faces.filter((f) => isCarried(oc, s, f))
  const own = faces.flatMap((face) => {
    const field = ownField(oc, s, face)
    return field ? [{ face, field }] : []
  })
  const apart = new Set([...carried, ...own.map((o) => o.face)])
  const rest =
    apart.size === 0
      ? shape
      : together(
          oc,
          s,
          faces.filter((f) => !apart.has(f)),
        ).shape
  const sum = s.keep(new oc.GProp_GProps())
  oc.BRepGProp.VolumeProperties(rest, sum, eps, false, false)
  const c = s.keep(sum.CentreOfMass())
  let volume = sum.Mass()
  let moment = scale3([c.X(), c.Y(), c.Z()], volume)
  if (rest !== shape) {
    const from = middleOfCorners(oc, s, rest)
    for (const part of [
      ...carried.map((f) => behindCarried(oc, s, f, from)),
      ...own.map((o) => behindField(oc, s, o.face, o.field, from)),
    ]) {
      volume += part.volume
      moment = add3(moment, add3(part.moment, scale3(from, part.volume)))
    }
  }
  return { volume, centroid: scale3(moment, 1 / volume) }
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
