import type { BRepAdaptor_Surface } from 'replicad-opencascadejs'
import { cross3, dot3, type P3, scale3, unit3 } from '../../math'

/** A surface at a place, its normal out of the material. */
export interface Spot {
  p: P3
  u: P3
  v: P3
  n: P3
  uu: P3
  uv: P3
  vv: P3
}

/** A surface at its parameters; `reversed` where its u x v looks into the material. */
export function spotOn(
  surface: BRepAdaptor_Surface,
  reversed: boolean,
  u: number,
  v: number,
): Spot {
  const r = surface.EvalD2(u, v)
  const of = (x: { X(): number; Y(): number; Z(): number; delete(): void }): P3 => {
    const out: P3 = [x.X(), x.Y(), x.Z()]
    x.delete()
    return out
  }
  const [p, du, dv, uu, vv, uv] = [
    of(r.Point),
    of(r.D1U),
    of(r.D1V),
    of(r.D2U),
    of(r.D2V),
    of(r.D2UV),
  ]
  const n = scale3(unit3(cross3(du, dv)), reversed ? -1 : 1)
  return { p, u: du, v: dv, n, uu, uv, vv }
}

/** The curvature of the section square to the surface in a direction along it, 1/mm; negative where it bulges. */
export const bendAcross = (spot: Spot, way: P3): number => {
  const [[a, b], size] = inSurface(spot, way)
  return size > 0 ? second(spot, a, b, a, b) / size : 0
}

/** The second fundamental form over two unit directions along the surface. */
export function formOver(spot: Spot, p: P3, q: P3): [number, number, number] {
  const [[a, b]] = inSurface(spot, p)
  const [[c, d]] = inSurface(spot, q)
  return [second(spot, a, b, a, b), second(spot, a, b, c, d), second(spot, c, d, c, d)]
}

/** A direction along the surface in its parameters, and its square length there (first fundamental form). */
function inSurface({ u, v }: Spot, way: P3): [[number, number], number] {
  const [E, F, G] = [dot3(u, u), dot3(u, v), dot3(v, v)]
  const det = E * G - F * F
  if (!(det > 1e-12 * E * G)) return [[0, 0], 0]
  const [wu, wv] = [dot3(way, u), dot3(way, v)]
  const a = (wu * G - wv * F) / det
  const b = (wv * E - wu * F) / det
  return [[a, b], E * a * a + 2 * F * a * b + G * b * b]
}

const second = ({ n, uu, uv, vv }: Spot, a: number, b: number, c: number, d: number): number =>
  dot3(uu, n) * a * c + dot3(uv, n) * (a * d + b * c) + dot3(vv, n) * b * d
