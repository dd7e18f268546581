import type { BRepExtrema_DistShapeShape, TopoDS_Face, TopoDS_Shape } from 'replicad-opencascadejs'
import { dot3, norm3, type P3, sub3, unit3 } from '../../math'
import { Numbered, type Oc, partsOf } from '../explore'
import { together } from '../make/move'
import { type KernelScope, scoped } from '../scope'
import { type Foot, KernelError } from '../types'
import { RayFaces, type Through } from './rays'

/** Places on a line that differ in how far they are by less are as near, mm. */
const ON = 1e-5

/**
 * Of each place, the nearest on some faces of a shape, with `out` their direction out of it there; with a direction, the nearest of those
 * straight before or behind it, the one before it of two as near. Null where there is none.
 */
export function feetOf(
  oc: Oc,
  s: KernelScope,
  shape: TopoDS_Shape,
  faces: readonly number[],
  from: readonly P3[],
  along?: P3,
  out = false,
): (Foot | null)[] {
  const all = new Numbered(oc, partsOf(oc, s, shape, 'FACE')).all
  const chosen = faces.map((i) => all[i]!)
  if (along) {
    // The kernel's own distances from a line lose faces it goes through.
    const rays = new RayFaces(oc, s, shape, chosen)
    return from.map((p) => {
      const found = rays.through(p, along)
      const best = found.reduce<Through | null>(
        (a, b) => (a && !nearer(b.at, a.at, p, along) ? a : b),
        null,
      )
      return best && { at: best.at, ...(out ? { out: best.out } : {}) }
    })
  }
  const target = together(oc, s, chosen).shape
  const outAt = out ? outward(oc, s, chosen) : null
  // One place after the other is given back: each holds as much as the faces.
  return from.map((p) => scoped((own) => footOf(oc, own, target, p, outAt)))
}

type OutAt = (found: BRepExtrema_DistShapeShape) => P3

function footOf(
  oc: Oc,
  s: KernelScope,
  target: TopoDS_Shape,
  p: P3,
  outAt: OutAt | null,
): Foot | null {
  const pnt = s.keep(new oc.gp_Pnt(...p))
  const probe = s.keep(s.keep(new oc.BRepBuilderAPI_MakeVertex(pnt)).Vertex())
  const found = s.keep(new oc.BRepExtrema_DistShapeShape(probe, target))
  if (!found.IsDone() || found.NbSolution() === 0) return null
  // Of several all are as near.
  const q = s.keep(found.PointOnShape2(1))
  return { at: [q.X(), q.Y(), q.Z()], ...(outAt ? { out: outAt(found) } : {}) }
}

/** Whether a place on a line through p is nearer to that than another, or as near and on ahead of it. */
function nearer(at: P3, than: P3, p: P3, along: P3): boolean {
  const d = norm3(sub3(at, p)) - norm3(sub3(than, p))
  if (Math.abs(d) > ON) return d < 0
  return dot3(sub3(at, than), along) > 0
}

/**
 * The direction out of a face where a foot lies, of the first of some that holds it: the foot tells the face, the edge or the corner it
 * lies on and its parameters there (to be sought anew by the kernel they would cost a megabyte each, for good).
 */
function outward(oc: Oc, s: KernelScope, given: readonly TopoDS_Shape[]): OutAt {
  const faces = given.map((f) => {
    const face = s.keep(oc.TopoDS.Face(f))
    return {
      face,
      surface: s.keep(new oc.BRepGProp_Face(face, false)),
      edges: new Numbered(oc, partsOf(oc, s, f, 'EDGE')),
      corners: new Numbered(oc, partsOf(oc, s, f, 'VERTEX')),
    }
  })
  const own = new Numbered(oc, given)
  return (found) =>
    scoped((t) => {
      const support = t.keep(found.SupportOnShape2(1))
      const alone = own.of(support)
      const at = alone >= 0 ? faces[alone]! : faces.find((f) => holds(f, support))
      if (!at) throw new KernelError('A foot lies on none of the faces that were asked.')
      const [u, v] =
        alone >= 0
          ? [found.ParOnFaceS2(1).u, found.ParOnFaceS2(1).v]
          : uvOn(oc, t, at, support, () => found.ParOnEdgeS2(1).t)
      const spot = t.keep(new oc.gp_Pnt(0, 0, 0))
      const normal = t.keep(new oc.gp_Vec(0, 0, 1))
      at.surface.Normal(u, v, spot, normal)
      return unit3([normal.X(), normal.Y(), normal.Z()])
    })
}

interface OutFace {
  face: TopoDS_Face
  edges: Numbered
  corners: Numbered
}
const holds = ({ edges, corners }: OutFace, part: TopoDS_Shape) =>
  edges.of(part) >= 0 || corners.of(part) >= 0

/** The parameters on a face of a place on one of its edges, or of one of its corners. */
function uvOn(
  oc: Oc,
  s: KernelScope,
  { face, edges }: OutFace,
  part: TopoDS_Shape,
  along: () => number,
): [number, number] {
  const edge = edges.all[edges.of(part)]
  if (!edge) {
    const uv = s.keep(oc.BRep_Tool.Parameters(s.keep(oc.TopoDS.Vertex(part)), face))
    return [uv.X(), uv.Y()]
  }
  const curve = s.keep(new oc.BRepAdaptor_Curve2d(s.keep(oc.TopoDS.Edge(edge)), face))
  const uv = s.keep(curve.EvalD0(along()))
  return [uv.X(), uv.Y()]
}
