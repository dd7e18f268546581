import type { TopoDS_Shape } from 'replicad-opencascadejs'
import type { Motion } from '../../math'
import type { Oc } from '../explore'
import { Numbered, partsOf } from '../explore'
import type { KernelScope } from '../scope'
import { originsOf, standing } from '../trace'
import type { Origin } from '../types'

export function transformOf(oc: Oc, s: KernelScope, { m, t }: Motion) {
  const trsf = s.keep(new oc.gp_Trsf())
  trsf.SetValues(...m[0], t[0], ...m[1], t[1], ...m[2], t[2])
  return trsf
}

export function moved(oc: Oc, s: KernelScope, given: TopoDS_Shape, motion: Motion) {
  const trsf = transformOf(oc, s, motion)
  const maker = s.keep(new oc.BRepBuilderAPI_Transform(given, trsf, true, false))
  const shape = s.keep(maker.Shape())
  return { shape, origins: originsOf(oc, s, shape, [given], maker) }
}

/** The same shape with surfaces and curves of its own, which nothing else shares. */
export function afresh(
  oc: Oc,
  s: KernelScope,
  { shape, origins }: { shape: TopoDS_Shape; origins: Origin[][] },
) {
  const maker = s.keep(
    new oc.BRepBuilderAPI_Transform(shape, s.keep(new oc.gp_Trsf()), true, false),
  )
  const copy = s.keep(maker.Shape())
  const faces = new Numbered(oc, partsOf(oc, s, copy, 'FACE'))
  const own = faces.all.map((): Origin[] => [])
  for (const [i, f] of new Numbered(oc, partsOf(oc, s, shape, 'FACE')).all.entries())
    own[faces.of(s.keep(maker.ModifiedShape(f)))] = origins[i]!
  return { shape: copy, origins: own }
}

/** Some faces of a shape, by number, as an open skin. */
export function skin(oc: Oc, s: KernelScope, given: TopoDS_Shape, numbers: readonly number[]) {
  const all = new Numbered(oc, partsOf(oc, s, given, 'FACE')).all
  const { shape } = together(
    oc,
    s,
    numbers.map((n) => all[n]!),
  )
  const faces = new Numbered(oc, partsOf(oc, s, shape, 'FACE')).all
  const origins = faces.map((_, i): Origin[] => [
    { from: 'face', shape: 0, face: numbers[i]!, made: false, same: 'alike' },
  ])
  return { shape, origins }
}

/** Shapes that stay apart as one compound. */
export function together(oc: Oc, s: KernelScope, given: readonly TopoDS_Shape[]) {
  const shape = s.keep(new oc.TopoDS_Compound())
  const builder = s.keep(new oc.TopoDS_Builder())
  builder.MakeCompound(shape)
  for (const x of given) builder.Add(shape, x)
  const faces = new Numbered(oc, partsOf(oc, s, shape, 'FACE'))
  const origins: Origin[][] = faces.all.map(() => [])
  for (const [i, x] of given.entries())
    for (const [face, f] of new Numbered(oc, partsOf(oc, s, x, 'FACE')).all.entries())
      origins[faces.of(f)]?.push({
        from: 'face',
        shape: i,
        face,
        made: false,
        same: standing(faces, f),
      })
  return { shape: shape as TopoDS_Shape, origins }
}
