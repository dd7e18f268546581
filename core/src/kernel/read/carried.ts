import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { cross3, dot3, integrateEach, type P3, sub3 } from '../../math'
import type { Behind } from '../../surface'
import { type Oc, partsOf } from '../explore'
import type { KernelScope } from '../scope'
import { alongV, behindPlace, cutsOf, knotsOf, linesOn, looksAt, roundingOf } from './green'

/** How exactly edges are summed up, as a share of what they come to. */
const SHARE = 1e-11

/** Whether a face is part of a free curve carried straight out. */
export function isCarried(oc: Oc, s: KernelScope, f: TopoDS_Shape): boolean {
  const on = s.keep(new oc.BRepAdaptor_Surface(s.keep(oc.TopoDS.Face(f)), true))
  return on.GetType() === 'GeomAbs_SurfaceOfExtrusion'
}

/**
 * What lies between a point and a face of a free curve carried straight out, along its edges alone. On P(u, v) = C(u) + v D the
 * volume above du dv is P·(C' x D) / 3, the same for all v, and its first moment P times that, over four: by Green's theorem both
 * are sums round the face, whatever it is bounded by (derived here from the divergence theorem).
 *
 * @returns the volume, mm3, positive where the face looks away from the point, and its first moment about the point, mm4.
 */
export function behindCarried(oc: Oc, s: KernelScope, given: TopoDS_Shape, from: P3): Behind {
  // Seen the way its surface runs, edges run with the face on their left.
  const forward = s.keep(given.Oriented(oc.TopAbs_Orientation.TopAbs_FORWARD))
  const face = s.keep(oc.TopoDS.Face(forward))
  const on = s.keep(new oc.BRepAdaptor_Surface(face, true))
  const dir = s.keep(on.Direction())
  const d: P3 = [dir.X(), dir.Y(), dir.Z()]
  const side = given.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED ? -1 : 1
  const lines = linesOn(on)
  const spans = knotsOf(s, s.keep(on.BasisCurve()))
  let volume = 0
  const moment: [number, number, number] = [0, 0, 0]
  for (const part of partsOf(oc, s, face, 'EDGE')) {
    const edge = s.keep(oc.TopoDS.Edge(part))
    const way = edge.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED ? 1 : -1
    const curve = s.keep(new oc.BRepAdaptor_Curve2d(edge, face))
    const looks = looksAt(curve)
    if (alongV(looks)) continue
    const least = roundingOf(lines, looks, behindPlace(from)).slice(0, 4)
    const cuts = cutsOf(s, curve, looks, spans, [])
    for (let i = 1; i < cuts.length; i++) {
      const [v, ...m] = integrateEach(
        (t, out) => {
          const flat = curve.EvalD1(t)
          const [u, v, du] = [flat.Point.X(), flat.Point.Y(), flat.D1.X()]
          flat.Point.delete()
          flat.D1.delete()
          const r = on.EvalD1(u, v)
          const p = sub3([r.Point.X(), r.Point.Y(), r.Point.Z()], from)
          const over = v * du * dot3(p, cross3([r.D1U.X(), r.D1U.Y(), r.D1U.Z()], d))
          for (const x of [r.Point, r.D1U, r.D1V]) x.delete()
          out[0] = over / 3
          for (const k of [0, 1, 2] as const) out[k + 1] = (over * (p[k] - (v * d[k]) / 2)) / 4
        },
        4,
        cuts[i - 1]!,
        cuts[i]!,
        SHARE,
        least,
      )
      volume += side * way * v!
      for (const k of [0, 1, 2] as const) moment[k] += side * way * m[k]!
    }
  }
  return { volume, moment }
}
