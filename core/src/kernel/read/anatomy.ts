import type { gp_Ax1, TopoDS_Shape } from 'replicad-opencascadejs'
import type { P3 } from '../../math'
import { hashOf, type Numbered, type Oc, topologyOf } from '../explore'
import type { KernelScope } from '../scope'
import type { Anatomy, EdgeInfo, FaceInfo, SurfaceKind } from '../types'
import { splineOf } from './edgecurve'
import { floats, ints, type ShownSkin } from './skin'

const KINDS: Record<string, SurfaceKind> = {
  GeomAbs_Plane: 'plane',
  GeomAbs_Cylinder: 'cylinder',
  GeomAbs_Cone: 'cone',
  GeomAbs_Sphere: 'sphere',
  GeomAbs_Torus: 'torus',
}

/** Faces (of these areas), edges and vertices with the triangles, made before, and the lines that show them. */
export function anatomy(
  oc: Oc,
  s: KernelScope,
  shape: TopoDS_Shape,
  { groups, ...skin }: ShownSkin,
  areas: readonly number[],
  chord: number,
  angle: number,
): Anatomy {
  const { faces, edges, vertices, facesOfEdge, facesOfVertex } = topologyOf(oc, s, shape)
  const lines = s.keep(oc.ReplicadEdgeMeshExtractor.extract(shape, chord, angle))
  const edgeGroups = ints(oc, lines.getEdgeGroupsPtr(), lines.getEdgeGroupsSize())
  const linePoints = floats(oc, lines.getLinesPtr(), lines.getLinesSize())
  return {
    faces: faces.all.map((f, i) => faceInfo(oc, s, f, areas[i]!)),
    edges: edges.all.map((e, i) => ({
      faces: facesOfEdge[i]!,
      length: lengthOf(oc, s, e),
      ...formOf(oc, s, e),
    })),
    vertices: vertices.all.map((v, i) => {
      const p = s.keep(oc.BRep_Tool.Pnt(s.keep(oc.TopoDS.Vertex(v))))
      return { at: [p.X(), p.Y(), p.Z()] as P3, faces: facesOfVertex[i]! }
    }),
    ...skin,
    faceOf: owners(oc, groups, faces, skin.triangles.length / 3, 3),
    lines: linePoints,
    edgeOf: owners(oc, edgeGroups, edges, linePoints.length / 6, 2),
  }
}

/** Spreads groups of (start, count, hash) over items of `per` indices each; equal hashes in their order. */
function owners(oc: Oc, groups: Uint32Array, of: Numbered, count: number, per: number) {
  const byHash = new Map<number, number[]>()
  for (const [i, x] of of.all.entries()) {
    const h = hashOf(oc, x)
    byHash.set(h, [...(byHash.get(h) ?? []), i])
  }
  const out = new Uint32Array(count)
  for (let g = 0; g < groups.length; g += 3) {
    const own = byHash.get(groups[g + 2]!) ?? []
    const owner = (own.length > 1 ? own.shift() : own[0]) ?? 0
    const from = groups[g]! / per
    out.fill(owner, from, from + groups[g + 1]! / per)
  }
  return out
}

function faceInfo(oc: Oc, s: KernelScope, shape: TopoDS_Shape, area: number): FaceInfo {
  const face = s.keep(oc.TopoDS.Face(shape))
  const adaptor = s.keep(new oc.BRepAdaptor_Surface(face, true))
  const kind = KINDS[adaptor.GetType()] ?? 'free'
  const info: FaceInfo = { kind, area }
  if (kind === 'plane') info.flat = lineOf(s, s.keep(s.keep(adaptor.Plane()).Axis()))
  if (kind === 'cylinder') {
    const cylinder = s.keep(adaptor.Cylinder())
    info.round = { ...lineOf(s, s.keep(cylinder.Axis())), radius: cylinder.Radius() }
  }
  return info
}

function lengthOf(oc: Oc, s: KernelScope, e: TopoDS_Shape): number {
  const props = s.keep(new oc.GProp_GProps())
  oc.BRepGProp.LinearProperties(e, props, false, false)
  return props.Mass()
}

/** Whether an edge is straight, or its circle, or the free curve it runs on. */
function formOf(
  oc: Oc,
  s: KernelScope,
  e: TopoDS_Shape,
): Pick<EdgeInfo, 'straight' | 'circle' | 'curve'> {
  const edge = s.keep(oc.TopoDS.Edge(e))
  if (oc.BRep_Tool.Degenerated(edge)) return { straight: false }
  const curve = s.keep(new oc.BRepAdaptor_Curve(edge))
  const kind = curve.GetType()
  if (kind === 'GeomAbs_Line') return { straight: true }
  if (kind !== 'GeomAbs_Circle') {
    const free = splineOf(oc, s, edge)
    return { straight: false, ...(free ? { curve: free } : {}) }
  }
  const circle = s.keep(curve.Circle())
  return {
    straight: false,
    circle: { ...lineOf(s, s.keep(circle.Axis())), radius: circle.Radius() },
  }
}

function lineOf(s: KernelScope, axis: gp_Ax1): { origin: P3; dir: P3 } {
  const [p, d] = [s.keep(axis.Location()), s.keep(axis.Direction())]
  return { origin: [p.X(), p.Y(), p.Z()], dir: [d.X(), d.Y(), d.Z()] }
}
