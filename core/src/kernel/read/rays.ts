import type { BRepAdaptor_Surface, TopoDS_Face, TopoDS_Shape } from 'replicad-opencascadejs'
import { cross3, dot3, norm3, type P3, placeAt, sub3, unit3 } from '../../math'
import type { Oc } from '../explore'
import { type KernelScope, scoped } from '../scope'
import { cornersOf, meshed } from './meshing'
import { SHOWN } from './skin'
import { spotOn } from './spot'

/** A place where a straight line goes through a face, and the direction out of the material there. */
export interface Through {
  at: P3
  out: P3
}

/** How far beside a triangle a line may pass and still be followed onto the surface, mm: triangles end inside rounded borders. */
const BESIDE = 0.1
/** How near a place lies to its face where it is on it; places on its border miss it by their last bits, mm. */
const HAIR = 1e-4
/** A place is found where the line passes it by less, mm, within so many steps. */
const [MET, STEPS] = [1e-9, 20]

/** Faces that straight lines are sent through: where their triangles are met, Newton's steps go on to the surface. */
export class RayFaces {
  readonly #oc: Oc
  readonly #faces: {
    face: TopoDS_Face
    surface: BRepAdaptor_Surface
    reversed: boolean
    uvs: number[]
    places: number[]
    triangles: number[]
  }[]

  constructor(oc: Oc, s: KernelScope, shape: TopoDS_Shape, faces: readonly TopoDS_Shape[]) {
    this.#oc = oc
    meshed(oc, s, shape, SHOWN.chord, SHOWN.angle)
    this.#faces = faces.flatMap((f) => {
      const face = s.keep(oc.TopoDS.Face(f))
      const mesh = oc.BRep_Tool.Triangulation(face, s.keep(new oc.TopLoc_Location()), 0)
      if (!mesh) return []
      s.keep(mesh)
      const surface = s.keep(new oc.BRepAdaptor_Surface(face, true))
      const reversed = f.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED
      const { uvs, given } = cornersOf(mesh)
      const places: number[] = []
      for (let n = 0; n < uvs.length; n += 2) {
        const p = surface.EvalD0(uvs[n]!, uvs[n + 1]!)
        places.push(p.X(), p.Y(), p.Z())
        p.delete()
      }
      return [{ face, surface, reversed, uvs, places, triangles: given }]
    })
  }

  /** All places where the straight line through a place, along a unit direction and against it, goes through the faces. */
  through(from: P3, along: P3): Through[] {
    const out: Through[] = []
    for (const { face, surface, reversed, uvs, places, triangles } of this.#faces)
      for (let i = 0; i < triangles.length; i += 3) {
        const own = [triangles[i]!, triangles[i + 1]!, triangles[i + 2]!] as const
        const shares = metIn(places, own, from, along)
        if (!shares) continue
        const uv = [0, 1].map((k) =>
          own.reduce((sum, n, c) => sum + shares[c]! * uvs[2 * n + k]!, 0),
        ) as [number, number]
        const found = onSurface(surface, reversed, uv, from, along)
        if (!found || out.some((o) => norm3(sub3(o.at, found.at)) < HAIR)) continue
        if (this.#near(found.at, face)) out.push(found)
      }
    return out
  }

  #near(at: P3, face: TopoDS_Face): boolean {
    const oc = this.#oc
    return scoped((s) => {
      const p = s.keep(new oc.gp_Pnt(...at))
      const vertex = s.keep(s.keep(new oc.BRepBuilderAPI_MakeVertex(p)).Vertex())
      const read = s.keep(new oc.BRepExtrema_DistShapeShape(vertex, face))
      return read.IsDone() && read.Value() < HAIR
    })
  }
}

/** The shares of a triangle's corners in the place where a line meets its plane; null where that lies too far beside it. */
function metIn(
  places: readonly number[],
  [a, b, c]: readonly [number, number, number],
  from: P3,
  along: P3,
): [number, number, number] | null {
  const p = placeAt(places, a)
  const [u, v] = [sub3(placeAt(places, b), p), sub3(placeAt(places, c), p)]
  const n = cross3(u, v)
  const size = norm3(n)
  const slope = dot3(n, along)
  if (!(Math.abs(slope) > 1e-9 * size)) return null
  const t = dot3(n, sub3(p, from)) / slope
  const q = sub3([from[0] + t * along[0], from[1] + t * along[1], from[2] + t * along[2]], p)
  const [y, z] = [dot3(cross3(q, v), n) / size ** 2, dot3(cross3(u, q), n) / size ** 2]
  const x = 1 - y - z
  // A share below 0 lies so many heights of the triangle beside it.
  const edges = [norm3(sub3(v, u)), norm3(v), norm3(u)]
  const beside = [x, y, z].map((w, k) => (-w * size) / edges[k]!)
  return Math.max(...beside) < BESIDE ? [x, y, z] : null
}

/** From parameters near it, where a line goes through a surface; null where the steps do not end. */
function onSurface(
  surface: BRepAdaptor_Surface,
  reversed: boolean,
  [u0, v0]: readonly [number, number],
  from: P3,
  along: P3,
): Through | null {
  let [u, v] = [u0, v0]
  for (let step = 0; step < STEPS; step++) {
    const { p, u: du, v: dv, n } = spotOn(surface, reversed, u, v)
    const off = sub3(p, from)
    const d = dot3(off, along)
    const beside: P3 = [off[0] - d * along[0], off[1] - d * along[1], off[2] - d * along[2]]
    if (norm3(beside) < MET) return { at: p, out: unit3(n) }
    // p + a du + b dv - (from + t along) = 0, for a and b.
    const det = dot3(cross3(du, dv), along)
    if (!(Math.abs(det) > 1e-12)) return null
    u += dot3(cross3(dv, beside), along) / det
    v += dot3(cross3(beside, du), along) / det
  }
  return null
}
