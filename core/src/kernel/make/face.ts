import { norm3, type P3, sub3 } from '../../math'
import type { Oc } from '../explore'
import type { KernelScope } from '../scope'
import { KernelError, type PlanarFace } from '../types'

/** A planar face of the kernel, and its edges in the order of the curves given. */
export function planarFace(oc: Oc, s: KernelScope, loops: PlanarFace) {
  const made = loops.map((loop) => wireOf(oc, s, loop))
  const maker = s.keep(new oc.BRepBuilderAPI_MakeFace(made[0]!.wire, true))
  for (const hole of made.slice(1)) maker.Add(hole.wire)
  if (!maker.IsDone()) throw new KernelError('The outline is not flat for the kernel.')
  return { face: s.keep(maker.Face()), edges: made.flatMap((m) => m.edges) }
}

/** Curves that follow each other as one wire, and its edges in their order. */
export function wireOf(oc: Oc, s: KernelScope, chain: readonly PlanarFace[number][number][]) {
  const maker = s.keep(new oc.BRepBuilderAPI_MakeWire())
  const edges = chain.map((c) => {
    maker.Add(s.keep(edgeOf(oc, s, c)))
    if (!maker.IsDone()) throw new KernelError('The outline does not join up for the kernel.')
    // The wire's own edge: it shares its ends with its neighbours.
    return s.keep(maker.Edge())
  })
  return { wire: s.keep(maker.Wire()), edges }
}

function edgeOf(oc: Oc, s: KernelScope, c: PlanarFace[number][number]) {
  const pnt = (p: P3) => s.keep(new oc.gp_Pnt(...p))
  if (c.kind === 'line') return s.keep(new oc.BRepBuilderAPI_MakeEdge(pnt(c.a), pnt(c.b))).Edge()
  if (c.kind === 'arc') {
    const made = s.keep(new oc.GC_MakeArcOfCircle(pnt(c.a), pnt(c.mid), pnt(c.b)))
    return s.keep(new oc.BRepBuilderAPI_MakeEdge(s.keep(made.Value()))).Edge()
  }
  if (c.kind === 'circle') {
    const [dir, x] = [c.dir, sub3(c.start, c.centre)].map((v) => s.keep(new oc.gp_Dir(...v)))
    const ax = s.keep(new oc.gp_Ax2(pnt(c.centre), dir!, x!))
    const circ = s.keep(new oc.gp_Circ(ax, norm3(sub3(c.start, c.centre))))
    return s.keep(new oc.BRepBuilderAPI_MakeEdge(circ)).Edge()
  }
  const poles = s.keep(new oc.NCollection_Array1_gp_Pnt(1, c.poles.length))
  for (const [i, p] of c.poles.entries()) poles.SetValue(i + 1, pnt(p))
  const { knots, times } = knotsOf(oc, s, c.knots)
  const curve = s.keep(
    c.weights
      ? new oc.Geom_BSplineCurve(
          poles,
          doublesOf(oc, s, c.weights),
          knots,
          times,
          c.degree,
          false,
          true,
        )
      : new oc.Geom_BSplineCurve(poles, knots, times, c.degree, false),
  )
  return s.keep(new oc.BRepBuilderAPI_MakeEdge(curve)).Edge()
}

function doublesOf(oc: Oc, s: KernelScope, list: ArrayLike<number>) {
  const out = s.keep(new oc.NCollection_Array1_double(1, list.length))
  for (let i = 0; i < list.length; i++) out.SetValue(i + 1, list[i]!)
  return out
}

/** Knots as the kernel keeps them: each once, with how often it comes. */
export function knotsOf(oc: Oc, s: KernelScope, list: ArrayLike<number>) {
  const all = Array.from(list)
  const values = [...new Set(all)]
  const times = s.keep(new oc.NCollection_Array1_int(1, values.length))
  for (const [i, k] of values.entries()) times.SetValue(i + 1, all.filter((x) => x === k).length)
  return { knots: doublesOf(oc, s, values), times }
}
