import type { TopoDS_Face, TopoDS_Shape } from 'replicad-opencascadejs'
import { add3, dot3, norm3, type P3, scale3, sub3, unit3 } from '../../math'
import { Numbered, type Oc, partsOf } from '../explore'
import { together } from '../make/move'
import type { KernelScope } from '../scope'
import type { Foot } from '../types'

/** How far along a direction faces are looked for, mm. */
const REACH = 1e4

/** A foot nearer than this to a surface lies on it, mm. */
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
  const target = together(oc, s, chosen).shape
  const outAt = out
    ? outward(
        oc,
        s,
        chosen.map((f) => s.keep(oc.TopoDS.Face(f))),
      )
    : null
  return from.map((p) => {
    const pnt = (q: P3) => s.keep(new oc.gp_Pnt(...q))
    const probe = along
      ? s
          .keep(
            new oc.BRepBuilderAPI_MakeEdge(
              pnt(add3(p, scale3(along, -REACH))),
              pnt(add3(p, scale3(along, REACH))),
            ),
          )
          .Edge()
      : s.keep(new oc.BRepBuilderAPI_MakeVertex(pnt(p))).Vertex()
    const found = s.keep(new oc.BRepExtrema_DistShapeShape(s.keep(probe), target))
    if (!found.IsDone() || (along && found.Value() > 1e-6)) return null
    let best: P3 | null = null
    for (let k = 1; k <= found.NbSolution(); k++) {
      const q = s.keep(found.PointOnShape2(k))
      const at: P3 = [q.X(), q.Y(), q.Z()]
      if (!best || nearer(at, best, p, along)) best = at
    }
    return best && { at: best, ...(outAt ? { out: outAt(best) } : {}) }
  })
}

/** Whether a foot is nearer to a place than another, or as near and on ahead of it. */
function nearer(at: P3, than: P3, p: P3, along: P3 | undefined): boolean {
  const d = norm3(sub3(at, p)) - norm3(sub3(than, p))
  if (!along || Math.abs(d) > ON) return d < 0
  return dot3(sub3(at, than), along) > 0
}

/** The direction out of the first of some faces whose surface a place lies on, else of the nearest. */
function outward(oc: Oc, s: KernelScope, faces: readonly TopoDS_Face[]): (at: P3) => P3 {
  const surfaces = faces.map((face) => ({
    face: s.keep(new oc.BRepGProp_Face(face, false)),
    surface: s.keep(oc.BRep_Tool.Surface(face)),
  }))
  const spot = s.keep(new oc.gp_Pnt(0, 0, 0))
  const normal = s.keep(new oc.gp_Vec(0, 0, 1))
  return (at) => {
    const p = s.keep(new oc.gp_Pnt(...at))
    let best = { off: Number.POSITIVE_INFINITY, out: [0, 0, 0] as P3 }
    for (const { face, surface } of surfaces) {
      const found = s.keep(new oc.GeomAPI_ProjectPointOnSurf(p, surface))
      if (found.NbPoints() === 0) continue
      const off = found.LowerDistance()
      if (off >= best.off) continue
      const { U, V } = found.LowerDistanceParameters(0, 0)
      face.Normal(U, V, spot, normal)
      best = { off, out: unit3([normal.X(), normal.Y(), normal.Z()]) }
      if (off < ON) break
    }
    return best.out
  }
}
