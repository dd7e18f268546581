import type { BRepAdaptor_Surface, TopoDS_Shape } from 'replicad-opencascadejs'
import { cross3, dot3, norm3, type P3 } from '../../math'
import { type Oc, partsOf } from '../explore'
import type { KernelScope } from '../scope'
import type { BentSkin } from '../types'
import { meshed } from './meshing'
import { SHOWN } from './skin'
import { spotOn } from './spot'

/** Where a surface has no normal (a pole) it is read this share of the way to the middle of a triangle. */
const ASIDE = 0.02
/** Below this share of what the derivatives are elsewhere there is none. */
const POLE = 1e-6
/** How often the tightest places are looked for again in quarters of their triangles, and how many of each side. */
const [ROUNDS, FOLLOWED] = [12, 6]

type UV = readonly [number, number]
/** Principal curvatures, 1/mm: positive where the surface bulges out of the material. */
interface Bend {
  p: P3
  most: number
  least: number
}

/**
 * How a shape's surfaces bend at the corners of the triangles that show them, told by the surfaces themselves; with the tightest places of
 * both sides, closed in on within their triangles.
 */
export function bentSkin(oc: Oc, s: KernelScope, shape: TopoDS_Shape): BentSkin {
  meshed(oc, s, shape, SHOWN.chord, SHOWN.angle)
  const positions: number[] = []
  const triangles: number[] = []
  const most: number[] = []
  const least: number[] = []
  const tight: { bulge: Found[]; hollow: Found[] } = { bulge: [], hollow: [] }
  for (const f of partsOf(oc, s, shape, 'FACE')) {
    const face = s.keep(oc.TopoDS.Face(f))
    const mesh = oc.BRep_Tool.Triangulation(face, s.keep(new oc.TopLoc_Location()), 0)
    if (!mesh) continue
    s.keep(mesh)
    const surface = s.keep(new oc.BRepAdaptor_Surface(face, true))
    const reversed = f.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED
    const uvs = Array.from({ length: mesh.NbNodes() }, (_, i): UV => {
      const uv = s.keep(mesh.UVNode(i + 1))
      return [uv.X(), uv.Y()]
    })
    const of = Array.from({ length: mesh.NbTriangles() }, (_, i) => {
      const t = s.keep(mesh.Triangle(i + 1))
      const [a, b, c] = [t.Value(1) - 1, t.Value(2) - 1, t.Value(3) - 1]
      return (reversed ? [a, c, b] : [a, b, c]) as [number, number, number]
    })
    const read = reader(surface, reversed, uvs)
    const beside = new Map<number, number>()
    for (const [t, corners] of of.entries()) for (const v of corners) beside.set(v, t)
    const base = positions.length / 3
    const bends = uvs.map((uv, v): Bend => {
      const t = beside.get(v)
      const { p, ...bend } = read(uv)
      if (!Number.isNaN(bend.most) || t === undefined) return { p, ...bend }
      const mid = middle(of[t]!.map((w) => uvs[w]!))
      return { ...read(between(uv, mid, ASIDE)), p }
    })
    for (const b of bends) {
      positions.push(...b.p)
      most.push(b.most || 0)
      least.push(b.least || 0)
    }
    for (const t of of) triangles.push(...t.map((v) => base + v))
    for (const [side, sign] of [
      ['bulge', 1],
      ['hollow', -1],
    ] as const) {
      const k = (b: Bend) => (sign > 0 ? b.most : -b.least)
      const order = of
        .map((t) => ({ t, k: Math.max(...t.map((v) => k(bends[v]!) || 0)) }))
        .sort((a, b) => b.k - a.k)
      for (const { t } of order.slice(0, FOLLOWED))
        tight[side].push(followed(read, t.map((v) => uvs[v]!) as Corners, k))
    }
  }
  const tightest = (all: readonly Found[]) =>
    all.reduce<Found | null>((a, b) => (b.k > (a?.k ?? 0) ? b : a), null)
  return {
    positions: Float32Array.from(positions),
    triangles: Uint32Array.from(triangles),
    most: Float32Array.from(most),
    least: Float32Array.from(least),
    bulge: tightest(tight.bulge),
    hollow: tightest(tight.hollow),
  }
}

interface Found {
  k: number
  at: P3
}
type Corners = [UV, UV, UV]

/** The tightest place within a triangle: of its quarters the tightest, again and again. Corners are as those beside them. */
function followed(read: (uv: UV) => Bend, start: Corners, k: (b: Bend) => number): Found {
  let best: Found = { k: Number.NEGATIVE_INFINITY, at: [0, 0, 0] }
  const tell = (uv: UV) => {
    const b = read(uv)
    const value = k(b)
    if (value > best.k) best = { k: value, at: b.p }
    return Number.isNaN(value) ? Number.NEGATIVE_INFINITY : value
  }
  let corners = start
  for (let i = 0; i < ROUNDS; i++) {
    const [a, b, c] = corners
    const [ab, bc, ca] = [between(a, b, 0.5), between(b, c, 0.5), between(c, a, 0.5)]
    const quarters: Corners[] = [
      [a, ab, ca],
      [ab, b, bc],
      [ca, bc, c],
      [ab, bc, ca],
    ]
    const told = quarters.map((q) => tell(middle(q)))
    corners = quarters[told.indexOf(Math.max(...told))]!
  }
  for (const uv of corners) tell(uv)
  return best
}

const between = (a: UV, b: UV, t: number): UV => [
  a[0] + t * (b[0] - a[0]),
  a[1] + t * (b[1] - a[1]),
]
const middle = (all: readonly UV[]): UV => [
  all.reduce((s, x) => s + x[0], 0) / all.length,
  all.reduce((s, x) => s + x[1], 0) / all.length,
]

/** Principal curvatures of a surface (do Carmo, Differential Geometry, 3-3; from memory); NaN where it has no normal. */
function reader(surface: BRepAdaptor_Surface, reversed: boolean, uvs: readonly UV[]) {
  // What the derivatives are elsewhere: of the places told.
  let [usual, seen] = [0, 0]
  for (let i = 0; i < uvs.length; i += Math.max(1, Math.floor(uvs.length / 16))) {
    const { u, v } = spotOn(surface, reversed, ...uvs[i]!)
    usual += norm3(cross3(u, v))
    seen++
  }
  const small = (POLE * usual) / Math.max(seen, 1)
  return (uv: UV): Bend => {
    const { p, u, v, n, uu, uv: mixed, vv } = spotOn(surface, reversed, ...uv)
    const [E, F, G] = [dot3(u, u), dot3(u, v), dot3(v, v)]
    const det = E * G - F * F
    if (!(Math.sqrt(Math.max(det, 0)) > small)) return { p, most: Number.NaN, least: Number.NaN }
    const [L, M, N] = [dot3(uu, n), dot3(mixed, n), dot3(vv, n)]
    const mean = (L * G - 2 * M * F + N * E) / (2 * det)
    const half = Math.sqrt(Math.max(mean * mean - (L * N - M * M) / det, 0))
    return { p, most: half - mean, least: -half - mean }
  }
}
