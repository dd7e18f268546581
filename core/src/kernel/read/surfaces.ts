import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { type Oc, partsOf, topologyOf } from '../explore'
import type { KernelScope } from '../scope'
import type { WholeFace } from '../types'

/**
 * The faces of a shape that are whole polynomial B-spline surfaces, by number; null for those of other kinds, rational ones, and
 * those cut out of a larger surface.
 */
export function surfacesOf(oc: Oc, s: KernelScope, shape: TopoDS_Shape): (WholeFace | null)[] {
  return topologyOf(oc, s, shape).faces.all.map((f) => {
    const face = s.keep(oc.TopoDS.Face(f))
    const on = s.keep(new oc.BRepAdaptor_Surface(face, true))
    if (on.GetType() !== 'GeomAbs_BSplineSurface') return null
    // A seam comes twice.
    if (partsOf(oc, s, face, 'EDGE').length > 4) return null
    const b = s.keep(on.BSpline())
    if (b.IsURational() || b.IsVRational()) return null
    if (b.IsUPeriodic()) b.SetUNotPeriodic()
    if (b.IsVPeriodic()) b.SetVNotPeriodic()
    const count = <T>(n: number, at: (i: number) => T) =>
      Array.from({ length: n }, (_, i) => at(i + 1))
    const u = count(b.NbUKnots(), (i) => Array<number>(b.UMultiplicity(i)).fill(b.UKnot(i))).flat()
    const v = count(b.NbVKnots(), (i) => Array<number>(b.VMultiplicity(i)).fill(b.VKnot(i))).flat()
    const whole =
      same(on.FirstUParameter(), u[0]!) &&
      same(on.LastUParameter(), u[u.length - 1]!) &&
      same(on.FirstVParameter(), v[0]!) &&
      same(on.LastVParameter(), v[v.length - 1]!)
    if (!whole) return null
    const poles = count(b.NbUPoles(), (i) =>
      count(b.NbVPoles(), (j) => {
        const p = b.Pole(i, j)
        const out = [p.X(), p.Y(), p.Z()]
        p.delete()
        return out
      }),
    )
    return {
      u: { degree: b.UDegree(), knots: u },
      v: { degree: b.VDegree(), knots: v },
      poles: poles.flat(2),
      reversed: f.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED,
    }
  })
}

const same = (a: number, b: number): boolean => Math.abs(a - b) < 1e-7
