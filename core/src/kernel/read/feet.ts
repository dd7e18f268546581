import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { add3, norm3, type P3, scale3, sub3 } from '../../math'
import { Numbered, type Oc, partsOf } from '../explore'
import { together } from '../make/move'
import type { KernelScope } from '../scope'

/** How far along a direction faces are looked for, mm. */
const REACH = 1e4

/**
 * Of each place, the nearest on some faces of a shape; with a direction, the nearest of those straight before or behind it. Null
 * where there is none.
 */
export function feetOf(
  oc: Oc,
  s: KernelScope,
  shape: TopoDS_Shape,
  faces: readonly number[],
  from: readonly P3[],
  along?: P3,
): (P3 | null)[] {
  const all = new Numbered(oc, partsOf(oc, s, shape, 'FACE')).all
  const target = together(
    oc,
    s,
    faces.map((i) => all[i]!),
  ).shape
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
      if (!best || norm3(sub3(at, p)) < norm3(sub3(best, p))) best = at
    }
    return best
  })
}
