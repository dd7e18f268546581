import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { add3, type P3, scale3 } from '../../math'
import { areaOf, type Behind, behindPatch } from '../../surface'
import { Numbered, type Oc, partsOf } from '../explore'
import { together } from '../make/move'
import { isForward } from '../make/sew'
import type { KernelScope } from '../scope'
import type { SolidMeasure } from '../types'
import { boundsOf } from './bounds'
import { behindCarried, isCarried } from './carried'
import { areaOfField, behindField, ownField } from './ownsum'
import type { ShownSkin } from './skin'
import { asPatch, wholeFace } from './surfaces'

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
    const whole = wholeFace(oc, s, face)
    if (whole) return areaOf(asPatch(whole))
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

/**
 * The volume with its centre. The kernel halves spans until it thinks itself exact, and is off without a word by 1e-4 on free curves
 * carried straight out, and on those that have a field of their own: they are summed up along their edges. It takes long over free
 * surfaces, of which whole ones are summed up exactly by Gauss's rule. The rest is left to the kernel, from the same point.
 */
function volumeOf(oc: Oc, s: KernelScope, shape: TopoDS_Shape, eps: number) {
  const faces = partsOf(oc, s, shape, 'FACE').map((face) => ({ face, own: ownSum(oc, s, face) }))
  const left = faces.filter((f) => !f.own).map((f) => f.face)
  const rest = left.length === faces.length ? shape : together(oc, s, left).shape
  const from = middleOfCorners(oc, s, rest)
  const sum = s.keep(new oc.GProp_GProps())
  oc.BRepGProp.VolumeProperties(rest, sum, eps, false, false)
  const c = s.keep(sum.CentreOfMass())
  let volume = sum.Mass()
  let moment = scale3([c.X(), c.Y(), c.Z()], volume)
  for (const { own } of faces) {
    if (!own) continue
    const part = own(from)
    volume += part.volume
    moment = add3(moment, add3(part.moment, scale3(from, part.volume)))
  }
  return { volume, centroid: scale3(moment, 1 / volume) }
}

/** How what lies behind a face is summed up by ourselves; null where it is left to the kernel. */
function ownSum(oc: Oc, s: KernelScope, face: TopoDS_Shape): ((from: P3) => Behind) | null {
  if (isCarried(oc, s, face)) return (from) => behindCarried(oc, s, face, from)
  const whole = wholeFace(oc, s, face)
  if (whole)
    return (from) => {
      const { volume, moment } = behindPatch(asPatch(whole), from)
      const side = whole.reversed ? -1 : 1
      return { volume: side * volume, moment: scale3(moment, side) }
    }
  const field = ownField(oc, s, face)
  return field && ((from) => behindField(oc, s, face, field, from))
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
