import type { TopoDS_Face } from 'replicad-opencascadejs'
import type { Oc } from '../explore'
import type { KernelScope } from '../scope'
import { KernelError, type PlanarFace, type SplineFace } from '../types'
import { knotsOf, planarFace } from './face'
import { type Sewn, sewn } from './sew'

/** What lies nearer than this is sewn to one, mm. */
const NEAR = 1e-5

/**
 * B-spline faces and flat ones sewn to a closed solid. Origins count the faces as they were given, the free ones first:
 * `piece` of each is its number.
 */
export function quilt(
  oc: Oc,
  s: KernelScope,
  patches: readonly SplineFace[],
  flats: readonly PlanarFace[],
) {
  const faces = [
    ...patches.map((p) => splineFace(oc, s, p)),
    ...flats.map((loops) => planarFace(oc, s, loops).face),
  ]
  const given = faces.map((face, piece): Sewn => ({ face, origin: { from: 'piece', piece } }))
  return sewn(oc, s, given, NEAR, 'faces')
}

function splineFace(oc: Oc, s: KernelScope, p: SplineFace): TopoDS_Face {
  const [nu, nv] = [p.u.knots.length - p.u.degree - 1, p.v.knots.length - p.v.degree - 1]
  const poles = s.keep(new oc.NCollection_Array2_gp_Pnt(1, nu, 1, nv))
  const at = s.keep(new oc.gp_Pnt(0, 0, 0))
  for (let i = 0; i < nu; i++)
    for (let j = 0; j < nv; j++) {
      const k = 3 * (i * nv + j)
      at.SetCoord(p.poles[k]!, p.poles[k + 1]!, p.poles[k + 2]!)
      poles.SetValue(i + 1, j + 1, at)
    }
  const [u, v] = [knotsOf(oc, s, p.u.knots), knotsOf(oc, s, p.v.knots)]
  const surface = s.keep(
    new oc.Geom_BSplineSurface(
      poles,
      u.knots,
      v.knots,
      u.times,
      v.times,
      p.u.degree,
      p.v.degree,
      false,
      false,
    ),
  )
  const maker = s.keep(new oc.BRepBuilderAPI_MakeFace(surface, 1e-6))
  if (!maker.IsDone()) throw new KernelError('A surface makes no face.')
  return s.keep(maker.Face())
}
