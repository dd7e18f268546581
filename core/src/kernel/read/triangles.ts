import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { type Oc, partsOf } from '../explore'
import type { KernelScope } from '../scope'
import type { KernelMesh } from '../types'
import { meshed } from './meshing'

/** Triangles in double precision, as they leave in files; vertices of each face apart. */
export function tessellate(
  oc: Oc,
  s: KernelScope,
  shape: TopoDS_Shape,
  chord: number,
  angle: number,
): KernelMesh {
  meshed(oc, s, shape, chord, angle)
  const positions: number[] = []
  const triangles: number[] = []
  for (const f of partsOf(oc, s, shape, 'FACE')) {
    const face = s.keep(oc.TopoDS.Face(f))
    const at = s.keep(new oc.TopLoc_Location())
    const mesh = oc.BRep_Tool.Triangulation(face, at, 0)
    if (!mesh) continue
    s.keep(mesh)
    const move = s.keep(at.Transformation())
    const base = positions.length / 3
    for (let i = 1; i <= mesh.NbNodes(); i++) {
      const raw = s.keep(mesh.Node(i))
      const p = s.keep(raw.Transformed(move))
      positions.push(p.X(), p.Y(), p.Z())
    }
    const reversed = f.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED
    for (let i = 1; i <= mesh.NbTriangles(); i++) {
      const t = s.keep(mesh.Triangle(i))
      const [a, b, c] = [t.Value(1), t.Value(2), t.Value(3)].map((n) => base + n - 1)
      if (reversed) triangles.push(a!, c!, b!)
      else triangles.push(a!, b!, c!)
    }
  }
  return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) }
}

/** mm3 between the triangles and the origin: right for a closed shape. */
export function volumeByTriangles(
  oc: Oc,
  s: KernelScope,
  shape: TopoDS_Shape,
  chord: number,
  angle: number,
): number {
  s.keep(new oc.BRepMesh_IncrementalMesh(shape, chord, false, angle, false))
  const props = s.keep(new oc.GProp_GProps())
  oc.BRepGProp.VolumeProperties(shape, props, false, false, true)
  return props.Mass()
}
