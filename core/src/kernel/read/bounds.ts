import type { BRepAdaptor_Surface, TopoDS_Face, TopoDS_Shape } from 'replicad-opencascadejs'
import type { P3 } from '../../math'
import { Numbered, type Oc, partsOf } from '../explore'
import type { KernelScope } from '../scope'

/** Triangles of free faces from which their extremes are closed in on: chord (mm) and angle (rad). */
const COARSE = { chord: 0.05, angle: 0.2 }
/** What the surface can reach beyond such triangles at most, mm. */
const BEYOND = 2 * COARSE.chord
const STEPS = 30

/** Surfaces whose trimmed part the kernel's own box does not know: of one set off it takes the whole rectangle of u and v. */
const FREE: ReadonlySet<string> = new Set(['GeomAbs_BSplineSurface', 'GeomAbs_OffsetSurface'])

/** A direction along an axis: which, and which way. */
interface Way {
  axis: 0 | 1 | 2
  sign: 1 | -1
}
const WAYS: readonly Way[] = ([0, 1, 2] as const).flatMap((axis) => [
  { axis, sign: -1 as const },
  { axis, sign: 1 as const },
])

/** How far a node of a free face reaches a way, mm, and where it lies on the surface. */
interface Reach {
  far: number
  u: number
  v: number
}

/**
 * The least box about a shape, mm. The kernel's own is exact but takes half a second for a free face: these are read at the
 * nodes of their triangles and closed in on from there by Newton's method within the face's rectangle of u and v.
 */
export function boundsOf(oc: Oc, s: KernelScope, shape: TopoDS_Shape): { min: P3; max: P3 } {
  const box = s.keep(new oc.Bnd_Box())
  const free: { face: TopoDS_Face; adaptor: BRepAdaptor_Surface }[] = []
  for (const f of partsOf(oc, s, shape, 'FACE')) {
    const face = s.keep(oc.TopoDS.Face(f))
    const adaptor = s.keep(new oc.BRepAdaptor_Surface(face, true))
    if (FREE.has(adaptor.GetType())) free.push({ face, adaptor })
    else oc.BRepBndLib.AddOptimal(f, box, false, false)
  }
  // Where a face ends its edges tell: it may be a part of a surface that goes on.
  const edges = new Numbered(
    oc,
    free.flatMap(({ face }) => partsOf(oc, s, face, 'EDGE')),
  )
  for (const edge of edges.all) oc.BRepBndLib.AddOptimal(edge, box, false, false)
  const far = box.IsVoid()
    ? WAYS.map(() => Number.NEGATIVE_INFINITY)
    : [-box.GetXMin(), box.GetXMax(), -box.GetYMin(), box.GetYMax(), -box.GetZMin(), box.GetZMax()]
  if (free.length > 0) {
    s.keep(new oc.BRepMesh_IncrementalMesh(shape, COARSE.chord, false, COARSE.angle, false))
    const faces = free.map(({ face, adaptor }) => ({ adaptor, ...reaches(oc, s, face) }))
    for (const f of faces) for (const [k, r] of f.ways.entries()) far[k] = Math.max(far[k]!, r.far)
    const coarse = [...far]
    for (const f of faces)
      for (const [k, r] of f.ways.entries())
        if (r.far > coarse[k]! - BEYOND)
          far[k] = Math.max(far[k]!, farthest(f.adaptor, r, WAYS[k]!, f.rectangle))
  }
  return { min: [-far[0]!, -far[2]!, -far[4]!], max: [far[1]!, far[3]!, far[5]!] }
}

type Rectangle = [number, number, number, number]

/** How far the triangles of a face reach each way, and the rectangle of u and v they lie in. */
function reaches(
  oc: Oc,
  s: KernelScope,
  face: TopoDS_Face,
): { ways: Reach[]; rectangle: Rectangle } {
  const ways = WAYS.map((): Reach => ({ far: Number.NEGATIVE_INFINITY, u: 0, v: 0 }))
  const rectangle: Rectangle = [
    Number.POSITIVE_INFINITY,
    Number.NEGATIVE_INFINITY,
    Number.POSITIVE_INFINITY,
    Number.NEGATIVE_INFINITY,
  ]
  const at = s.keep(new oc.TopLoc_Location())
  const mesh = oc.BRep_Tool.Triangulation(face, at, 0)
  if (!mesh) return { ways, rectangle }
  s.keep(mesh)
  const move = s.keep(at.Transformation())
  for (let i = 1; i <= mesh.NbNodes(); i++) {
    const [raw, uv] = [mesh.Node(i), mesh.UVNode(i)]
    raw.Transform(move)
    const p = [raw.X(), raw.Y(), raw.Z()]
    const [u, v] = [uv.X(), uv.Y()]
    raw.delete()
    uv.delete()
    rectangle[0] = Math.min(rectangle[0], u)
    rectangle[1] = Math.max(rectangle[1], u)
    rectangle[2] = Math.min(rectangle[2], v)
    rectangle[3] = Math.max(rectangle[3], v)
    for (const [k, { axis, sign }] of WAYS.entries()) {
      const far = sign * p[axis]!
      if (far > ways[k]!.far) ways[k] = { far, u, v }
    }
  }
  return { ways, rectangle }
}

/**
 * The farthest place near a node, by Newton's method held in the rectangle; the node's own reach where it runs off or ends at a side,
 * which the edges tell better.
 */
function farthest(
  surface: BRepAdaptor_Surface,
  from: Reach,
  { axis, sign }: Way,
  [u0, u1, v0, v1]: Rectangle,
): number {
  let { u, v } = from
  for (let k = 0; k < STEPS; k++) {
    const r = surface.EvalD2(u, v)
    const of = (x: { X(): number; Y(): number; Z(): number }) =>
      sign * (axis === 0 ? x.X() : axis === 1 ? x.Y() : x.Z())
    const [now, gu, gv] = [of(r.Point), of(r.D1U), of(r.D1V)]
    const [huu, huv, hvv] = [of(r.D2U), of(r.D2UV), of(r.D2V)]
    for (const x of [r.Point, r.D1U, r.D1V, r.D2U, r.D2V, r.D2UV]) x.delete()
    if (now > from.far + BEYOND) return from.far
    // At a side it cannot get past only the other parameter is free.
    const heldU = (u <= u0 && gu < 0) || (u >= u1 && gu > 0)
    const heldV = (v <= v0 && gv < 0) || (v >= v1 && gv > 0)
    const det = huu * hvv - huv * huv
    let [du, dv] = [0, 0]
    if (!heldU && !heldV && huu < 0 && det > 0)
      [du, dv] = [(huv * gv - hvv * gu) / det, (huv * gu - huu * gv) / det]
    else {
      if (!heldU) du = huu < 0 ? -gu / huu : Math.sign(gu) * 0.05 * (u1 - u0)
      if (!heldV) dv = hvv < 0 ? -gv / hvv : Math.sign(gv) * 0.05 * (v1 - v0)
    }
    const most = 0.1
    du = Math.max(-most * (u1 - u0), Math.min(most * (u1 - u0), du))
    dv = Math.max(-most * (v1 - v0), Math.min(most * (v1 - v0), dv))
    const [nu, nv] = [Math.max(u0, Math.min(u1, u + du)), Math.max(v0, Math.min(v1, v + dv))]
    if (Math.abs(nu - u) < 1e-10 * (u1 - u0) && Math.abs(nv - v) < 1e-10 * (v1 - v0))
      return heldU || heldV ? from.far : Math.max(from.far, now)
    ;[u, v] = [nu, nv]
  }
  return from.far
}
