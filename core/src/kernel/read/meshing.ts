import type { BRepAdaptor_Surface, Poly_Triangulation, TopoDS_Shape } from 'replicad-opencascadejs'
import { type Oc, partsOf } from '../explore'
import { type KernelScope, scoped } from '../scope'

/** Surfaces whose triangles the kernel keeps within the chord it is given. */
const KEPT = new Set([
  'GeomAbs_Plane',
  'GeomAbs_Cylinder',
  'GeomAbs_Cone',
  'GeomAbs_Sphere',
  'GeomAbs_Torus',
])
/** How often edges are halved at most. */
const ROUNDS = 6
/** More triangles of a face than this are left as the kernel made them. */
const MOST = 100_000

/**
 * Gives the faces of a shape triangles within `chord` mm and `angle` rad of their surfaces. The kernel's are up to 0.9 mm off free ones
 * where 0.05 is asked, finer angles making it worse; so edges inside a face whose middle lies off the surface by more than the chord
 * are halved, the new corner on the surface. Those on its border are shared with the next face and stay.
 */
export function meshed(
  oc: Oc,
  s: KernelScope,
  shape: TopoDS_Shape,
  chord: number,
  angle: number,
): void {
  s.keep(new oc.BRepMesh_IncrementalMesh(shape, chord, false, angle, false))
  for (const f of partsOf(oc, s, shape, 'FACE'))
    scoped((own) => {
      const face = own.keep(oc.TopoDS.Face(f))
      const surface = own.keep(new oc.BRepAdaptor_Surface(face, true))
      if (KEPT.has(surface.GetType() as unknown as string)) return
      const mesh = oc.BRep_Tool.Triangulation(face, own.keep(new oc.TopLoc_Location()), 0)
      if (!mesh) return
      own.keep(mesh)
      if (mesh.HasUVNodes() && mesh.NbTriangles() < MOST)
        halved(oc, mesh, surface, chord, placed(oc, own, face))
    })
}

/** Takes a place of a surface as it stands in the shape to where its face's triangles have it: the face may have been moved. */
function placed(oc: Oc, s: KernelScope, face: TopoDS_Shape): (p: Place) => Place {
  const at = s.keep(face.Location())
  if (at.IsIdentity()) return (p) => p
  const back = s.keep(s.keep(at.Inverted()).Transformation())
  return ([x, y, z]) =>
    scoped((own) => {
      const q = own.keep(own.keep(new oc.gp_Pnt(x, y, z)).Transformed(back))
      return [q.X(), q.Y(), q.Z()]
    })
}
type Place = [number, number, number]

/** One number for an edge between two corners, whichever comes first. */
const ROOM = 2 ** 26
const keyOf = (a: number, b: number) => (a < b ? a * ROOM + b : b * ROOM + a)

function halved(
  oc: Oc,
  mesh: Poly_Triangulation,
  surface: BRepAdaptor_Surface,
  chord: number,
  toMesh: (p: Place) => Place,
): void {
  const { places, uvs, given } = cornersOf(mesh)
  const nodes = uvs.length / 2
  const fine = new Set<number>()
  let triangles = given
  for (let round = 0; round < ROUNDS && triangles.length < 3 * MOST; round++) {
    const middles = new Map<number, number>()
    for (const [key, count] of edgesOf(triangles)) {
      if (count !== 2 || fine.has(key)) continue
      const [a, b] = [Math.floor(key / ROOM), key % ROOM]
      const [u, v] = [0, 1].map((k) => (uvs[2 * a + k]! + uvs[2 * b + k]!) / 2) as [number, number]
      const p = surface.EvalD0(u, v)
      const at = toMesh([p.X(), p.Y(), p.Z()])
      p.delete()
      if (!(offSegment(places, a, b, at) > chord)) {
        fine.add(key)
        continue
      }
      middles.set(key, uvs.length / 2)
      places.push(...at)
      uvs.push(u, v)
    }
    if (middles.size === 0) break
    triangles = split(triangles, middles)
  }
  if (uvs.length / 2 > nodes) handBack(oc, mesh, places, uvs, nodes, triangles)
}

