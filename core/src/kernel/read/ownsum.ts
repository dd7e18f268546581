import type { BRepAdaptor_Surface, TopoDS_Shape } from 'replicad-opencascadejs'
import { cross3, type P3 } from '../../math'
import { type Behind, breaksOf, evaluate, jet, type Patch } from '../../surface'
import { type Oc, partsOf } from '../explore'
import type { KernelScope } from '../scope'
import { areas, behindPlace, type Field, placeOn, roundFace } from './green'
import { asPatch, splineOf } from './surfaces'

/** How exactly edges are summed up for volumes and for areas, as a share of what they come to. */
const SHARE = { volume: 1e-9, area: 1e-7 }

/**
 * How a face is summed up by ourselves: one that is set off from a free one, where the kernel's own sums are 1e-3 to 1e-2 off without
 * a word, and a flat one with free edges, where they were 5e-4 off on edges of many knots. Null for others.
 */
export function ownField(oc: Oc, s: KernelScope, f: TopoDS_Shape): Field | null {
  const face = s.keep(oc.TopoDS.Face(f))
  const on = s.keep(new oc.BRepAdaptor_Surface(face, true))
  switch (on.GetType()) {
    case 'GeomAbs_OffsetSurface':
      return overFree(s, on)
    case 'GeomAbs_Plane':
      return freeEdges(oc, s, f) ? overPlane(on) : null
    default:
      return null
  }
}

/**
 * What lies between a point and such a face.
 *
 * @returns the volume, mm3, positive where the face looks away from the point, and its first moment about the point, mm4.
 */
export function behindField(
  oc: Oc,
  s: KernelScope,
  face: TopoDS_Shape,
  field: Field,
  from: P3,
): Behind {
  const side = face.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED ? -1 : 1
  const sum = roundFace(oc, s, face, field, behindPlace(from), SHARE.volume)
  return { volume: side * sum[0]!, moment: [side * sum[1]!, side * sum[2]!, side * sum[3]!] }
}

/** The area of such a face, mm2. */
export const areaOfField = (oc: Oc, s: KernelScope, face: TopoDS_Shape, field: Field): number =>
  roundFace(oc, s, face, field, areas, SHARE.area)[0]!

function freeEdges(oc: Oc, s: KernelScope, f: TopoDS_Shape): boolean {
  const face = s.keep(oc.TopoDS.Face(f))
  return partsOf(oc, s, face, 'EDGE').some((e) => {
    const curve = s.keep(new oc.BRepAdaptor_Curve2d(s.keep(oc.TopoDS.Edge(e)), face))
    return !['GeomAbs_Line', 'GeomAbs_Circle', 'GeomAbs_Ellipse'].includes(curve.GetType())
  })
}

function overPlane(on: BRepAdaptor_Surface): Field {
  const r = on.EvalD1(0, 0)
  const [o, x, y] = [r.Point, r.D1U, r.D1V].map((p): P3 => [p.X(), p.Y(), p.Z()]) as [P3, P3, P3]
  for (const p of [r.Point, r.D1U, r.D1V]) p.delete()
  const n = cross3(x, y)
  const place: Field['place'] = (u, v, out) => {
    for (const k of [0, 1, 2] as const) {
      out[k] = o[k] + u * x[k] + v * y[k]
      out[3 + k] = n[k]
    }
  }
  return { place, u: [], v: [] }
}

/** A face that is set off: read by ourselves where what it is set off from is a polynomial spline. */
function overFree(s: KernelScope, on: BRepAdaptor_Surface): Field {
  const under = s.keep(on.BasisSurface())
  const free = under.GetType() === 'GeomAbs_BSplineSurface' ? s.keep(under.BSpline()) : null
  if (!free || free.IsUPeriodic() || free.IsVPeriodic()) return { place: placeOn(on), u: [], v: [] }
  const patch = asPatch(splineOf(free))
  const spans = { u: breaksOf(patch.u), v: breaksOf(patch.v) }
  const rational = free.IsURational() || free.IsVRational()
  return { place: rational ? placeOn(on) : overSpline(patch, on.OffsetValue()), ...spans }
}

/** Places `d` mm along the normals of a spline surface: Pu x Pv is its own times 1 - 2 H d + K d² (do Carmo, parallel surfaces; from memory). */
function overSpline(patch: Patch, d: number): Field['place'] {
  const j = jet()
  const dot = (x: Float64Array, y: Float64Array) => x[0]! * y[0]! + x[1]! * y[1]! + x[2]! * y[2]!
  const n = new Float64Array(3)
  return (u, v, out) => {
    evaluate(patch, u, v, 2, j)
    const { p, u: a, v: b, uu, uv, vv } = j
    n[0] = a[1]! * b[2]! - a[2]! * b[1]!
    n[1] = a[2]! * b[0]! - a[0]! * b[2]!
    n[2] = a[0]! * b[1]! - a[1]! * b[0]!
    const nn = dot(n, n)
    const long = Math.sqrt(nn)
    const [L, M, N] = [dot(uu, n) / long, dot(uv, n) / long, dot(vv, n) / long]
    const twiceH = (L * dot(b, b) - 2 * M * dot(a, b) + N * dot(a, a)) / nn
    const size = 1 - twiceH * d + ((L * N - M * M) / nn) * d * d
    for (let k = 0; k < 3; k++) {
      out[k] = p[k]! + (d * n[k]!) / long
      out[3 + k] = n[k]! * size
    }
  }
}
