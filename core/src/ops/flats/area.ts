import { type ExactPart, edgeCurve, faceName } from '../../exact'
import type { Frame } from '../../math'
import type { Region } from '../../profile'
import { offFrame } from '../../surface'
import { faceArea } from './outlines'

/** A flat face as an area of a plane it lies in, its pieces named by their edges; null where they do not close there. */
export function areaOf(
  p: ExactPart,
  face: number,
  plane: Frame,
  named: (edge: number) => string = () => faceName(p, face),
): Region | null {
  return faceArea(
    p.edges.flatMap(({ faces }, e) => {
      const curve = faces.includes(face) ? edgeCurve(p, e) : null
      return curve ? [{ curve: offFrame(curve, plane), name: named(e) }] : []
    }),
  )
}
