import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { type Frame, toSpace } from '../../math'
import { type Oc, partsOf } from '../explore'
import type { Handle, KernelScope } from '../scope'
import { originsOf } from '../trace'
import { type How, KernelError, type Origin } from '../types'
import { planarFace } from './face'
import { afresh } from './move'

/** Faces that run on in one another by less than this (rad) become one. */
const RUNS_ON = 1e-6

/**
 * All tools in one call; faces that run on in each other are merged (unless `apart`) and keep all their names. What was merged is
 * made afresh: as it comes, its faces and edges share curves with what they were, and the next boolean may not see them.
 */
export function boolean(
  oc: Oc,
  s: KernelScope,
  how: How,
  target: TopoDS_Shape,
  tools: readonly TopoDS_Shape[],
  way: { apart?: boolean; near?: number } = {},
): { shape: TopoDS_Shape; origins: Origin[][] } {
  const op = cleared(
    s,
    how === 'join'
      ? new oc.BRepAlgoAPI_Fuse()
      : how === 'cut'
        ? new oc.BRepAlgoAPI_Cut()
        : new oc.BRepAlgoAPI_Common(),
  )
  op.SetArguments(s.keep(new oc.NCollection_List_TopoDS_Shape([target])))
  op.SetTools(s.keep(new oc.NCollection_List_TopoDS_Shape([...tools])))
  op.SetNonDestructive(true)
  if (way.near) op.SetFuzzyValue(way.near)
  op.Build(s.keep(new oc.Message_ProgressRange()))
  if (op.HasErrors()) throw new KernelError('The bodies could not be combined.')
  if (!way.apart) op.SimplifyResult(true, true, RUNS_ON)
  const shape = s.keep(op.Shape())
  // Merged into a whole torus or ball, a face has no edges left, and the kernel makes no triangles of it.
  if (
    !way.apart &&
    partsOf(oc, s, shape, 'FACE').some((f) => partsOf(oc, s, f, 'EDGE').length === 0)
  )
    return boolean(oc, s, how, target, tools, { ...way, apart: true })
  const made = { shape, origins: originsOf(oc, s, shape, [target, ...tools], op) }
  return way.apart ? made : afresh(oc, s, made)
}

/** A solid parted by faces and solids at once; it stays whole where none goes right through it. */
export function part(
  oc: Oc,
  s: KernelScope,
  target: TopoDS_Shape,
  tools: readonly TopoDS_Shape[],
): { shape: TopoDS_Shape; origins: Origin[][] } {
  const op = cleared(s, new oc.BRepAlgoAPI_Splitter())
  op.SetArguments(s.keep(new oc.NCollection_List_TopoDS_Shape([target])))
  op.SetTools(s.keep(new oc.NCollection_List_TopoDS_Shape([...tools])))
  op.SetNonDestructive(true)
  op.Build(s.keep(new oc.Message_ProgressRange()))
  if (op.HasErrors()) throw new KernelError('The body could not be parted there.')
  const shape = s.keep(op.Shape())
  return { shape, origins: originsOf(oc, s, shape, [target, ...tools], op) }
}

/** Without being cleared first, what combined shapes keeps some 200 kB each time it is given back. */
function cleared<T extends Handle>(s: KernelScope, op: T): T {
  const all = op as T & { Clear(): void }
  s.keep({
    delete() {
      all.Clear()
      all.delete()
    },
  })
  return op
}

/** A square of twice `reach` mm about the origin of a plane. */
export function square(oc: Oc, s: KernelScope, f: Frame, reach: number): TopoDS_Shape {
  const corner = (u: number, v: number) => toSpace(f, u * reach, v * reach)
  const loop = [corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)]
  const lines = loop.map((a, i) => ({ kind: 'line' as const, a, b: loop[(i + 1) % 4]! }))
  return planarFace(oc, s, [lines]).face
}
