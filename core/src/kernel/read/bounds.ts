import type { BRepAdaptor_Surface, TopoDS_Face, TopoDS_Shape } from 'replicad-opencascadejs'
import type { P3 } from '../../math'
import { hashOf, Numbered, type Oc, partsOf } from '../explore'
import type { KernelScope } from '../scope'
import { SHOWN, type ShownSkin } from './skin'

/** What the surface can reach beyond the triangles that show it at most, mm. */
const BEYOND = 2 * SHOWN.chord
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

/** How far a point of the skin reaches a way, mm; its number and place. */
interface Far {
  far: number
  point: number
  at: P3
}

/** How far a node of a free face reaches a way, mm, and where it lies on the surface. */
interface Reach {
  far: number
  u: number
  v: number
}

/**
 * The least box about a shape, mm. The kernel's own is exact but takes half a second for a free face: these are read at the
 * points of the triangles that show them and closed in on from there by Newton's method within the face's rectangle of u and v.
 */
export function boundsOf(
  oc: Oc,
  s: KernelScope,
  shape: TopoDS_Shape,
  skin: () => ShownSkin,
): { min: P3; max: P3 } {
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
    const made = skin()
    const faces = free.map((f) => ({ ...f, ...reaches(made, hashOf(oc, f.face)) }))
    const most = far.map((x, k) => Math.max(x, ...faces.map((f) => f.ways[k]!.far)))
    for (const f of faces)
      for (const [k, r] of f.ways.entries()) {
        if (r.far < most[k]! - BEYOND) continue
        const from = placeOn(oc, s, f.face, f.first, r, WAYS[k]!)
        far[k] = Math.max(far[k]!, from ? farthest(f.adaptor, from, WAYS[k]!) : r.far)
      }
  }
  return { min: [-far[0]!, -far[2]!, -far[4]!], max: [far[1]!, far[3]!, far[5]!] }
}

/**
 * How far the triangles of the faces of a hash reach each way: which point of the skin, and its number. `first` is the number of their first
 * point.
 */
function reaches({ positions, triangles, groups }: ShownSkin, hash: number) {
  const ways = WAYS.map((): Far => ({ far: Number.NEGATIVE_INFINITY, point: -1, at: [0, 0, 0] }))
  let first = Number.POSITIVE_INFINITY
  for (let g = 0; g < groups.length; g += 3) {
    if (groups[g + 2] !== hash) continue
    for (let i = groups[g]!; i < groups[g]! + groups[g + 1]!; i++) {
      const point = triangles[i]!
      first = Math.min(first, point)
      for (let k = 0; k < 6; k++) {
        const { axis, sign } = WAYS[k]!
        const far = sign * positions[3 * point + axis]!
        if (far <= ways[k]!.far) continue
        const at: P3 = [positions[3 * point]!, positions[3 * point + 1]!, positions[3 * point + 2]!]
        ways[k] = { far, point, at }
      }
    }
  }
  return { ways, first }
}

/** How near a point of the skin, which is kept in single precision, lies to the node it is, as a share of its distance. */
const SINGLE = 1e-6

/** Where a point of the skin lies on a face that its triangles are made of, and how far the node there reaches; null where none is found. */
function placeOn(
  oc: Oc,
  s: KernelScope,
  face: TopoDS_Face,
  first: number,
  { point, at }: Far,
  { axis, sign }: Way,
): Reach | null {
  const loc = s.keep(new oc.TopLoc_Location())
  const mesh = oc.BRep_Tool.Triangulation(face, loc, 0)
  if (!mesh) return null
  s.keep(mesh)
  const move = s.keep(loc.Transformation())
  const count = mesh.NbNodes()
  // Points of the skin come in the order of the nodes, from the first of the face on; looked for where it is otherwise.
  const guess = point - first + 1
  for (let i = 0; i <= count; i++) {
    const n = i === 0 ? guess : i
    if (n > count) continue
    const node = mesh.Node(n)
    node.Transform(move)
    const p = [node.X(), node.Y(), node.Z()] as const
    node.delete()
    const off = Math.hypot(p[0] - at[0], p[1] - at[1], p[2] - at[2])
    if (off > SINGLE * (1 + Math.hypot(...at))) continue
    const uv = s.keep(mesh.UVNode(n))
    return { far: sign * p[axis], u: uv.X(), v: uv.Y() }
  }
  return null
}

/**
 * The farthest place near a node, by Newton's method held in the rectangle; the node's own reach where it runs off or ends at a side,
 * which the edges tell better.
 */
function farthest(surface: BRepAdaptor_Surface, from: Reach, { axis, sign }: Way): number {
  const [u0, u1] = [surface.FirstUParameter(), surface.LastUParameter()]
  const [v0, v1] = [surface.FirstVParameter(), surface.LastVParameter()]
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
