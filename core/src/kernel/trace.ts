import type { NCollection_List_TopoDS_Shape, TopoDS_Shape } from 'replicad-opencascadejs'
import { Numbered, type Oc, partsOf, topologyOf } from './explore'
import type { KernelScope } from './scope'
import type { Origin } from './types'

/** What the kernel's makers remember of what became of a sub-shape. */
export interface History {
  Modified(x: TopoDS_Shape): NCollection_List_TopoDS_Shape
  Generated?(x: TopoDS_Shape): NCollection_List_TopoDS_Shape
}

/** The shapes of a list of the kernel's. */
export function listed(
  oc: Oc,
  s: KernelScope,
  list: NCollection_List_TopoDS_Shape,
): TopoDS_Shape[] {
  const rest = s.keep(new oc.NCollection_List_TopoDS_Shape(s.keep(list)))
  const out: TopoDS_Shape[] = []
  for (let n = rest.Size(); n > 0; n--) {
    out.push(s.keep(rest.First()))
    rest.RemoveFirst()
  }
  return out
}

/** Which way a face that stayed the same stands among these. */
export function standing(faces: Numbered, f: TopoDS_Shape): 'alike' | 'turned' | undefined {
  const now = faces.all[faces.of(f)]
  return now && (now.Orientation() === f.Orientation() ? 'alike' : 'turned')
}

/**
 * What each face of a result comes from: faces that stayed, faces they were changed into, and, where the
 * maker generates them, faces made from faces, edges and vertices.
 */
export function originsOf(
  oc: Oc,
  s: KernelScope,
  result: TopoDS_Shape,
  given: readonly TopoDS_Shape[],
  history: History,
  generates = false,
): Origin[][] {
  const faces = new Numbered(oc, partsOf(oc, s, result, 'FACE'))
  const origins: Origin[][] = faces.all.map(() => [])
  const note = (x: TopoDS_Shape, o: Origin) => {
    const i = faces.of(x)
    if (i >= 0) origins[i]!.push(o)
  }
  for (const [shape, g] of given.entries()) {
    const { faces: old, edges, vertices, facesOfEdge, facesOfVertex } = topologyOf(oc, s, g)
    for (const [face, f] of old.all.entries()) {
      note(f, { from: 'face', shape, face, made: false, same: standing(faces, f) })
      for (const x of listed(oc, s, history.Modified(f)))
        note(x, { from: 'face', shape, face, made: false })
      if (!generates) continue
      for (const x of listed(oc, s, history.Generated!(f)))
        note(x, { from: 'face', shape, face, made: true })
    }
    if (!generates) continue
    for (const [i, e] of edges.all.entries())
      for (const x of listed(oc, s, history.Generated!(e)))
        note(x, { from: 'edge', shape, faces: facesOfEdge[i]! })
    for (const [i, v] of vertices.all.entries())
      for (const x of listed(oc, s, history.Generated!(v)))
        note(x, { from: 'vertex', shape, faces: facesOfVertex[i]! })
  }
  return origins
}