/** The corners of a face's triangles, three numbers each, their parameters, and the triangles, counting from 0. */
export function cornersOf(mesh: Poly_Triangulation) {
  const [places, uvs, given]: [number[], number[], number[]] = [[], [], []]
  for (let n = 1; n <= mesh.NbNodes(); n++) {
    const [p, uv] = [mesh.Node(n), mesh.UVNode(n)]
    places.push(p.X(), p.Y(), p.Z())
    uvs.push(uv.X(), uv.Y())
    p.delete()
    uv.delete()
  }
  for (let n = 1; n <= mesh.NbTriangles(); n++) {
    const t = mesh.Triangle(n)
    given.push(t.Value(1) - 1, t.Value(2) - 1, t.Value(3) - 1)
    t.delete()
  }
  return { places, uvs, given }
}

/** How many triangles have each edge. */
function edgesOf(t: readonly number[]): Map<number, number> {
  const out = new Map<number, number>()
  for (let i = 0; i < t.length; i += 3)
    for (let k = 0; k < 3; k++) {
      const key = keyOf(t[i + k]!, t[i + ((k + 1) % 3)]!)
      out.set(key, (out.get(key) ?? 0) + 1)
    }
  return out
}

/** How far a place lies off the line through two corners, mm. */
function offSegment(p: readonly number[], a: number, b: number, [x, y, z]: Place): number {
  const [ux, uy, uz] = [
    p[3 * b]! - p[3 * a]!,
    p[3 * b + 1]! - p[3 * a + 1]!,
    p[3 * b + 2]! - p[3 * a + 2]!,
  ]
  const [vx, vy, vz] = [x - p[3 * a]!, y - p[3 * a + 1]!, z - p[3 * a + 2]!]
  const across = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx)
  const length = Math.hypot(ux, uy, uz)
  return length > 0 ? across / length : Math.hypot(vx, vy, vz)
}

/** Triangles parted at the middles of their edges: by none, one, two or three of them. */
function split(t: readonly number[], middles: ReadonlyMap<number, number>): number[] {
  const out: number[] = []
  for (let i = 0; i < t.length; i += 3) {
    const own = [t[i]!, t[i + 1]!, t[i + 2]!]
    const at = [0, 1, 2].map((k) => middles.get(keyOf(own[k]!, own[(k + 1) % 3]!)))
    const parted = at.filter((m) => m !== undefined).length
    // Turned so that the first edge is parted, and the last is not where two are.
    const first =
      parted === 2 ? (at.indexOf(undefined) + 1) % 3 : at.findIndex((m) => m !== undefined)
    if (parted === 0) out.push(...own)
    if (parted === 0) continue
    const [a, b, c] = [0, 1, 2].map((k) => own[(first + k) % 3]!) as [number, number, number]
    const [p, q, r] = [0, 1, 2].map((k) => at[(first + k) % 3])
    if (parted === 1) out.push(a, p!, c, p!, b, c)
    else if (parted === 2) out.push(a, p!, c, p!, q!, c, p!, b, q!)
    else out.push(a, p!, r!, p!, b, q!, r!, q!, c, p!, q!, r!)
  }
  return out
}

/** Puts new corners and triangles into the kernel's own; the corners that edges refer to keep their numbers. */
function handBack(
  oc: Oc,
  mesh: Poly_Triangulation,
  places: readonly number[],
  uvs: readonly number[],
  from: number,
  triangles: readonly number[],
): void {
  mesh.ResizeNodes(uvs.length / 2, true)
  for (let n = from; n < uvs.length / 2; n++) {
    const p = new oc.gp_Pnt(places[3 * n]!, places[3 * n + 1]!, places[3 * n + 2]!)
    const uv = new oc.gp_Pnt2d(uvs[2 * n]!, uvs[2 * n + 1]!)
    mesh.SetNode(n + 1, p)
    mesh.SetUVNode(n + 1, uv)
    p.delete()
    uv.delete()
  }
  mesh.ResizeTriangles(triangles.length / 3, false)
  for (let i = 0; i < triangles.length / 3; i++) {
    const t = new oc.Poly_Triangle(
      triangles[3 * i]! + 1,
      triangles[3 * i + 1]! + 1,
      triangles[3 * i + 2]! + 1,
    )
    mesh.SetTriangle(i + 1, t)
    t.delete()
  }
}
