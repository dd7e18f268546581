import type {
  Adaptor3d_Curve,
  BRepAdaptor_Curve2d,
  BRepAdaptor_Surface,
  TopoDS_Shape,
} from 'replicad-opencascadejs'
import { cross3, gaussRule, integrateEach, type P3 } from '../../math'
import { type Oc, partsOf } from '../explore'
import type { KernelScope } from '../scope'

/** Places summed up in each span across, and looked at along an edge for where it leaves a span. */
const [NODES, LOOKS] = [14, 48]
/** How often a stretch of an edge is halved at most: between its cuts what is summed up is smooth. */
const [LEVELS, PARTS] = [10, 24]
/** Parameters that are one. */
const SAME = 1e-11

/** A surface as it is summed up over: line by line of one u. */
export interface Field {
  /** Goes to the line of a u. */
  hold(u: number): void
  /** Puts the place at v of that line and Pu x Pv there into six numbers. */
  place(v: number, out: Float64Array): void
  /** Where its spans begin and end: derivatives may step there. */
  u: readonly number[]
  v: readonly number[]
}

/** The surface of a face as the kernel tells it. */
export function linesOn(on: BRepAdaptor_Surface): Pick<Field, 'hold' | 'place'> {
  let u = 0
  return {
    hold(at) {
      u = at
    },
    place(v, out) {
      const r = on.EvalD1(u, v)
      out[0] = r.Point.X()
      out[1] = r.Point.Y()
      out[2] = r.Point.Z()
      const n = cross3([r.D1U.X(), r.D1U.Y(), r.D1U.Z()], [r.D1V.X(), r.D1V.Y(), r.D1V.Z()])
      out.set(n, 3)
      for (const x of [r.Point, r.D1U, r.D1V]) x.delete()
    },
  }
}

/** What is summed up. */
interface What {
  /** How many numbers at once. */
  n: number
  /** Puts them into `out`, of what `Field.place` lays there. */
  put(at: Float64Array, out: Float64Array): void
  /** How large what cancels in them can be, at a place. */
  sizes(at: Float64Array): number[]
}
/** The share of what cancels that rounding leaves. */
const ROUNDING = 1e-13

/**
 * Something summed up over a face, however it is bounded: with G its sum along v, by Green's theorem the sum of -G du round the face
 * (derived here). Spans are summed up one by one.
 *
 * @param shares how exactly each of the sums is along each edge, as a share of what it comes to.
 */
export function roundFace(
  oc: Oc,
  s: KernelScope,
  given: TopoDS_Shape,
  field: Field,
  what: What,
  shares: readonly number[],
): Float64Array {
  const { n } = what
  const { u: us, v: vs } = field
  // Seen the way its surface runs, edges run with the face on their left.
  const forward = s.keep(given.Oriented(oc.TopAbs_Orientation.TopAbs_FORWARD))
  const face = s.keep(oc.TopoDS.Face(forward))
  const loops = partsOf(oc, s, face, 'WIRE').map((wire) =>
    partsOf(oc, s, wire, 'EDGE').map((part) => {
      const edge = s.keep(oc.TopoDS.Edge(part))
      const way = edge.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED ? 1 : -1
      const curve = s.keep(new oc.BRepAdaptor_Curve2d(edge, face))
      return { curve, way, looks: looksAt(curve) }
    }),
  )
  const sum = new Float64Array(n)
  const g = new Float64Array(n)
  const all = loops.flatMap((loop) => loop.flatMap((e) => e.looks))
  if (all.length === 0) return sum
  const least = roundingOf(field, all, what)
  // Of a loop that ends where it began it does not matter where the sums along v start: within it they are short.
  const apart = loops.every(endsWhereItBegan)
  const common = startOf(all)
  for (const loop of loops) {
    const start = apart ? startOf(loop.flatMap((e) => (alongV(e.looks) ? [] : e.looks))) : common
    const above = across(field, start, what)
    for (const { curve, way, looks } of loop) {
      if (alongV(looks) || looks.every((l) => Math.abs(l.v - start) < SAME)) continue
      const cuts = cutsOf(s, curve, looks, us, vs)
      for (let i = 1; i < cuts.length; i++) {
        const part = integrateEach(
          (t, out) => {
            const { u, v, du } = uvAt(curve, t)
            above(u, v, g)
            for (let k = 0; k < n; k++) out[k] = g[k]! * du
          },
          n,
          cuts[i - 1]!,
          cuts[i]!,
          shares,
          least,
          LEVELS,
          PARTS,
        )
        for (let k = 0; k < n; k++) sum[k]! += way * part[k]!
      }
    }
  }
  return sum
}

/** Whether the edges of a loop, each run its way, come back to where they began in u. */
function endsWhereItBegan(loop: readonly { way: number; looks: Looks }[]): boolean {
  const us = loop.flatMap((e) => e.looks.map((l) => l.u))
  const net = loop.reduce((sum, { way, looks }) => sum + way * (looks[LOOKS]!.u - looks[0]!.u), 0)
  return Math.abs(net) <= 1e-6 * (Math.max(...us) - Math.min(...us))
}

/** The v from which the sums are short: that of the middle one of the places. */
const startOf = (looks: Looks): number => {
  const vs = looks.map((l) => l.v).sort((a, b) => a - b)
  return vs[Math.floor(vs.length / 2)] ?? 0
}

