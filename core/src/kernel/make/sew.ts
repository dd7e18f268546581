import type { TopoDS_Shape } from 'replicad-opencascadejs'
import type { Motion } from '../../math'
import { Numbered, type Oc, partsOf } from '../explore'
import type { KernelScope } from '../scope'
import { KernelError, type Origin } from '../types'
import { transformOf } from './move'

/** What lies nearer than this is sewn to one, mm. */
const NEAR = 1e-4

/** A face to be sewn, and what it comes from. */
export interface Sewn {
  face: TopoDS_Shape
  origin: Origin
}

/** Faces sewn to a closed solid; what lies nearer than `near` mm is sewn to one. `what` are the faces in a sentence. */
export function sewn(oc: Oc, s: KernelScope, given: readonly Sewn[], near: number, what: string) {
  const sewing = s.keep(new oc.BRepBuilderAPI_Sewing(near, true, true, true, false))
  for (const { face } of given) sewing.Add(face)
  sewing.Perform(s.keep(new oc.Message_ProgressRange()))
  if (sewing.NbFreeEdges() > 0)
    throw new KernelError(`${sewing.NbFreeEdges()} edges stay open where the ${what} meet.`)
  const shells = partsOf(oc, s, s.keep(sewing.SewedShape()), 'SHELL')
  if (shells.length === 0) throw new KernelError(`The ${what} do not close to a skin.`)
  const solid = solidOf(oc, s, shells)
  const shape = outward(oc, s, solid)
  const faces = new Numbered(oc, partsOf(oc, s, shape, 'FACE'))
  const origins: Origin[][] = faces.all.map(() => [])
  for (const { face, origin } of given) {
    const i = faces.of(s.keep(sewing.ModifiedSubShape(face)))
    if (i >= 0) origins[i]!.push(origin)
  }
  return { shape: shape as TopoDS_Shape, origins }
}

/** The same with all faces of its one solid looking outward, however its maker left them. Anything else as it is. */
export function outward(oc: Oc, s: KernelScope, shape: TopoDS_Shape): TopoDS_Shape {
  const [solid, more] = partsOf(oc, s, shape, 'SOLID')
  if (!solid || more) return shape
  const one = s.keep(oc.TopoDS.Solid(solid))
  oc.BRepLib.OrientClosedSolid(one)
  return righted(oc, s, one)
}

/**
 * A solid that is turned by its flag alone, made again of its shells as they are seen through it: what works on its faces afterwards
 * would take them for the other way round, though the kernel calls it valid. Any other shape as it is.
 */
export function righted(oc: Oc, s: KernelScope, shape: TopoDS_Shape): TopoDS_Shape {
  const solids = partsOf(oc, s, shape, 'SOLID')
  return solids.length !== 1 || isForward(oc, solids[0]!)
    ? shape
    : solidOf(oc, s, partsOf(oc, s, solids[0]!, 'SHELL'))
}

function solidOf(oc: Oc, s: KernelScope, shells: readonly TopoDS_Shape[]) {
  const solid = s.keep(new oc.BRepBuilderAPI_MakeSolid())
  for (const shell of shells) solid.Add(s.keep(oc.TopoDS.Shell(shell)))
  return s.keep(solid.Solid())
}

export const isForward = (oc: Oc, x: TopoDS_Shape): boolean =>
  x.Orientation() === oc.TopAbs_Orientation.TopAbs_FORWARD

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
  const origin = (shape: number, face: number): Origin => ({
    from: 'face',
    shape,
    face,
    made: false,
  })
  const added = numbers.map((n): Sewn => ({ face: all[n]!, origin: origin(0, n) }))
  for (const [k, motion] of motions.entries()) {
    const trsf = transformOf(oc, s, motion)
    const maker = s.keep(new oc.BRepBuilderAPI_Transform(given, trsf, true, false))
    s.keep(maker.Shape())
    for (const n of numbers)
      added.push({ face: s.keep(maker.ModifiedShape(all[n]!)), origin: origin(k + 1, n) })
  }
  return sewn(oc, s, added, NEAR, 'parts')
}
