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

/** What an edge runs on: straight and round ones as such, more than half a circle in two parts; nothing where it has no extent. */
export function wiresOfEdge(oc: Oc, s: KernelScope, edge: TopoDS_Edge): WireCurve[] {
  if (oc.BRep_Tool.Degenerated(edge)) return []
  const curve = s.keep(new oc.BRepAdaptor_Curve(edge))
  const kind = curve.GetType()
  const [from, to] = [curve.FirstParameter(), curve.LastParameter()]
  const at = (share: number): P3 => {
    const p = s.keep(curve.EvalD0(from + share * (to - from)))
    return [p.X(), p.Y(), p.Z()]
  }
  if (kind === 'GeomAbs_Line') return [{ kind: 'line', a: at(0), b: at(1) }]
  if (kind === 'GeomAbs_Circle')
    return (to - from > Math.PI ? [0, 0.5] : [0]).map((a, _, all) => {
      const half = 0.5 / all.length
      return { kind: 'arc', a: at(a), mid: at(a + half), b: at(a + 2 * half) }
    })
  const free = splineOf(oc, s, edge)
  return free ? [free] : []
}
