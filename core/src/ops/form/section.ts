import { flattenParams, pointAt } from '../../curve'
import { gaussRule, type P2 } from '../../math'
import type { SectionCurve } from '../../path'
import type { Region, Seg } from '../../profile'
import { at3, basisOf, breaksOf, type Curve3, fitted3 } from '../../surface'

/** How near arcs of a section are met by polynomials, mm. */
const NEAR = 1e-6
/** Arcs are parted so that none turns by more, rad: a curve that closes on itself would bound nothing. */
const MOST_TURN = Math.PI * 1.01

/** The curves of a loop as B-splines in the plane of the section; arcs within 1e-6 mm. */
export function sectionCurves(loop: readonly Seg[]): SectionCurve[] {
  return loop.flatMap(({ curve: c, name }): SectionCurve[] => {
    if (c.kind === 'line') return [{ basis: basisOf(1), poles: [c.a, c.b], name }]
    if (c.kind === 'spline')
      return [
        { basis: { degree: c.degree, knots: Float64Array.from(c.knots) }, poles: c.poles, name },
      ]
    const parts = Math.max(1, Math.ceil(Math.abs(c.sweep) / MOST_TURN))
    return Array.from({ length: parts }, (_, i) => {
      const place = (t: number) => {
        const [x, y] = pointAt(c, (i + t) / parts)
        return [x, y, 0] as const
      }
      const { curve } = fitted3(basisOf(5), place, NEAR)
      return { basis: curve.basis, poles: curve.poles.map(([x, y]): P2 => [x, y]), name }
    })
  })
}

/** Places along the outline of a region, within 0.02 mm of it. */
export const outlinePlaces = (r: Region): P2[] =>
  r.outer.flatMap(({ curve }) => flattenParams(curve, 0.02).map((t) => pointAt(curve, t)))

/** Area of a section (mm2) and its centroid, from its loops (Green's theorem, by Gauss points exact for polynomials). */
export function sectionMoments(loops: readonly (readonly SectionCurve[])[]): {
  area: number
  centroid: P2
} {
  let [area, mx, my] = [0, 0, 0]
  for (const c of loops.flat()) {
    const curve: Curve3 = {
      kind: 'spline',
      basis: c.basis,
      poles: c.poles.map(([x, y]) => [x, y, 0]),
    }
    const rule = gaussRule(2 * c.basis.degree + 1)
    const breaks = breaksOf(c.basis)
    for (let i = 1; i < breaks.length; i++) {
      const h = breaks[i]! - breaks[i - 1]!
      for (const [k, node] of rule.nodes.entries()) {
        const { p, d1 } = at3(curve, breaks[i - 1]! + h * node)
        const w = rule.weights[k]! * h
        area += (w * (p[0] * d1[1] - p[1] * d1[0])) / 2
        mx += (w * p[0] * p[0] * d1[1]) / 2
        my -= (w * p[1] * p[1] * d1[0]) / 2
      }
    }
  }
  return { area, centroid: [mx / area, my / area] }
}
