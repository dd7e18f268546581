import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { add3, type P3, scale3, sub3 } from '../../math'
import { areaOf, type Behind, behindPatch } from '../../surface'
import { Numbered, type Oc, partsOf } from '../explore'
import { together } from '../make/move'
import type { KernelScope } from '../scope'
import type { Origin } from '../types'
import { behindCarried, isCarried } from './carried'
import { behindField, type FaceSum, ownField } from './ownsum'
import { asPatch, wholeFace } from './surfaces'

/** How exactly each face is summed up, and the same of shapes of more faces than `MANY`: each has a small share. */
const EXACT = { few: 1e-9, many: 1e-5 }
const MANY = 1000
/** The same of areas, which nothing is decided by: 7e-8 off on a swept band, in half the time. */
const AREA = 1e-6

/**
 * What is known of each face of a shape by itself, in its order, the way it stands in the shape. A face that stays as it is when the
 * shape is worked on takes it along.
 */
export interface FaceSums {
  readonly from: P3
  /** How exactly, as a share of each. */
  readonly eps: number
  readonly faces: (FaceSum | undefined)[]
}

/** Nothing known yet of the faces of a shape. */
export function noSums(oc: Oc, s: KernelScope, shape: TopoDS_Shape): FaceSums {
  const count = new Numbered(oc, partsOf(oc, s, shape, 'FACE')).all.length
  return {
    from: pointOf(oc, s, shape),
    eps: count > MANY ? EXACT.many : EXACT.few,
    faces: new Array<undefined>(count),
  }
}

/** Takes what is known of faces that stayed as they were, from where they come from. */
export function inherit(
  own: FaceSums,
  origins: readonly Origin[][],
  given: readonly (FaceSums | undefined)[],
): void {
  for (const [f, from] of origins.entries())
    for (const o of from) {
      if (o.from !== 'face' || !o.same) continue
      const old = given[o.shape]
      if (!old || old.eps !== own.eps || old.from.some((x, k) => x !== own.from[k])) continue
      const known = old.faces[o.face]
      if (known) own.faces[f] = o.same === 'alike' ? known : turned(known)
    }
}

/** The area of each face of a shape, each once, mm2. */
export const areasOf = (oc: Oc, s: KernelScope, shape: TopoDS_Shape, sums: FaceSums): number[] =>
  new Numbered(oc, partsOf(oc, s, shape, 'FACE')).all.map(
    (face, f) => sumOf(oc, s, face, f, sums).area,
  )

/** The volume a shape's faces bound, mm3, with its centre. */
export function volumeOf(oc: Oc, s: KernelScope, shape: TopoDS_Shape, sums: FaceSums) {
  const faces = partsOf(oc, s, shape, 'FACE')
  const once = new Numbered(oc, faces)
  let volume = 0
  let moment: P3 = [0, 0, 0]
  for (const face of faces) {
    const f = once.of(face)
    const first = once.all[f]!
    const known = sumOf(oc, s, first, f, sums)
    const part = face.Orientation() === first.Orientation() ? known : turned(known)
    volume += part.volume
    moment = add3(moment, part.moment)
  }
  return { volume, centroid: add3(sums.from, scale3(moment, 1 / volume)) }
}

/** What is summed up of one face, once. */
function sumOf(oc: Oc, s: KernelScope, face: TopoDS_Shape, f: number, sums: FaceSums): FaceSum {
  const { faces, from, eps } = sums
  faces[f] ??= behindFace(oc, s, face, from, eps)
  return faces[f]
}

const turned = ({ volume, moment, area }: FaceSum): FaceSum => ({
  volume: -volume,
  moment: scale3(moment, -1),
  area,
})

/** A little off where planes and axes run mostly: a share of a sum that is 0 is asked for in vain. */
const BESIDE: P3 = [3.19, 2.73, 1.37]
/**
 * The point that a shape's faces are summed up from: beside the origin unless the shape is far from it, so that its faces mostly keep
 * their sums where it is changed; then near its corners, on a grid of eight times its size.
 */
function pointOf(oc: Oc, s: KernelScope, shape: TopoDS_Shape): P3 {
  const { middle, size } = corners(oc, s, shape)
  const grid = 2 ** Math.ceil(Math.log2(8 * Math.max(size, 1)))
  const at = (k: 0 | 1 | 2) => grid * Math.round(middle[k] / grid) + BESIDE[k]
  return [at(0), at(1), at(2)]
}

/** The middle of the corners of a shape, each as often as it is met (how often), and how far off it the furthest lies. */
function corners(oc: Oc, s: KernelScope, shape: TopoDS_Shape) {
  const all = partsOf(oc, s, shape, 'VERTEX').map((v): P3 => {
    const p = s.keep(oc.BRep_Tool.Pnt(s.keep(oc.TopoDS.Vertex(v))))
    return [p.X(), p.Y(), p.Z()]
  })
  const sum = all.reduce<P3>((a, p) => add3(a, p), [0, 0, 0])
  const middle = scale3(sum, 1 / Math.max(all.length, 1))
  const size = Math.max(0, ...all.map((p) => Math.hypot(...sub3(p, middle))))
  return { count: all.length, middle, size }
}

/**
 * What lies between a face and a point. The kernel halves spans until it thinks itself exact, and is off without a word by 1e-4 on free
 * curves carried straight out, and on those that have a field of their own: they are summed up along their edges. It takes long
 * over free surfaces, of which whole ones are summed up exactly by Gauss's rule. The rest is left to the kernel.
 */
function behindFace(oc: Oc, s: KernelScope, face: TopoDS_Shape, from: P3, eps: number): FaceSum {
  const whole = wholeFace(oc, s, face)
  if (whole) {
    const sum = { ...behindPatch(asPatch(whole), from), area: areaOf(asPatch(whole)) }
    return whole.reversed ? turned(sum) : sum
  }
  const field = ownField(oc, s, face)
  if (field) return behindField(oc, s, face, field, from)
  const props = s.keep(new oc.GProp_GProps())
  oc.BRepGProp.SurfaceProperties(face, props, Math.max(eps, AREA), false)
  const behind = isCarried(oc, s, face)
    ? behindCarried(oc, s, face, from)
    : byKernel(oc, s, face, from, eps)
  return { ...behind, area: props.Mass() }
}

/** The kernel sums up from the middle of the corners it meets: one more corner brings that to where it has to be. */
function byKernel(oc: Oc, s: KernelScope, face: TopoDS_Shape, from: P3, eps: number): Behind {
  const { count, middle } = corners(oc, s, face)
  const rest = add3(from, scale3(sub3(from, middle), count))
  const more = s.keep(new oc.BRepBuilderAPI_MakeVertex(s.keep(new oc.gp_Pnt(...rest))))
  const { shape } = together(oc, s, [face, s.keep(more.Vertex())])
  const sum = s.keep(new oc.GProp_GProps())
  oc.BRepGProp.VolumeProperties(shape, sum, eps, false, false)
  const volume = sum.Mass()
  const c = s.keep(sum.CentreOfMass())
  return { volume, moment: scale3(sub3([c.X(), c.Y(), c.Z()], from), volume) }
}
