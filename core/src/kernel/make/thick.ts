import type { TopoDS_Shape } from 'replicad-opencascadejs'
import type { Frame } from '../../math'
import { type Oc, partsOf, topologyOf } from '../explore'
import type { KernelScope } from '../scope'
import { originsOf } from '../trace'
import { KernelError, type Origin } from '../types'
import { boolean } from './boolean'
import { outward, righted } from './sew'

const TOLERANCE = 1e-3

/** A wall of `offset` mm (inwards negative) about all faces but the open ones. */
export function thick(
  oc: Oc,
  s: KernelScope,
  given: TopoDS_Shape,
  open: readonly number[],
  offset: number,
  join: 'arc' | 'intersection',
) {
  const { faces } = topologyOf(oc, s, given)
  const maker = s.keep(new oc.BRepOffsetAPI_MakeThickSolid())
  maker.MakeThickSolidByJoin(
    given,
    s.keep(new oc.NCollection_List_TopoDS_Shape(open.map((i) => faces.all[i]!))),
    offset,
    TOLERANCE,
    oc.BRepOffset_Mode.BRepOffset_Skin,
    false,
    false,
    join === 'arc' ? oc.GeomAbs_JoinType.GeomAbs_Arc : oc.GeomAbs_JoinType.GeomAbs_Intersection,
    false,
    s.keep(new oc.Message_ProgressRange()),
  )
  if (!maker.IsDone()) throw new KernelError('The kernel finds no wall here.')
  const shape = outward(oc, s, s.keep(maker.Shape()))
  const origins = originsOf(oc, s, shape, [given], maker, true)
  return open.length > 0 ? { shape, origins } : aroundVoid(oc, s, given, { shape, origins }, offset)
}

/** Without an open face the kernel gives only the other skin of the wall: the wall lies between the two. */
function aroundVoid(oc: Oc, s: KernelScope, given: TopoDS_Shape, skin: Traced, offset: number) {
  const outside = offset > 0
  const [whole, hollow] = outside ? [skin.shape, given] : [given, skin.shape]
  const { shape, origins } = boolean(oc, s, 'cut', whole, [hollow])
  const skinIs = outside ? 0 : 1
  return {
    shape,
    origins: origins.map((from) =>
      from.flatMap((o) =>
        o.from === 'face' && o.shape === skinIs
          ? (skin.origins[o.face] ?? [])
          : [{ ...o, shape: 0 }],
      ),
    ),
  }
}

interface Traced {
  shape: TopoDS_Shape
  origins: Origin[][]
}

/**
 * The same solid after the kernel's own repair. What became of each face is found by its order; none counts as the very same, since
 * faces may be turned.
 */
export function repaired(oc: Oc, s: KernelScope, given: Traced): Traced {
  const solid = partsOf(oc, s, given.shape, 'SOLID')[0]
  if (!solid) throw new KernelError('There is no solid to repair.')
  const fix = s.keep(new oc.ShapeFix_Solid(s.keep(oc.TopoDS.Solid(solid))))
  fix.Perform(s.keep(new oc.Message_ProgressRange()))
  const origins = given.origins.map((from) =>
    from.map((o) => (o.from === 'face' ? { ...o, same: undefined } : o)),
  )
  return { shape: righted(oc, s, s.keep(fix.Solid())), origins }
}

/** Faces tilted about where they meet a plane, by `angle` rad; the draw is along its normal. */
export function draft(
  oc: Oc,
  s: KernelScope,
  given: TopoDS_Shape,
  tilted: readonly number[],
  plane: Frame,
  angle: number,
) {
  const { faces } = topologyOf(oc, s, given)
  const maker = s.keep(new oc.BRepOffsetAPI_DraftAngle(given))
  const dir = s.keep(new oc.gp_Dir(...plane.z))
  const pln = s.keep(new oc.gp_Pln(s.keep(new oc.gp_Pnt(...plane.origin)), dir))
  for (const i of tilted) {
    maker.Add(s.keep(oc.TopoDS.Face(faces.all[i]!)), dir, angle, pln, true)
    if (!maker.AddDone()) throw new KernelError('One of the faces cannot be tilted.')
  }
  maker.Build(s.keep(new oc.Message_ProgressRange()))
  if (!maker.IsDone()) throw new KernelError('The faces cannot be tilted so far.')
  const shape = s.keep(maker.Shape())
  // What was tilted counts as generated here; it is the same face to a person.
  const history = {
    Modified: (x: TopoDS_Shape) => {
      const modified = maker.Modified(x)
      return modified.IsEmpty() ? maker.Generated(x) : modified
    },
  }
  return { shape, origins: originsOf(oc, s, shape, [given], history) }
}
