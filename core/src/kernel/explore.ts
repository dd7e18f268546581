import type { OpenCascadeInstance, TopoDS_Shape } from 'replicad-opencascadejs'
import type { KernelScope } from './scope'

export type Oc = OpenCascadeInstance
export type SubKind = 'FACE' | 'EDGE' | 'VERTEX' | 'SOLID' | 'SHELL' | 'WIRE'

/** The sub-shapes of one kind in a shape, as often as the kernel meets them. */
export function partsOf(oc: Oc, s: KernelScope, shape: TopoDS_Shape, kind: SubKind) {
  const e = s.keep(
    new oc.TopExp_Explorer(
      shape,
      oc.TopAbs_ShapeEnum[`TopAbs_${kind}`],
      oc.TopAbs_ShapeEnum.TopAbs_SHAPE,
    ),
  )
  const out: TopoDS_Shape[] = []
  for (; e.More(); e.Next()) out.push(s.keep(e.Current()))
  return out
}

/** What tells shapes apart at a glance; equal for the same shape, seldom for others. */
export const hashOf = (oc: Oc, x: TopoDS_Shape): number =>
  oc.ReplicadShapeHasher.HashCode(x, 2 ** 31 - 1)

/** Shapes, each once whatever way it runs, numbered in the order they came. */
export class Numbered {
  readonly all: TopoDS_Shape[] = []
  readonly #oc: Oc
  readonly #at = new Map<number, number[]>()

  constructor(oc: Oc, shapes: readonly TopoDS_Shape[] = []) {
    this.#oc = oc
    for (const x of shapes) this.add(x)
  }
  /** The number of a shape, -1 where it is not there. */
  of(x: TopoDS_Shape): number {
    const h = hashOf(this.#oc, x)
    return this.#at.get(h)?.find((i) => this.all[i]!.IsSame(x)) ?? -1
  }
  add(x: TopoDS_Shape): number {
    const known = this.of(x)
    if (known >= 0) return known
    const h = hashOf(this.#oc, x)
    const i = this.all.push(x) - 1
    this.#at.set(h, [...(this.#at.get(h) ?? []), i])
    return i
  }
}

/** Faces, edges and vertices of a shape by number, and which faces each edge and vertex lies on. */
export interface Topology {
  faces: Numbered
  edges: Numbered
  vertices: Numbered
  facesOfEdge: number[][]
  facesOfVertex: number[][]
}

export function topologyOf(oc: Oc, s: KernelScope, shape: TopoDS_Shape): Topology {
  const faces = new Numbered(oc, partsOf(oc, s, shape, 'FACE'))
  const edges = new Numbered(oc)
  const vertices = new Numbered(oc)
  const around = (kind: 'EDGE' | 'VERTEX', into: Numbered): number[][] => {
    const lists: number[][] = []
    for (const [f, face] of faces.all.entries()) {
      for (const x of partsOf(oc, s, face, kind)) {
        const i = into.add(x)
        lists[i] ??= []
        if (!lists[i].includes(f)) lists[i].push(f)
      }
    }
    return lists
  }
  const facesOfEdge = around('EDGE', edges)
  return { faces, edges, vertices, facesOfEdge, facesOfVertex: around('VERTEX', vertices) }
}
