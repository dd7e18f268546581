import { type Curve, pointAt, smoothBreaks, subCurve } from '../curve'
import type { PlanarFace, WireCurve, WireRing } from '../kernel'
import { cross3, norm3, type P2, type P3, POINT, sub3 } from '../math'
import type { Region } from '../profile'
import { type Curve3, place3 } from '../surface'

/** A plane curve as edges in space; arcs beyond a half turn in parts, so that three points set them well. */
export function wiresOf(c: Curve, put: (p: P2) => P3): WireCurve[] {
  if (c.kind === 'line') return [{ kind: 'line', a: put(c.a), b: put(c.b) }]
  if (c.kind === 'spline')
    return [{ kind: 'spline', degree: c.degree, knots: [...c.knots], poles: c.poles.map(put) }]
  const breaks = Math.abs(c.sweep) > Math.PI * 0.99 ? smoothBreaks(c) : [0, 1]
  return breaks.slice(1).map((t1, i) => {
    const part = subCurve(c, breaks[i]!, t1)
    const at = (t: number) => put(pointAt(part, t))
    return { kind: 'arc', a: at(0), mid: at(0.5), b: at(1) }
  })
}

/** The same with whole circles in one piece, as bodies are carried out of: one face with one seam. */
export function ringsOf(c: Curve, put: (p: P2) => P3): (WireCurve | WireRing)[] {
  if (c.kind !== 'arc' || Math.abs(c.sweep) < 2 * Math.PI - 1e-9) return wiresOf(c, put)
  const at = (turn: number) => put(pointAt(c, turn))
  const centre = put(c.c)
  const dir = cross3(sub3(at(SEAM), centre), sub3(at(SEAM + 0.25), centre))
  return [{ kind: 'circle', centre, dir, start: at(SEAM) }]
}
/** Where the seam of a whole circle stands, in turns from its start: off the planes that other things are drawn in. */
const SEAM = 0.35

/** A curve in space as edges; arcs beyond a half turn in parts. */
export function wiresIn(c: Curve3): WireCurve[] {
  if (c.kind === 'line') return [{ kind: 'line', a: c.a, b: c.b }]
  if (c.kind === 'spline')
    return [
      { kind: 'spline', degree: c.basis.degree, knots: [...c.basis.knots], poles: [...c.poles] },
    ]
  const parts = Math.max(1, Math.ceil(c.sweep / (Math.PI * 0.99)))
  return Array.from({ length: parts }, (_, i) => {
    const at = (f: number) => place3(c, (i + f) / parts)
    return { kind: 'arc', a: at(0), mid: at(0.5), b: at(1) }
  })
}

/** A region's loops as edges in space, and for each edge the name of the face it is to sweep. */
export interface Outline {
  outline: PlanarFace
  names: string[]
}

/** The outline of a region; `wires` turns each of its curves into edges. */
export function outlineOf(region: Region, wires: (c: Curve) => (WireCurve | WireRing)[]): Outline {
  const names: string[] = []
  const outline = [region.outer, ...region.holes].map((loop) => {
    const edges = loop.flatMap((seg) => {
      const made = wires(seg.curve)
      for (const _ of made) names.push(seg.name)
      return made
    })
    return edges.every((e) => e.kind !== 'circle') ? joinedUp(edges) : edges
  })
  return { outline, names }
}

/**
 * A closed chain of edges that starts each where the one before ends: pieces of a plane outline meet within the radius of the node
 * they share, the kernel asks for less. One end of each such joint is moved onto the other, that of a line before that of a curve.
 */
export function joinedUp(chain: readonly WireCurve[]): WireCurve[] {
  const out = [...chain]
  for (const [i] of chain.entries()) {
    const before = (i + chain.length - 1) % chain.length
    const [a, b] = [out[before]!, out[i]!]
    const [end, start] = [endOfWire(a), b.kind === 'spline' ? b.poles[0]! : b.a]
    if (norm3(sub3(end, start)) > SHARED) continue
    if (a.kind === 'line' && b.kind !== 'line') out[before] = { ...a, b: start }
    else
      out[i] = b.kind === 'spline' ? { ...b, poles: [end, ...b.poles.slice(1)] } : { ...b, a: end }
  }
  return out
}
/** How far apart the ends of pieces lie at most that share a node, mm. */
const SHARED = 16 * POINT

const endOfWire = (c: WireCurve): P3 => (c.kind === 'spline' ? c.poles[c.poles.length - 1]! : c.b)
