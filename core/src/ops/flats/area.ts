import { type ExactPart, edgeCurve, faceName } from '../../exact'
import type { Frame } from '../../math'
import type { Region } from '../../profile'
import { end3, offFrame, start3, straightPoles } from '../../surface'
import { faceArea } from './outlines'

/** Poles this near to one line lie on it, mm. */
const STRAIGHT = 1e-6

/** A flat face as an area of a plane it lies in, its pieces named by their edges; null where they do not close there. */
export function areaOf(
  p: ExactPart,
  face: number,
  plane: Frame,
  named: (edge: number) => string = () => faceName(p, face),
): Region | null {
  return faceArea(
    p.edges.flatMap(({ faces }, e) => {
      const own = faces.includes(face) ? edgeCurve(p, e) : null
      // Free surfaces end in splines that are straight: they are lines.
      const straight = own?.kind === 'spline' && straightPoles(own.poles, STRAIGHT)
      const curve = straight ? { kind: 'line' as const, a: start3(own), b: end3(own) } : own
      return curve ? [{ curve: offFrame(curve, plane), name: named(e) }] : []
    }),
  )
}