/** What rounding leaves of sums over a face, by its places along the edges. */
export function roundingOf(
  field: Pick<Field, 'hold' | 'place'>,
  looks: Looks,
  what: What,
): number[] {
  const at = new Float64Array(6)
  const most = new Array<number>(what.n).fill(0)
  let [u0, u1, v0, v1] = [looks[0]!.u, looks[0]!.u, looks[0]!.v, looks[0]!.v]
  for (const { u, v } of looks) {
    field.hold(u)
    field.place(v, at)
    for (const [k, size] of what.sizes(at).entries()) most[k] = Math.max(most[k]!, size)
    ;[u0, u1, v0, v1] = [Math.min(u0, u), Math.max(u1, u), Math.min(v0, v), Math.max(v1, v)]
  }
  return most.map((size) => ROUNDING * size * (u1 - u0) * (v1 - v0))
}

/** The volume between a point and a place's du dv, its first moment about the point, and its area. */
export const behindPlace = (from: P3): What => ({
  n: 5,
  put(at, out) {
    const [x, y, z] = [at[0]! - from[0], at[1]! - from[1], at[2]! - from[2]]
    const f = x * at[3]! + y * at[4]! + z * at[5]!
    out[0] = f / 3
    out[1] = (f * x) / 4
    out[2] = (f * y) / 4
    out[3] = (f * z) / 4
    out[4] = Math.hypot(at[3]!, at[4]!, at[5]!)
  },
  sizes(at) {
    const far = Math.hypot(at[0]! - from[0], at[1]! - from[1], at[2]! - from[2])
    const area = Math.hypot(at[3]!, at[4]!, at[5]!)
    const size = far * area
    return [size / 3, (size * far) / 4, (size * far) / 4, (size * far) / 4, area]
  },
})

/** Sums up along v from `start`. */
function across(field: Field, start: number, what: What) {
  const breaks = field.v
  const { n } = what
  const { nodes, weights } = gaussRule(NODES)
  const at = new Float64Array(6)
  const once = new Float64Array(n)
  return (u: number, v: number, out: Float64Array): void => {
    out.fill(0)
    field.hold(u)
    const sign = v < start ? -1 : 1
    const [low, high] = v < start ? [v, start] : [start, v]
    let a = low
    for (let i = 0; a < high && i <= breaks.length; i++) {
      const b = Math.min(high, i < breaks.length ? breaks[i]! : high)
      if (b <= a) continue
      for (let k = 0; k < nodes.length; k++) {
        field.place(a + (b - a) * nodes[k]!, at)
        what.put(at, once)
        const f = sign * weights[k]! * (b - a)
        for (let m = 0; m < n; m++) out[m]! += f * once[m]!
      }
      a = b
    }
  }
}

function uvAt(curve: BRepAdaptor_Curve2d, t: number): { u: number; v: number; du: number } {
  const { Point, D1 } = curve.EvalD1(t)
  const out = { u: Point.X(), v: Point.Y(), du: D1.X() }
  Point.delete()
  D1.delete()
  return out
}

/** Places along an edge, evenly by its parameter. */
export const looksAt = (curve: BRepAdaptor_Curve2d) => {
  const [t0, t1] = [curve.FirstParameter(), curve.LastParameter()]
  return Array.from({ length: LOOKS + 1 }, (_, i) => {
    const t = t0 + ((t1 - t0) * i) / LOOKS
    return { t, ...uvAt(curve, t) }
  })
}
type Looks = ReturnType<typeof looksAt>

/** The ends of an edge. */
export const endsOn = (curve: BRepAdaptor_Curve2d) =>
  [curve.FirstParameter(), curve.LastParameter()].map((t) => uvAt(curve, t))

/** Whether an edge runs along v: it has no u to be summed along. */
export const alongV = (looks: Looks): boolean =>
  looks.every((l) => Math.abs(l.u - looks[0]!.u) < SAME)

/** An edge parted at its own knots and where it goes from span to span, so that what is summed up has no steps inside. */
export function cutsOf(
  s: KernelScope,
  curve: BRepAdaptor_Curve2d,
  looks: Looks,
  us: readonly number[],
  vs: readonly number[],
): number[] {
  const [t0, t1] = [looks[0]!.t, looks[LOOKS]!.t]
  const cuts = [t0, t1, ...knotsOf(s, curve).filter((t) => t > t0 && t < t1)]
  for (const [key, breaks] of [
    ['u', us],
    ['v', vs],
  ] as const)
    for (let i = 1; i < looks.length; i++)
      for (const b of breaks) {
        const [x, y] = [looks[i - 1]![key] - b, looks[i]![key] - b]
        // One that runs along a break does not cross it.
        if (Math.abs(x) < SAME || x * y > 0) continue
        let [low, high] = [looks[i - 1]!.t, looks[i]!.t]
        // Most edges go straight in the parameters: where a straight line would cross is where they do.
        const straight = low + ((high - low) * x) / (x - y)
        if (Math.abs(uvAt(curve, straight)[key] - b) < SAME) {
          cuts.push(straight)
          continue
        }
        for (let k = 0; k < 50; k++) {
          const mid = (low + high) / 2
          if ((uvAt(curve, mid)[key] - b) * x > 0) low = mid
          else high = mid
        }
        cuts.push(high)
      }
  cuts.sort((a, b) => a - b)
  return cuts.filter((t, i) => i === 0 || t - cuts[i - 1]! > (t1 - t0) * 1e-9)
}

/** The knots of a curve that is a B-spline; none of others. */
export function knotsOf(s: KernelScope, curve: BRepAdaptor_Curve2d | Adaptor3d_Curve): number[] {
  if (curve.GetType() !== 'GeomAbs_BSplineCurve') return []
  const spline = s.keep(curve.BSpline())
  return Array.from({ length: spline.NbKnots() }, (_, i) => spline.Knot(i + 1))
}
