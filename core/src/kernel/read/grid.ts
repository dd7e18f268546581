import type { TopoDS_Shape } from 'replicad-opencascadejs'
import type { SurfaceGrid } from '../../flow'
import { dot3 } from '../../math'
import { Numbered, type Oc, partsOf } from '../explore'
import type { KernelScope } from '../scope'
import { outlineOf, spans } from './lines'
import { spotOn } from './spot'

/** A face's surface at `count` even shares of each of its parameters, as far as its outline reaches, and which cells its outline leaves whole. */
export function gridOf(
  oc: Oc,
  s: KernelScope,
  shape: TopoDS_Shape,
  face: number,
  count: number,
): SurfaceGrid {
  const f = new Numbered(oc, partsOf(oc, s, shape, 'FACE')).all[face]!
  const own = s.keep(oc.TopoDS.Face(f))
  const surface = s.keep(new oc.BRepAdaptor_Surface(own, true))
  const reversed = f.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED
  const outline = outlineOf(oc, s, own)
  const box = ([0, 1] as const).map((k) => {
    const all = outline.flatMap((e) => e.map((p) => p[k]))
    return [Math.min(...all), Math.max(...all)] as const
  })
  const [[u0, u1], [v0, v1]] = box as [readonly [number, number], readonly [number, number]]
  const steps = [(u1 - u0) / (count - 1), (v1 - v0) / (count - 1)] as const
  const grid: SurfaceGrid = {
    columns: count,
    rows: count,
    steps,
    places: [],
    us: [],
    vs: [],
    forms: [],
    inside: insideOf(outline, [u0, v0], steps, count - 1),
  }
  for (let j = 0; j < count; j++)
    for (let i = 0; i < count; i++) {
      const spot = spotOn(surface, reversed, u0 + i * steps[0], v0 + j * steps[1])
      const { p, u, v, n, uu, uv, vv } = spot
      const form = [dot3(uu, n), dot3(uv, n), dot3(vv, n)]
      grid.places.push(...p)
      grid.us.push(...u)
      grid.vs.push(...v)
      grid.forms.push(...(form.every(Number.isFinite) ? form : [0, 0, 0]))
    }
  return grid
}

/** How often a step of an outline is looked at, and by how much of a cell it has to enter one to cut it. */
const [LOOKS, ENTERS] = [4, 1e-3]

/** Cell by cell: whether its middle lies inside the outline, by even and odd, and no part of the outline runs through it. */
function insideOf(
  outline: readonly (readonly (readonly [number, number])[])[],
  [u0, v0]: readonly [number, number],
  [du, dv]: readonly [number, number],
  cells: number,
): boolean[] {
  const inside = new Array<boolean>(cells * cells).fill(false)
  for (let j = 0; j < cells; j++)
    for (const [from, to] of spans(outline, 0, v0 + (j + 0.5) * dv))
      for (let i = 0; i < cells; i++) {
        const middle = u0 + (i + 0.5) * du
        if (middle > from && middle < to) inside[j * cells + i] = true
      }
  for (const edge of outline)
    for (let k = 1; k < edge.length; k++)
      for (let t = 0; t < LOOKS; t++) {
        const share = t / LOOKS
        const [a, b] = [edge[k - 1]!, edge[k]!]
        const x = (a[0] + share * (b[0] - a[0]) - u0) / du
        const y = (a[1] + share * (b[1] - a[1]) - v0) / dv
        const [i, j] = [Math.floor(x), Math.floor(y)]
        const deep = Math.min(x - i, i + 1 - x, y - j, j + 1 - y)
        if (deep > ENTERS) inside[j * cells + i] = false
      }
  return inside
}
