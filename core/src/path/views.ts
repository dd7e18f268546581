import {
  add3,
  bad,
  cross3,
  dot3,
  type Frame,
  good,
  norm3,
  type Outcome,
  type P3,
  rounded,
  scale3,
  sub3,
  unit3,
} from '../math'
import { basisOf, type Curve3, end3, fitted3, place3, start3 } from '../surface'

/** How near a curve seen from two sides is met, mm. */
const NEAR = 1e-5
/** Heights nearer than this are one, mm. */
const SAME = 1e-6

/** A drawing as it is seen along the normal of its plane: pieces that follow each other. */
export interface View {
  frame: Frame
  pieces: readonly Curve3[]
}

/** A piece of a view by what both views share: how far along the line in which their planes meet. */
interface Span {
  curve: Curve3
  from: number
  to: number
}

/**
 * The curve in space that looks like one drawing along the normal of its plane, and like another along that of its own: where
 * both, carried along their normals, meet. Each must run one way along the line in which the planes meet. Within 1e-5 mm.
 */
export function fromViews(a: View, b: View): Outcome<Curve3[]> {
  const along = cross3(a.frame.z, b.frame.z)
  if (norm3(along) < 0.02)
    return bad(
      'same-view',
      'Both drawings are seen from the same side: choose planes that stand at an angle.',
    )
  // It runs the way the first drawing is begun.
  const begun = sub3(end3(a.pieces[0]!), start3(a.pieces[0]!))
  const w = scale3(unit3(along), dot3(begun, along) < 0 ? -1 : 1)
  const first = spansOf(a, w, 'first')
  if (!first.ok) return first
  const second = spansOf(b, w, 'second')
  if (!second.ok) return second
  const [p, q] = [first.value, second.value]
  const from = Math.max(p[0]!.from, q[0]!.from)
  const to = Math.min(p[p.length - 1]!.to, q[q.length - 1]!.to)
  if (!(to - from > SAME))
    return bad(
      'beside',
      `The drawings lie beside each other: the first runs from ${rounded(p[0]!.from, 2)} to ${rounded(p[p.length - 1]!.to, 2)}, the second from ${rounded(q[0]!.from, 2)} to ${rounded(q[q.length - 1]!.to, 2)}.`,
      [{ at: start3(p[0]!.curve) }, { at: start3(q[0]!.curve) }],
    )
  const breaks = [from, ...p.map((s) => s.to), ...q.map((s) => s.to), to]
    .filter((x) => x >= from - SAME && x <= to + SAME)
    .sort((x, y) => x - y)
    .filter((x, i, all) => i === 0 || x - all[i - 1]! > SAME)
  const at = (spans: readonly Span[], h: number): P3 => {
    const s = spans.find((x) => h <= x.to + SAME) ?? spans[spans.length - 1]!
    return place3(s.curve, parameterAt(s, h, w))
  }
  // In the first plane and the second, square to what they share.
  const [u, v] = [unit3(cross3(a.frame.z, w)), unit3(cross3(b.frame.z, w))]
  const place = (h: number): P3 => {
    const [f, g] = [dot3(at(p, h), u), dot3(at(q, h), v)]
    // The place with these distances along u and v, which are not square to each other in general.
    const uv = dot3(u, v)
    const det = 1 - uv * uv
    const flat = add3(scale3(u, (f - g * uv) / det), scale3(v, (g - f * uv) / det))
    return add3(scale3(w, h), flat)
  }
  const out = breaks.slice(1).map((end, i): Curve3 => {
    const start = breaks[i]!
    const { curve } = fitted3(basisOf(5), (t) => place(start + t * (end - start)), NEAR)
    const [x, y] = [start3(curve), end3(curve)]
    const straight = [0.2, 0.5, 0.8].every((t) => {
      const off = sub3(place3(curve, t), x)
      const way = unit3(sub3(y, x))
      return norm3(sub3(off, scale3(way, dot3(off, way)))) < NEAR
    })
    return straight ? { kind: 'line', a: x, b: y } : curve
  })
  return good(out)
}

/** The pieces of a view in the order of what both share; refused where one turns back or stands still in it. */
function spansOf({ pieces }: View, w: P3, which: string): Outcome<Span[]> {
  const spans: Span[] = []
  for (const curve of pieces) {
    const heights = Array.from({ length: 33 }, (_, i) => dot3(place3(curve, i / 32), w))
    const rises = heights[32]! > heights[0]!
    const back = heights.findIndex(
      (h, i) => i > 0 && (rises ? h <= heights[i - 1]! : h >= heights[i - 1]!),
    )
    if (back > 0)
      return bad(
        'turns-back',
        `The ${which} drawing turns back here, or stands square to what both share: nothing says which place belongs to it.`,
        [{ at: place3(curve, back / 32) }],
      )
    const ends = [heights[0]!, heights[32]!]
    spans.push({ curve, from: Math.min(...ends), to: Math.max(...ends) })
  }
  spans.sort((x, y) => x.from - y.from)
  const twice = spans.findIndex((s, i) => i > 0 && s.from < spans[i - 1]!.to - 1e-4)
  if (twice > 0)
    return bad(
      'turns-back',
      `The ${which} drawing lies twice over the same part of what both share.`,
      [{ at: start3(spans[twice]!.curve) }],
    )
  return good(spans)
}

/** The parameter at which a piece has come so far, by halving. */
function parameterAt({ curve }: Span, h: number, w: P3): number {
  const off = (t: number) => dot3(place3(curve, t), w) - h
  const rises = off(1) > off(0)
  let [lo, hi] = [0, 1]
  for (let i = 0; i < 60; i++) {
    const mid = (lo + hi) / 2
    if (off(mid) > 0 === rises) hi = mid
    else lo = mid
  }
  return (lo + hi) / 2
}
