import type { TopoDS_Edge } from 'replicad-opencascadejs'
import type { P3 } from '../../math'
import type { Oc } from '../explore'
import type { KernelScope } from '../scope'
import type { WireCurve } from '../types'

/** The curve an edge runs on, from where its parameter is least, as a clamped B-spline; null where it has none. */
export function splineOf(
  oc: Oc,
  s: KernelScope,
  edge: TopoDS_Edge,
): (WireCurve & { kind: 'spline' }) | null {
  const found = oc.BRep_Tool.Curve(edge, 0, 0)
  if (!found.returnValue) return null
  const whole = s.keep(found.returnValue)
  const piece = s.keep(new oc.Geom_TrimmedCurve(whole, found.First, found.Last, true, true))
  const c = s.keep(oc.GeomConvert.CurveToBSplineCurve(piece))
  if (c.IsPeriodic()) c.SetNotPeriodic()
  const count = <T>(n: number, at: (i: number) => T) =>
    Array.from({ length: n }, (_, i) => at(i + 1))
  const knots = count(c.NbKnots(), (i) => Array<number>(c.Multiplicity(i)).fill(c.Knot(i))).flat()
  const poles = count(c.NbPoles(), (i): P3 => {
    const p = s.keep(c.Pole(i))
    return [p.X(), p.Y(), p.Z()]
  })
  return {
    kind: 'spline',
    degree: c.Degree(),
    knots,
    poles,
    ...(c.IsRational() ? { weights: count(c.NbPoles(), (i) => c.Weight(i)) } : {}),
  }
}
