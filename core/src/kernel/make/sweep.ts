import type { TopoDS_Edge, TopoDS_Shape } from 'replicad-opencascadejs'
import type { P3 } from '../../math'
import { Numbered, type Oc, partsOf, topologyOf } from '../explore'
import type { KernelScope } from '../scope'
import { type History, listed } from '../trace'
import type { Origin, PlanarFace, WireCurve } from '../types'
import { planarFace, wireOf } from './face'

interface Sweep extends Required<Pick<History, 'Generated'>> {
  Shape(): TopoDS_Shape
  FirstShape(): TopoDS_Shape
  LastShape(): TopoDS_Shape
}

/** A planar face along a straight way, mm. */
export function prism(oc: Oc, s: KernelScope, loops: PlanarFace, way: P3) {
  const { face, edges } = planarFace(oc, s, loops)
  const vec = s.keep(new oc.gp_Vec(...way))
  return traced(oc, s, s.keep(new oc.BRepPrimAPI_MakePrism(face, vec, true, true)), edges, true)
}

/** A planar face about an axis by `angle` rad. */
export function turn(
  oc: Oc,
  s: KernelScope,
  loops: PlanarFace,
  origin: P3,
  axis: P3,
  angle: number,
) {
  const { face, edges } = planarFace(oc, s, loops)
  const ax = s.keep(new oc.gp_Ax1(s.keep(new oc.gp_Pnt(...origin)), s.keep(new oc.gp_Dir(...axis))))
  const whole = angle >= 2 * Math.PI - 1e-9
  // Of three arguments the third is "copy": the angle needs all four. Without a copy the history of a
  // whole turn loses its flat rings.
  const maker = s.keep(
    whole
      ? new oc.BRepPrimAPI_MakeRevol(face, ax, true)
      : new oc.BRepPrimAPI_MakeRevol(face, ax, angle, true),
  )
  return traced(oc, s, maker, edges, !whole)
}

/** A chain of curves along a straight way, mm: an open skin. */
export function sheet(oc: Oc, s: KernelScope, chain: readonly WireCurve[], way: P3) {
  const { wire, edges } = wireOf(oc, s, chain)
  const vec = s.keep(new oc.gp_Vec(...way))
  return traced(oc, s, s.keep(new oc.BRepPrimAPI_MakePrism(wire, vec, true, true)), edges, false)
}

/** One flat face of a shape along a straight way, mm: sides by the edges they come from. */
export function grown(oc: Oc, s: KernelScope, given: TopoDS_Shape, number: number, way: P3) {
  const { faces, edges, facesOfEdge } = topologyOf(oc, s, given)
  const face = faces.all[number]!
  const vec = s.keep(new oc.gp_Vec(...way))
  const maker = s.keep(new oc.BRepPrimAPI_MakePrism(face, vec, true, true))
  const shape = s.keep(maker.Shape())
  const made = new Numbered(oc, partsOf(oc, s, shape, 'FACE'))
  const origins: Origin[][] = made.all.map(() => [])
  for (const e of new Numbered(oc, partsOf(oc, s, face, 'EDGE')).all)
    for (const x of listed(oc, s, maker.Generated(e)))
      origins[made.of(x)]?.push({ from: 'edge', shape: 0, faces: facesOfEdge[edges.of(e)]! })
  origins[made.of(s.keep(maker.FirstShape()))]?.push({ from: 'end', last: false })
  origins[made.of(s.keep(maker.LastShape()))]?.push({
    from: 'face',
    shape: 0,
    face: number,
    made: false,
  })
  return { shape, origins }
}

function traced(oc: Oc, s: KernelScope, maker: Sweep, edges: TopoDS_Edge[], ends: boolean) {
  const shape = s.keep(maker.Shape())
  const faces = new Numbered(oc, partsOf(oc, s, shape, 'FACE'))
  const origins: Origin[][] = faces.all.map(() => [])
  const note = (x: TopoDS_Shape, o: Origin) => {
    const i = faces.of(x)
    if (i >= 0) origins[i]!.push(o)
  }
  for (const [piece, e] of edges.entries())
    for (const x of listed(oc, s, maker.Generated(e))) note(x, { from: 'piece', piece })
  if (ends) {
    note(s.keep(maker.FirstShape()), { from: 'end', last: false })
    note(s.keep(maker.LastShape()), { from: 'end', last: true })
  }
  return { shape, origins }
}
