import type { Geom_BSplineSurface, TopoDS_Shape } from 'replicad-opencascadejs'
import type { Patch } from '../../surface'
import { type Oc, partsOf, topologyOf } from '../explore'
import type { KernelScope } from '../scope'
import type { SplineFace, WholeFace } from '../types'

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
    const { u, v, poles } = splineOf(b)
    const whole =
      same(on.FirstUParameter(), u.knots[0]!) &&
      same(on.LastUParameter(), u.knots[u.knots.length - 1]!) &&
      same(on.FirstVParameter(), v.knots[0]!) &&
      same(on.LastVParameter(), v.knots[v.knots.length - 1]!)
    if (!whole) return null
    return {
      u,
      v,
      poles,
      reversed: f.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED,
    }
  })
}

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

const same = (a: number, b: number): boolean => Math.abs(a - b) < 1e-7
