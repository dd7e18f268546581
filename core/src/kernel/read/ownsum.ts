import type { BRepAdaptor_Surface, Geom_BSplineSurface, TopoDS_Shape } from 'replicad-opencascadejs'
import { cross3, type P3 } from '../../math'
import { type Behind, breaksOf, countOf, derivatives, spanOf } from '../../surface'
import { type Oc, partsOf } from '../explore'
import type { KernelScope } from '../scope'
import { behindPlace, type Field, linesOn, roundFace } from './green'
import { asPatch, splineOf } from './surfaces'

/** How exactly edges are summed up for the volume, its moments and the area, as shares of what they come to: nothing is decided by areas. */
const SHARES = [1e-9, 1e-9, 1e-9, 1e-9, 1e-6]

/** What lies between a face and a point, positive where it looks away from it, and its area, mm2. */
export interface FaceSum extends Behind {
  area: number
}

/**
 * How a face is summed up by ourselves: one that is set off from a free one, where the kernel's own sums are 1e-3 to 1e-2 off without
 * a word, a flat one with free edges, where they were 5e-4 off on edges of many knots, and a part of a polynomial spline surface, for which
 * it takes long. Null for others.
 */
export function ownField(oc: Oc, s: KernelScope, f: TopoDS_Shape): Field | null {
  const face = s.keep(oc.TopoDS.Face(f))
  const on = s.keep(new oc.BRepAdaptor_Surface(face, true))
  switch (on.GetType()) {
    case 'GeomAbs_OffsetSurface':
      return overFree(s, on)
    case 'GeomAbs_BSplineSurface': {
      const free = s.keep(on.BSpline())
      return free.IsUPeriodic() || free.IsVPeriodic() ? null : overSpline(free, 0)
    }
    case 'GeomAbs_Plane':
      return freeEdges(oc, s, f) ? overPlane(on) : null
    default:
      return null
  }
}

/**
 * What lies between a point and such a face.
 *
 * @returns the volume, mm3, positive where the face looks away from the point, its first moment about the point, mm4, and the area.
 */
export function behindField(
  oc: Oc,
  s: KernelScope,
  face: TopoDS_Shape,
  field: Field,
  from: P3,
): FaceSum {
  const side = face.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED ? -1 : 1
  const sum = roundFace(oc, s, face, field, behindPlace(from), SHARES)
  return {
    volume: side * sum[0]!,
    moment: [side * sum[1]!, side * sum[2]!, side * sum[3]!],
    area: sum[4]!,
  }
}

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
  let u = 0
  return {
    hold(at) {
      u = at
    },
    place(v, out) {
      for (const k of [0, 1, 2] as const) {
        out[k] = o[k] + u * x[k] + v * y[k]
        out[3 + k] = n[k]
      }
    },
    u: [],
    v: [],
  }
}

/** A face that is set off: read by ourselves where what it is set off from is a polynomial spline. */
function overFree(s: KernelScope, on: BRepAdaptor_Surface): Field {
  const under = s.keep(on.BasisSurface())
  const free = under.GetType() === 'GeomAbs_BSplineSurface' ? s.keep(under.BSpline()) : null
  if (!free || free.IsUPeriodic() || free.IsVPeriodic()) return { ...linesOn(on), u: [], v: [] }
  return overSpline(free, on.OffsetValue()) ?? { ...linesOn(on), ...spansOf(free) }
}

const spansOf = (free: Geom_BSplineSurface) => {
  const { u, v } = asPatch(splineOf(free))
  return { u: breaksOf(u), v: breaksOf(v) }
}

/**
 * Places `d` mm along the normals of a spline surface: Pu x Pv is its own times 1 - 2 H d + K d² (do Carmo, parallel surfaces; from
 * memory). Along a line of one u its poles are summed up once. Null where it is rational.
 */
function overSpline(free: Geom_BSplineSurface, d: number): Field | null {
  if (free.IsURational() || free.IsVRational()) return null
  const patch = asPatch(splineOf(free))
  const wide = 3 * countOf(patch.v)
  const [pu, pv] = [patch.u.degree + 1, patch.v.degree + 1]
  // The curve at a u, and its first and second derivative by u, by their poles.
  const rows = [0, 1, 2].map(() => new Float64Array(wide))
  const [fu, fv] = [new Float64Array(3 * pu), new Float64Array(3 * pv)]
  const sum = (row: Float64Array, order: number, span: number, out: Float64Array) => {
    out.fill(0)
    for (let j = 0; j < pv; j++) {
      const [f, from] = [fv[order * pv + j]!, 3 * (span - patch.v.degree + j)]
      for (let k = 0; k < 3; k++) out[k]! += f * row[from + k]!
    }
  }
  const six = Array.from({ length: 6 }, () => new Float64Array(3))
  const [p, a, b, uu, uv, vv] = six as [V, V, V, V, V, V]
  const n = new Float64Array(3)
  return {
    hold(u) {
      const span = spanOf(patch.u, u)
      derivatives(patch.u, span, u, 2, fu)
      for (const [order, row] of rows.entries()) {
        row.fill(0)
        for (let i = 0; i < pu; i++) {
          const [f, from] = [fu[order * pu + i]!, wide * (span - patch.u.degree + i)]
          for (let k = 0; k < wide; k++) row[k]! += f * patch.poles[from + k]!
        }
      }
    },
    place(v, out) {
      const span = spanOf(patch.v, v)
      derivatives(patch.v, span, v, 2, fv)
      sum(rows[0]!, 0, span, p)
      sum(rows[1]!, 0, span, a)
      sum(rows[0]!, 1, span, b)
      n[0] = a[1]! * b[2]! - a[2]! * b[1]!
      n[1] = a[2]! * b[0]! - a[0]! * b[2]!
      n[2] = a[0]! * b[1]! - a[1]! * b[0]!
      let [shift, size] = [0, 1]
      if (d !== 0) {
        sum(rows[2]!, 0, span, uu)
        sum(rows[1]!, 1, span, uv)
        sum(rows[0]!, 2, span, vv)
        const nn = dot(n, n)
        const long = Math.sqrt(nn)
        const [L, M, N] = [dot(uu, n) / long, dot(uv, n) / long, dot(vv, n) / long]
        const twiceH = (L * dot(b, b) - 2 * M * dot(a, b) + N * dot(a, a)) / nn
        shift = d / long
        size = 1 - twiceH * d + ((L * N - M * M) / nn) * d * d
      }
      for (let k = 0; k < 3; k++) {
        out[k] = p[k]! + shift * n[k]!
        out[3 + k] = n[k]! * size
      }
    },
    u: breaksOf(patch.u),
    v: breaksOf(patch.v),
  }
}
type V = Float64Array
const dot = (x: V, y: V) => x[0]! * y[0]! + x[1]! * y[1]! + x[2]! * y[2]!
