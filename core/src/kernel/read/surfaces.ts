import type { Geom_BSplineSurface, TopoDS_Shape } from 'replicad-opencascadejs'
import type { Patch } from '../../surface'
import { type Oc, partsOf, topologyOf } from '../explore'
import type { KernelScope } from '../scope'
import type { SplineFace, WholeFace } from '../types'
import { endsOn, looksAt } from './green'

/** The faces of a shape that are whole polynomial B-spline surfaces with an edge at each side, by number; null for others. */
export const surfacesOf = (oc: Oc, s: KernelScope, shape: TopoDS_Shape): (WholeFace | null)[] =>
  topologyOf(oc, s, shape).faces.all.map((f) =>
    // A seam comes twice.
    partsOf(oc, s, f, 'EDGE').length > 4 ? null : wholeFace(oc, s, f),
  )

/**
 * A face that is a whole polynomial B-spline surface; null for those of other kinds, rational ones, and those cut out of a larger
 * surface: all edges run along the ends of u or v.
 */
export function wholeFace(oc: Oc, s: KernelScope, f: TopoDS_Shape): WholeFace | null {
  const face = s.keep(oc.TopoDS.Face(f))
  const on = s.keep(new oc.BRepAdaptor_Surface(face, true))
  if (on.GetType() !== 'GeomAbs_BSplineSurface') return null
  const b = s.keep(on.BSpline())
  if (b.IsURational() || b.IsVRational()) return null
  if (b.IsUPeriodic()) b.SetUNotPeriodic()
  if (b.IsVPeriodic()) b.SetVNotPeriodic()
  const us: Ends = { from: b.UKnot(1), to: b.UKnot(b.NbUKnots()) }
  const vs: Ends = { from: b.VKnot(1), to: b.VKnot(b.NbVKnots()) }
  const whole =
    same(on.FirstUParameter(), us.from, us) &&
    same(on.LastUParameter(), us.to, us) &&
    same(on.FirstVParameter(), vs.from, vs) &&
    same(on.LastVParameter(), vs.to, vs) &&
    partsOf(oc, s, face, 'EDGE').every((e) => {
      const edge = s.keep(oc.TopoDS.Edge(e))
      const curve = s.keep(new oc.BRepAdaptor_Curve2d(edge, face))
      const looks = curve.GetType() === 'GeomAbs_Line' ? endsOn(curve) : looksAt(curve)
      const along = (key: 'u' | 'v', ends: Ends) =>
        [ends.from, ends.to].some((end) => looks.every((l) => same(l[key], end, ends)))
      return along('u', us) || along('v', vs)
    })
  if (!whole) return null
  const reversed = f.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED
  return { ...splineOf(b), reversed }
}

interface Ends {
  from: number
  to: number
}
/** Parameters that are one, as a share of where they run. */
const same = (a: number, b: number, { from, to }: Ends): boolean =>
  Math.abs(a - b) < 1e-7 * (to - from)

/** The bases and poles of a spline surface that has ends, pole (i, j) at 3 (i nv + j). */
export function splineOf(b: Geom_BSplineSurface): SplineFace {
  const count = <T>(n: number, at: (i: number) => T) =>
    Array.from({ length: n }, (_, i) => at(i + 1))
  const u = count(b.NbUKnots(), (i) => Array<number>(b.UMultiplicity(i)).fill(b.UKnot(i))).flat()
  const v = count(b.NbVKnots(), (i) => Array<number>(b.VMultiplicity(i)).fill(b.VKnot(i))).flat()
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
  }
}

/** The same for our own evaluation. */
export const asPatch = ({ u, v, poles }: SplineFace): Patch => ({
  u: { degree: u.degree, knots: Float64Array.from(u.knots) },
  v: { degree: v.degree, knots: Float64Array.from(v.knots) },
  poles: Float64Array.from(poles),
})
