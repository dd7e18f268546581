import type { TopoDS_Shape } from 'replicad-opencascadejs'
import { Numbered, type Oc, partsOf } from '../explore'
import type { KernelScope } from '../scope'
import { listed } from '../trace'
import { KernelError, type Origin, type WireCurve } from '../types'
import { wireOf } from './face'

/**
 * A closed outline carried along a chain of curves it stands square to, as a solid; at kinks the sides run on and are mitred, or
 * turn round the corner. Origins tell the piece of the outline and, with it, of the path.
 */
export function pipe(
  oc: Oc,
  s: KernelScope,
  outline: readonly WireCurve[],
  path: readonly WireCurve[],
  corner: 'mitre' | 'round',
) {
  const { wire: spine, edges: along } = wireOf(oc, s, path)
  const { wire: section, edges: pieces } = wireOf(oc, s, outline)
  const maker = s.keep(new oc.BRepOffsetAPI_MakePipeShell(spine))
  const modes = oc.BRepBuilderAPI_TransitionMode
  maker.SetTransitionMode(
    corner === 'mitre' ? modes.BRepBuilderAPI_RightCorner : modes.BRepBuilderAPI_RoundCorner,
  )
  maker.SetIsBuildHistory(true)
  maker.Add(section, false, false)
  if (!maker.IsReady()) throw new KernelError('The section does not suit the path.')
  maker.Build(s.keep(new oc.Message_ProgressRange()))
  if (!maker.IsDone()) throw new KernelError('The kernel finds no sweep here.')
  maker.MakeSolid()
  const shape = s.keep(maker.Shape())
  const faces = new Numbered(oc, partsOf(oc, s, shape, 'FACE'))
  const origins: Origin[][] = faces.all.map(() => [])
  const madeBy = (x: TopoDS_Shape) =>
    new Set(listed(oc, s, maker.Generated(x)).map((f) => faces.of(f)))
  const beside = along.map(madeBy)
  for (const [piece, e] of pieces.entries())
    for (const i of madeBy(e)) {
      if (i < 0) continue
      const at = beside.findIndex((set) => set.has(i))
      origins[i]!.push(at < 0 ? { from: 'piece', piece } : { from: 'piece', piece, along: at })
    }
  const ends = [maker.FirstShape(), maker.LastShape()]
  for (const [k, end] of ends.entries()) {
    const i = faces.of(s.keep(end))
    if (i >= 0) origins[i]!.push({ from: 'end', last: k === 1 })
  }
  return { shape, origins }
}
