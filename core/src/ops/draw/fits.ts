import { arcThrough, Bundle, type Curve, flattenParams, line, pointAt } from '../../curve'
import type { ExactPart } from '../../exact'
import {
  bad,
  type Diagnosis,
  dist,
  dot3,
  type Frame,
  good,
  mm,
  type Outcome,
  type P2,
  type P3,
  sub3,
} from '../../math'
import type { Value } from '../../profile'
import type { FaceRef } from '../../refs'
import { exactBody } from '../exact'
import { pickExactFaces } from '../pick'
import type { OpContext } from '../state'

interface Fit {
  body?: string | undefined
  faces: readonly FaceRef[]
  margin: Value
}
/** Letters and edges are read within this, mm. */
const FINE = 0.005
/** A face is on a plane when it lies this near, mm. */
const ON = 1e-4

/** Whether curves on a plane lie on a flat face with a margin to its edges; true where no face is picked. */
export function fitsInto(
  fit: Fit,
  plane: Frame,
  curves: readonly Curve[],
  ctx: OpContext,
): Outcome<Diagnosis[]> {
  if (fit.faces.length === 0) return good([])
  const target = exactBody(fit.body ?? '', ctx)
  if (!target.ok) return target
  const { part } = target.value
  const picked = pickExactFaces(part, fit.faces, ctx, 'faces')
  if (!picked.ok) return picked
  const margin = ctx.read(fit.margin, 'length')
  if (!(margin >= 0)) return bad('margin', 'What stays clear must not be less than 0.')
  const index = picked.value.items[0]!
  const face = part.faces[index]!
  const off = dot3(sub3(face.middle, plane.origin), plane.z)
  if (face.kind !== 'plane' || Math.abs(Math.abs(dot3(face.normal, plane.z)) - 1) > 1e-9)
    return bad('not-on-face', 'The face does not run along the plane the text stands on.', [
      { at: face.middle },
    ])
  if (Math.abs(off) > ON)
    return bad('not-on-face', `The face lies ${mm(Math.abs(off))} off the plane of the text.`, [
      { at: face.middle },
    ])
  const border = borderOf(part, index, plane)
  const edges = new Bundle(border)
  let worst: { at: P2; clear: number } | null = null
  for (const c of curves)
    for (const t of flattenParams(c, FINE)) {
      const at = pointAt(c, t)
      const clear = isInside(border, at) ? (edges.nearest(at[0], at[1])?.d ?? 0) : -1
      if (!worst || clear < worst.clear) worst = { at, clear }
    }
  if (worst && worst.clear < 0)
    return bad('over-edge', 'The text reaches over the edge of the face.', [{ at: worst.at }])
  if (worst && worst.clear < margin - 1e-9)
    return bad(
      'too-near',
      `The text comes within ${mm(worst.clear)} of the edge of the face; ${mm(margin)} have to stay clear.`,
      [{ at: worst.at, label: mm(worst.clear) }],
    )
  return good(picked.value.warnings)
}

/** The edges of a flat face in the coordinates of its plane: lines and arcs as they are, others as polylines. */
function borderOf(part: ExactPart, face: number, plane: Frame): Curve[] {
  const { lines, edgeOf } = part.shown
  const put = (i: number): P2 => {
    const p = sub3([lines[3 * i]!, lines[3 * i + 1]!, lines[3 * i + 2]!] as P3, plane.origin)
    return [dot3(p, plane.x), dot3(p, plane.y)]
  }
  const own = new Map<number, [P2, P2][]>()
  for (const [s, e] of edgeOf.entries()) {
    if (!part.edges[e]!.faces.includes(face)) continue
    own.set(e, [...(own.get(e) ?? []), [put(2 * s), put(2 * s + 1)]])
  }
  return [...own.values()].flatMap(
    (segments) =>
      arcsOf(segments) ?? segments.flatMap(([a, b]) => (dist(a, b) > 1e-9 ? [line(a, b)] : [])),
  )
}

/** Segments whose ends lie on one circle as its arcs; null where they do not. */
function arcsOf(segments: readonly [P2, P2][]): Curve[] | null {
  if (segments.length < 3) return null
  const ends = [segments[0]![0], ...segments.map((s) => s[1])]
  const middle = ends[Math.floor((ends.length - 1) / 2)]!
  const round = arcThrough(ends[0]!, middle, ends[Math.floor((3 * (ends.length - 1)) / 4)]!)
  if (round.kind !== 'arc') return null
  // Triangles keep places to single precision.
  const near = 1e-4
  if (ends.some((p) => Math.abs(dist(p, round.c) - round.radius) > near)) return null
  return segments.map(([a, b]) => {
    const m: P2 = [(a[0] + b[0]) / 2 - round.c[0], (a[1] + b[1]) / 2 - round.c[1]]
    const k = round.radius / Math.hypot(...m)
    return arcThrough(a, [round.c[0] + k * m[0], round.c[1] + k * m[1]], b)
  })
}

/** By even and odd along a ray; the border's arcs are near enough to their chords beside what is asked. */
function isInside(border: readonly Curve[], p: P2): boolean {
  let odd = false
  for (const c of border) {
    const ts = c.kind === 'line' ? [0, 1] : flattenParams(c, FINE)
    for (let i = 1; i < ts.length; i++) {
      const [a, b] = [pointAt(c, ts[i - 1]!), pointAt(c, ts[i]!)]
      if (a[1] > p[1] === b[1] > p[1]) continue
      if (a[0] + ((p[1] - a[1]) / (b[1] - a[1])) * (b[0] - a[0]) > p[0]) odd = !odd
    }
  }
  return odd
}
