import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { cross3, dot3, type P3, sub3 } from '../../math'
import type { Oc } from '../explore'
import type { KernelScope } from '../scope'

/** Whether a face is set off from a free one, at a distance. */
export function isSetOff(oc: Oc, s: KernelScope, f: TopoDS_Shape): boolean {
  const on = s.keep(new oc.BRepAdaptor_Surface(s.keep(oc.TopoDS.Face(f)), true))
  return on.GetType() === 'GeomAbs_OffsetSurface'
}

/** Middles of the sides of a triangle, as shares of its corners: exact for what is of degree 2 in it (Strang and Fix, 1973; from memory). */
const MIDDLES = [
  [0.5, 0.5, 0],
  [0, 0.5, 0.5],
  [0.5, 0, 0.5],
] as const

/**
 * What lies between a point and a face, summed up over the triangles of u and v that it was halved into, on the surface itself: only
 * what lies between the edges of the triangles and those of the face is left out. The face has to have triangles.
 *
 * @returns the volume, mm3, positive where the face looks away from the point, and its first moment about the point, mm4.
 */
export function behindTriangles(
  oc: Oc,
  s: KernelScope,
  f: TopoDS_Shape,
  from: P3,
): { volume: number; moment: P3 } {
  const face = s.keep(oc.TopoDS.Face(f))
  const on = s.keep(new oc.BRepAdaptor_Surface(face, true))
  const mesh = oc.BRep_Tool.Triangulation(face, s.keep(new oc.TopLoc_Location()), 0)
  if (!mesh) throw new Error('kernel: a face without triangles is summed up')
  s.keep(mesh)
  const side = f.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED ? -1 : 1
  const uv = Array.from({ length: mesh.NbNodes() }, (_, i) => {
    const p = mesh.UVNode(i + 1)
    const out = [p.X(), p.Y()] as const
    p.delete()
    return out
  })
  let volume = 0
  const moment: [number, number, number] = [0, 0, 0]
  for (let t = 1; t <= mesh.NbTriangles(); t++) {
    const of = mesh.Triangle(t)
    const [a, b, c] = [1, 2, 3].map((k) => uv[of.Value(k) - 1]!) as [
      (typeof uv)[number],
      (typeof uv)[number],
      (typeof uv)[number],
    ]
    of.delete()
    // Triangles run the way of the surface's own u and v.
    const share = ((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) / 6
    for (const [i, j, k] of MIDDLES) {
      const r = on.EvalD1(i * a[0] + j * b[0] + k * c[0], i * a[1] + j * b[1] + k * c[1])
      const p = sub3([r.Point.X(), r.Point.Y(), r.Point.Z()], from)
      const n = cross3([r.D1U.X(), r.D1U.Y(), r.D1U.Z()], [r.D1V.X(), r.D1V.Y(), r.D1V.Z()])
      for (const x of [r.Point, r.D1U, r.D1V]) x.delete()
      const over = side * share * dot3(p, n)
      volume += over / 3
      for (const m of [0, 1, 2] as const) moment[m] += (over * p[m]) / 4
    }
  }
  return { volume, moment }
}
