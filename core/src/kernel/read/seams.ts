import type { BRepAdaptor_Surface, TopoDS_Face, TopoDS_Shape } from 'replicad-opencascadejs'
import { add3, cross3, dot3, norm3, type P3, scale3, sub3, unit3 } from '../../math'
import type { Oc } from '../explore'
import type { KernelScope } from '../scope'
import type { Seam } from '../types'

/** Places along an edge at which its two faces are compared. */
const STATIONS = 33
/** Faces that meet at more (rad) are meant to; only where they meet is looked at. */
const SHARP = 0.05
/** Curvatures under this (1/mm) count as this when they are compared. */
const STRAIGHT = 1e-3

/** One side of an edge: its face's surface, and whether that looks into the material. */
interface Side {
  surface: BRepAdaptor_Surface
  reversed: boolean
  at(t: number): [number, number]
}
/** A surface at a place, its normal out of the material. */
interface Spot {
  p: P3
  u: P3
  v: P3
  n: P3
  uu: P3
  uv: P3
  vv: P3
}

/** Reads how the faces of a shape meet at its edges. */
export class SeamReader {
  readonly #oc: Oc
  readonly #s: KernelScope
  readonly #faces: {
    face: TopoDS_Face
    surface: BRepAdaptor_Surface
    reversed: boolean
    flat: boolean
  }[]

  constructor(oc: Oc, s: KernelScope, faces: readonly TopoDS_Shape[]) {
    this.#oc = oc
    this.#s = s
    this.#faces = faces.map((f) => {
      const face = s.keep(oc.TopoDS.Face(f))
      const surface = s.keep(new oc.BRepAdaptor_Surface(face, true))
      return {
        face,
        surface,
        flat: surface.GetType() === 'GeomAbs_Plane',
        reversed: f.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED,
      }
    })
  }

  /**
   * How two faces meet along an edge, the worst of its stations each for itself: gap (mm), angle (rad), and the mismatch of the
   * normal curvatures across the edge, |k1 - k2| over the larger. Null where they meet at an angle, or the edge has no extent.
   */
  seam(e: TopoDS_Shape, faces: readonly number[]): Seam | null {
    const [oc, s] = [this.#oc, this.#s]
    const [f, g] = faces
    if (f === undefined || g === undefined) return null
    // Two planes never run on in each other: they would be one face.
    if (this.#faces[f]!.flat && this.#faces[g]!.flat) return null
    const edge = s.keep(oc.TopoDS.Edge(e))
    if (oc.BRep_Tool.Degenerated(edge)) return null
    const { First, Last } = oc.BRep_Tool.Range(edge, 0, 0)
    const [a, b] = [f, g].map((i): Side => {
      const { face, surface, reversed } = this.#faces[i]!
      const curve = s.keep(new oc.BRepAdaptor_Curve2d(edge, face))
      const at = (t: number): [number, number] => {
        const p = curve.EvalD0(t)
        const out: [number, number] = [p.X(), p.Y()]
        p.delete()
        return out
      }
      return { surface, reversed, at }
    }) as [Side, Side]
    const out: Seam = { gap: 0, angle: 0, bend: 0, at: [0, 0, 0] }
    let before: P3 | null = null
    for (let i = 0; i < STATIONS; i++) {
      const t = First + ((Last - First) * (i + 0.5)) / STATIONS
      const [p, q] = [spotAt(a, t), spotAt(b, t)]
      const angle = Math.atan2(norm3(cross3(p.n, q.n)), dot3(p.n, q.n))
      if (angle > SHARP) return null
      out.gap = Math.max(out.gap, norm3(sub3(p.p, q.p)))
      if (angle > out.angle) {
        out.angle = angle
        out.at = p.p
      }
      if (before) {
        const along = unit3(sub3(p.p, before))
        const across = unit3(cross3(add3(p.n, q.n), along))
        const [k, m] = [bendAcross(p, across), bendAcross(q, across)]
        const off = Math.abs(k - m) / Math.max(Math.abs(k), Math.abs(m), STRAIGHT)
        if (off > out.bend) {
          out.bend = off
          if (out.angle < 1e-3) out.at = p.p
        }
      }
      before = p.p
    }
    return out
  }
}

function spotAt({ surface, reversed, at }: Side, t: number): Spot {
  const [u, v] = at(t)
  const r = surface.EvalD2(u, v)
  const of = (x: { X(): number; Y(): number; Z(): number; delete(): void }): P3 => {
    const out: P3 = [x.X(), x.Y(), x.Z()]
    x.delete()
    return out
  }
  const [p, du, dv, uu, vv, uv] = [
    of(r.Point),
    of(r.D1U),
    of(r.D1V),
    of(r.D2U),
    of(r.D2V),
    of(r.D2UV),
  ]
  const n = scale3(unit3(cross3(du, dv)), reversed ? -1 : 1)
  return { p, u: du, v: dv, n, uu, uv, vv }
}

/** The curvature of the section square to the surface in a direction along it, 1/mm (first and second fundamental forms). */
function bendAcross({ u, v, n, uu, uv, vv }: Spot, way: P3): number {
  const [E, F, G] = [dot3(u, u), dot3(u, v), dot3(v, v)]
  const det = E * G - F * F
  if (!(det > 1e-12 * E * G)) return 0
  const [wu, wv] = [dot3(way, u), dot3(way, v)]
  const a = (wu * G - wv * F) / det
  const b = (wv * E - wu * F) / det
  const size = E * a * a + 2 * F * a * b + G * b * b
  return (dot3(uu, n) * a * a + 2 * dot3(uv, n) * a * b + dot3(vv, n) * b * b) / size
}
