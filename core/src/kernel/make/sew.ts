import type { TopoDS_Shape } from 'replicad-opencascadejs'
import type { Motion } from '../../math'
import { Numbered, type Oc, partsOf } from '../explore'
import type { KernelScope } from '../scope'
import { KernelError, type Origin } from '../types'
import { transformOf } from './move'

/** What lies nearer than this is sewn to one, mm. */
const NEAR = 1e-4

/**
 * Some faces of a shape and their copies sewn to a closed solid. `shape` of an origin counts the places, the
 * first being where they are.
 */
export function sewnCopies(
  oc: Oc,
  s: KernelScope,
  given: TopoDS_Shape,
  numbers: readonly number[],
  motions: readonly Motion[],
) {
  const all = new Numbered(oc, partsOf(oc, s, given, 'FACE')).all
  const sewing = s.keep(new oc.BRepBuilderAPI_Sewing(NEAR, true, true, true, false))
  const added: { face: TopoDS_Shape; origin: Origin }[] = []
  const add = (face: TopoDS_Shape, shape: number, number: number) => {
    sewing.Add(face)
    added.push({ face, origin: { from: 'face', shape, face: number, made: false } })
  }
  for (const n of numbers) add(all[n]!, 0, n)
  for (const [k, motion] of motions.entries()) {
    const trsf = transformOf(oc, s, motion)
    const maker = s.keep(new oc.BRepBuilderAPI_Transform(given, trsf, true, false))
    s.keep(maker.Shape())
    for (const n of numbers) add(s.keep(maker.ModifiedShape(all[n]!)), k + 1, n)
  }
  sewing.Perform(s.keep(new oc.Message_ProgressRange()))
  if (sewing.NbFreeEdges() > 0)
    throw new KernelError(`${sewing.NbFreeEdges()} edges stay open where the parts meet.`)
  const sewn = s.keep(sewing.SewedShape())
  const shells = partsOf(oc, s, sewn, 'SHELL')
  if (shells.length === 0) throw new KernelError('The parts do not close to a skin.')
  const solid = s.keep(new oc.BRepBuilderAPI_MakeSolid(s.keep(oc.TopoDS.Shell(shells[0]!))))
  for (const shell of shells.slice(1)) solid.Add(s.keep(oc.TopoDS.Shell(shell)))
  const shape = s.keep(solid.Solid())
  oc.BRepLib.OrientClosedSolid(shape)
  const faces = new Numbered(oc, partsOf(oc, s, shape, 'FACE'))
  const origins: Origin[][] = faces.all.map(() => [])
  for (const { face, origin } of added) {
    const i = faces.of(s.keep(sewing.ModifiedSubShape(face)))
    if (i >= 0) origins[i]!.push(origin)
  }
  return { shape: shape as TopoDS_Shape, origins }
}
