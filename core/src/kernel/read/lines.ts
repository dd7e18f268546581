import type { BRepAdaptor_Surface, TopoDS_Face, TopoDS_Shape } from 'replicad-opencascadejs'
import { dot3, norm3 } from '../../math'
import { Numbered, type Oc, partsOf } from '../explore'
import type { KernelScope } from '../scope'
import type { SurfaceLine } from '../types'
import { bendAcross, spotOn } from './spot'

/** Places by which the edges of a face are drawn in its parameters. */
const EDGE = 48

/**
 * The lines of the surfaces of a shape's curved faces, as far as they lie in the face: `count` of each of both ways, at even shares
 * of its parameters, with places at `steps` even steps over all of the surface.
 */
export function linesOf(
  oc: Oc,
  s: KernelScope,
  shape: TopoDS_Shape,
  count: number,
  steps: number,
): SurfaceLine[] {
  const { all } = new Numbered(oc, partsOf(oc, s, shape, 'FACE'))
  return all.flatMap((f, index) => {
    const face = s.keep(oc.TopoDS.Face(f))
    const surface = s.keep(new oc.BRepAdaptor_Surface(face, true))
    if (surface.GetType() === 'GeomAbs_Plane') return []
    const reversed = f.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED
    const outline = outlineOf(oc, s, face)
    const us = outline.flatMap((e) => e.map((p) => p[0]))
    const vs = outline.flatMap((e) => e.map((p) => p[1]))
    const box = [
      [Math.min(...us), Math.max(...us)],
      [Math.min(...vs), Math.max(...vs)],
    ] as const
    return ([0, 1] as const).flatMap((way) =>
      Array.from({ length: count }, (_, k) => {
        const [low, high] = box[1 - way]!
        const held = low + ((k + 0.5) / count) * (high - low)
        return spans(outline, way, held).flatMap(([from, to]) => {
          const line = lineOn(surface, reversed, way, held, from, to, box[way], steps)
          return line ? [{ face: index, way, ...line }] : []
        })
      }).flat(),
    )
  })
}

/** The edges of a face in its parameters, each as a run of places. */
export function outlineOf(oc: Oc, s: KernelScope, face: TopoDS_Face): [number, number][][] {
  return partsOf(oc, s, face, 'EDGE').map((e) => {
    const curve = s.keep(new oc.BRepAdaptor_Curve2d(s.keep(oc.TopoDS.Edge(e)), face))
    const [from, to] = [curve.FirstParameter(), curve.LastParameter()]
    return Array.from({ length: EDGE + 1 }, (_, i): [number, number] => {
      const p = curve.EvalD0(from + ((to - from) * i) / EDGE)
      const out: [number, number] = [p.X(), p.Y()]
      p.delete()
      return out
    })
  })
}

/** Where a line of one parameter held is inside the outline: pairs of the other. */
export function spans(
  outline: readonly (readonly (readonly [number, number])[])[],
  way: 0 | 1,
  held: number,
): [number, number][] {
  const cuts: number[] = []
  for (const edge of outline)
    for (let i = 1; i < edge.length; i++) {
      const [a, b] = [edge[i - 1]!, edge[i]!]
      const [p, q] = [a[1 - way]! - held, b[1 - way]! - held]
      if (p > 0 === q > 0) continue
      cuts.push(a[way]! + (p / (p - q)) * (b[way]! - a[way]!))
    }
  cuts.sort((a, b) => a - b)
  return Array.from({ length: cuts.length >> 1 }, (_, k) => [cuts[2 * k]!, cuts[2 * k + 1]!])
}

/** Places along a line, and how the surface bends along it (positive where it bulges); null where it has no length. */
function lineOn(
  surface: BRepAdaptor_Surface,
  reversed: boolean,
  way: 0 | 1,
  held: number,
  from: number,
  to: number,
  [low, high]: readonly [number, number],
  steps: number,
): Pick<SurfaceLine, 'places' | 'bends'> | null {
  const n = Math.max(4, Math.round((steps * (to - from)) / (high - low)))
  const places: number[] = []
  const bends: number[] = []
  for (let i = 0; i <= n; i++) {
    const t = from + ((to - from) * i) / n
    const spot = spotOn(surface, reversed, way === 0 ? t : held, way === 0 ? held : t)
    const along = way === 0 ? spot.u : spot.v
    const length = norm3(along)
    places.push(...spot.p)
    const flat = length > 1e-12 && Number.isFinite(dot3(spot.n, spot.n))
    bends.push(
      flat ? -bendAcross(spot, [along[0] / length, along[1] / length, along[2] / length]) : 0,
    )
  }
  const span = [0, 1, 2].map((k) => {
    const xs = places.filter((_, i) => i % 3 === k)
    return Math.max(...xs) - Math.min(...xs)
  })
  return Math.max(...span) > 1e-6 ? { places, bends } : null
}
