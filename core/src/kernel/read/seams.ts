import type {
  BRepAdaptor_Surface,
  TopoDS_Edge,
  TopoDS_Face,
  TopoDS_Shape,
} from 'replicad-opencascadejs'
import { add3, cross3, curvatureOff, dot3, norm3, type P3, scale3, sub3, unit3 } from '../../math'
import { type Oc, partsOf, topologyOf } from '../explore'
import type { KernelScope } from '../scope'
import type { Ribbon, RibbonSpot, Seam } from '../types'
import { bendAcross, formOver, type Spot, spotOn } from './spot'

/** Places along an edge at which its two faces are compared. */
const STATIONS = 33
/** Faces that meet at more all along (rad) are meant to. */
const SHARP = (20 * Math.PI) / 180
/** Normals that turn by more make a kink, rad. */
const KINK = (0.1 * Math.PI) / 180
/** Kinds of surfaces that may close on themselves in any way. */
const FREE = new Set([
  'GeomAbs_BSplineSurface',
  'GeomAbs_BezierSurface',
  'GeomAbs_SurfaceOfRevolution',
  'GeomAbs_SurfaceOfExtrusion',
  'GeomAbs_OffsetSurface',
  'GeomAbs_OtherSurface',
])

/** One side of an edge: its face's surface, and whether that looks into the material. */
interface Side {
  surface: BRepAdaptor_Surface
  reversed: boolean
  at(t: number): [number, number]
}
/** How the faces of a shape meet at each of its edges, by number; null where at an angle. */
export function seamsOf(oc: Oc, s: KernelScope, shape: TopoDS_Shape): (Seam | null)[] {
  const { faces, edges, facesOfEdge } = topologyOf(oc, s, shape)
  const reader = new FaceReader(oc, s, faces.all)
  return edges.all.map((e, i) => reader.seam(e, facesOfEdge[i]!))
}

/** The faces along some edges of a shape; none along a seam, or an edge that has no extent. */
export function ribbonsOf(
  oc: Oc,
  s: KernelScope,
  shape: TopoDS_Shape,
  wanted: readonly number[],
): Ribbon[][] {
  const { faces, edges, facesOfEdge } = topologyOf(oc, s, shape)
  const reader = new FaceReader(oc, s, faces.all)
  return wanted.map((i) =>
    edges.all[i] && facesOfEdge[i]!.length === 2
      ? facesOfEdge[i]!.flatMap((face) => {
          const spots = reader.ribbon(edges.all[i]!, face)
          return spots ? [{ face, spots }] : []
        })
      : [],
  )
}

/** Reads the surfaces of a shape's faces beside its edges. */
class FaceReader {
  readonly #oc: Oc
  readonly #s: KernelScope
  readonly #faces: {
    face: TopoDS_Face
    surface: BRepAdaptor_Surface
    reversed: boolean
    kind: string
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
        kind: surface.GetType(),
        reversed: f.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED,
      }
    })
  }

  /**
   * How two faces, or a free one and itself, meet along an edge, the worst of its stations each for itself: gap (mm), angle (rad), and
   * the mismatch of the normal curvatures across the edge, |k1 - k2| over the larger. Null where they meet at an angle all along, or
   * the edge has no extent.
   */
  seam(e: TopoDS_Shape, faces: readonly number[]): Seam | null {
    const [oc, s] = [this.#oc, this.#s]
    const [f, g = f] = faces
    if (f === undefined || g === undefined) return null
    const edge = s.keep(oc.TopoDS.Edge(e))
    if (oc.BRep_Tool.Degenerated(edge)) return null
    // Round surfaces of simple kinds close on themselves exactly.
    if (f === g && !FREE.has(this.#faces[f]!.kind)) return null
    const { First, Last } = oc.BRep_Tool.Range(edge, 0, 0)
    const other = f === g ? s.keep(oc.TopoDS.Edge(s.keep(edge.Reversed()))) : edge
    const [a, b] = [this.#beside(edge, f), this.#beside(other, g)]
    const flat = [f, g].every((x) => this.#faces[x]!.kind === 'GeomAbs_Plane')
    const out: Seam = {
      gap: 0,
      angle: 0,
      leastAngle: Number.POSITIVE_INFINITY,
      kinked: null,
      bend: 0,
      at: [0, 0, 0],
    }
    let before: P3 | null = null
    for (let i = 0; i < STATIONS; i++) {
      const share = (i + 0.5) / STATIONS
      const t = First + (Last - First) * share
      const [p, q] = [spotAt(a, t), spotAt(b, t)]
      const angle = Math.atan2(norm3(cross3(p.n, q.n)), dot3(p.n, q.n))
      // Between planes it is the same everywhere.
      if (flat && angle > SHARP) return null
      out.gap = Math.max(out.gap, norm3(sub3(p.p, q.p)))
      out.leastAngle = Math.min(out.leastAngle, angle)
      if (angle > KINK) out.kinked = [out.kinked?.[0] ?? i / STATIONS, (i + 1) / STATIONS]
      if (angle > out.angle) {
        out.angle = angle
        out.at = p.p
      }
      if (before) {
        const along = unit3(sub3(p.p, before))
        const across = unit3(cross3(add3(p.n, q.n), along))
        const [k, m] = [bendAcross(p, across), bendAcross(q, across)]
        const off = curvatureOff(Math.abs(k - m), k, m)
        if (off > out.bend) {
          out.bend = off
          if (out.angle < 1e-3) out.at = p.p
        }
      }
      before = p.p
    }
    return out.leastAngle > SHARP ? null : out
  }

  /** A face at even shares of one of its edges, both ends too. */
  ribbon(e: TopoDS_Shape, face: number): RibbonSpot[] | null {
    const [oc, s] = [this.#oc, this.#s]
    const edge = s.keep(oc.TopoDS.Edge(e))
    if (oc.BRep_Tool.Degenerated(edge)) return null
    const side = this.#beside(edge, face)
    const { First, Last } = oc.BRep_Tool.Range(edge, 0, 0)
    const curve = s.keep(new oc.BRepAdaptor_Curve(edge))
    // Seen from outside, a face lies to the left of its edges as they go round it.
    const own = partsOf(oc, s, this.#faces[face]!.face, 'EDGE').find((x) => x.IsSame(e))
    if (!own) return null
    const ahead = own.Orientation() === oc.TopAbs_Orientation.TopAbs_FORWARD ? 1 : -1
    return Array.from({ length: STATIONS }, (_, i) => {
      const t = First + ((Last - First) * i) / (STATIONS - 1)
      const spot = spotAt(side, t)
      const way = curve.EvalD1(t).D1
      const d: P3 = [way.X(), way.Y(), way.Z()]
      way.delete()
      const flat = sub3(d, scale3(spot.n, dot3(d, spot.n)))
      const along = unit3(flat)
      const away = scale3(cross3(along, spot.n), ahead)
      return { at: spot.p, along, away, out: spot.n, bends: formOver(spot, along, away) }
    })
  }

  #beside(edge: TopoDS_Edge, f: number): Side {
    const { face, surface, reversed } = this.#faces[f]!
    const curve = this.#s.keep(new this.#oc.BRepAdaptor_Curve2d(edge, face))
    const at = (t: number): [number, number] => {
      const p = curve.EvalD0(t)
      const out: [number, number] = [p.X(), p.Y()]
      p.delete()
      return out
    }
    return { surface, reversed, at }
  }
}

function spotAt({ surface, reversed, at }: Side, t: number): Spot {
  const [u, v] = at(t)
  return spotOn(surface, reversed, u, v)
}
