import {
  add3,
  bad,
  cross3,
  dot3,
  downhill,
  gaussRule,
  good,
  mm,
  norm3,
  type Outcome,
  type P3,
  scale3,
  sub3,
} from '../math'
import { at3, basisOf, type Curve3, end3, start3 } from '../surface'
import { TOUCH } from './chain'

/** How a blend meets what it joins: in direction, in curvature, in how that changes. */
export type Order = 1 | 2 | 3

/** What a curve is like at an end, by its length: direction, curvature vector (1/mm), and how that changes (1/mm2). */
interface EndLike {
  at: P3
  derivatives: [P3, P3, P3]
}

/** Share of a curve by which its third derivative is looked for; exact for splines up to degree 5 within a span. */
const STEP = 1e-3
/** Least and most share of the straight way that is tried for how far a blend keeps its direction. */
const REACH = { least: 0.05, most: 20 }
const RULE = 24

/** What a curve is like where it starts, or ends, run through as it is. */
function endLike(c: Curve3, t: 0 | 1): EndLike {
  const { p, d1, d2 } = at3(c, t)
  const h = t === 0 ? STEP : -STEP
  const [e0, e1, e2, e3] = [d2, at3(c, t + h).d2, at3(c, t + 2 * h).d2, at3(c, t + 3 * h).d2]
  const d3 = [0, 1, 2].map(
    (k) => (-11 * e0[k]! + 18 * e1[k]! - 9 * e2[k]! + 2 * e3[k]!) / (6 * h),
  ) as unknown as P3
  const v = norm3(d1)
  const way = scale3(d1, 1 / v)
  // d/dt of d2 = v' T + v² k.
  const dv = dot3(way, d2)
  const k = scale3(sub3(d2, scale3(way, dv)), 1 / (v * v))
  const ddv = dot3(scale3(k, v), d2) + dot3(way, d3)
  const change = sub3(sub3(d3, scale3(way, ddv)), scale3(k, 3 * v * dv))
  return { at: p, derivatives: [way, k, scale3(change, 1 / v ** 3)] }
}

/** Bezier poles that have these ends, run at `m0` and `m1` mm a unit of t. */
function hermitePoles(a: EndLike, b: EndLike, order: Order, m0: number, m1: number): P3[] {
  const n = 2 * order + 1
  const side = ({ at, derivatives }: EndLike, m: number): P3[] => {
    const d = derivatives.map((x, i) => scale3(x, m ** (i + 1)))
    const p: P3[] = [at, add3(at, scale3(d[0]!, 1 / n))]
    if (order > 1) p.push(add3(sub3(scale3(p[1]!, 2), p[0]!), scale3(d[1]!, 1 / (n * (n - 1)))))
    if (order > 2)
      p.push(
        add3(
          add3(scale3(sub3(p[2]!, p[1]!), 3), p[0]!),
          scale3(d[2]!, 1 / (n * (n - 1) * (n - 2))),
        ),
      )
    return p
  }
  return [...side(a, m0), ...side(b, -m1).reverse()]
}

/** Differences of poles: those of the derivative of a Bezier curve. */
const derived = (p: readonly P3[]): P3[] =>
  p.slice(1).map((x, i) => scale3(sub3(x, p[i]!), p.length - 1))

function bezierAt(p: readonly P3[], t: number): P3 {
  let w = p
  while (w.length > 1)
    w = w.slice(1).map((x, i): P3 => {
      const a = w[i]!
      return [a[0] + t * (x[0] - a[0]), a[1] + t * (x[1] - a[1]), a[2] + t * (x[2] - a[2])]
    })
  return w[0]!
}

/**
 * How uneven the curvature of a Bezier curve is: length cubed times the integral of its change squared, by length (of no
 * dimension; 0 for lines and circles). In space the change out of its plane counts too.
 */
function unevenness(poles: readonly P3[]): number {
  const p1 = derived(poles)
  const p2 = derived(p1)
  const p3 = derived(p2)
  const rule = gaussRule(RULE)
  let [length, sum] = [0, 0]
  for (const [i, t] of rule.nodes.entries()) {
    const [d1, d2, d3] = [bezierAt(p1, t), bezierAt(p2, t), bezierAt(p3, t)]
    const v = norm3(d1)
    if (!(v > 0)) return Number.POSITIVE_INFINITY
    const c = cross3(d1, d2)
    const change = cross3(d1, d3)
    const size = norm3(c)
    const bend = size > 1e-12 * v ** 3 ? dot3(c, change) / size : norm3(change)
    const inPlane = bend / v ** 4 - (3 * size * dot3(d1, d2)) / v ** 6
    const outOfIt = size > 1e-12 * v ** 3 ? dot3(c, d3) / (size * v ** 3) : 0
    length += rule.weights[i]! * v
    sum += rule.weights[i]! * v * (inPlane ** 2 + outOfIt ** 2)
  }
  return length ** 3 * sum
}

/** A plane a blend stays on the upper side of; one through a line, level across it, for a line it stays above. */
export interface Above {
  origin: P3
  z: P3
  /** What it is called where it is told of. */
  called: 'plane' | 'line'
}
/** Rounds in which leaving the upper side is made dearer, by this factor each; how far below it counts as on it, mm. */
const DEARER = { rounds: 16, by: 30, near: 1e-4 }
const HEIGHTS = 96

const heightOver = ({ origin, z }: Above, p: P3) => dot3(sub3(p, origin), z)

/** Where a Bezier curve is lowest over what it stays above, how high it is there (mm), and over which. */
function lowest(poles: readonly P3[], above: readonly Above[]) {
  const spots = Array.from({ length: HEIGHTS + 1 }, (_, k) => bezierAt(poles, k / HEIGHTS))
  let low = { at: spots[0]!, height: Number.POSITIVE_INFINITY, over: above[0]! }
  for (const over of above) {
    const heights = spots.map((p) => heightOver(over, p))
    const k = heights.indexOf(Math.min(...heights))
    const [before, here, after] = [heights[k - 1], heights[k]!, heights[k + 1]]
    // Between the places looked at, the lowest is where the parabola through three of them is.
    const bend = (before ?? 0) - 2 * here + (after ?? 0)
    const inside = before !== undefined && after !== undefined && bend > 0
    const t = (k + (inside ? (before - after) / (2 * bend) : 0)) / HEIGHTS
    const at = bezierAt(poles, t)
    const height = heightOver(over, at)
    if (height < low.height) low = { at, height, over }
  }
  return low
}

/** A blend, and how many times more its curvature changes than that of the one that is free. */
export interface Blend {
  curve: Curve3 & { kind: 'spline' }
  cost: number
}

/**
 * The curve that goes on from where one curve ends to where another starts, and meets both to an order. How far it keeps to
 * each is found so that its curvature changes least; `pull` times that where asked (1 for just that). With `above` it is found
 * so that it stays on the upper side of those planes as well, within 1e-4 mm; refused where its ends do not, or nothing does.
 */
export function blended(
  from: Curve3,
  into: Curve3,
  order: Order,
  pull: readonly [number, number] = [1, 1],
  above: readonly Above[] = [],
): Outcome<Blend> {
  const [a, b] = [endLike(from, 1), endLike(into, 0)]
  const chord = norm3(sub3(start3(into), end3(from)))
  if (chord < TOUCH)
    return bad('same-place', 'Both ends lie in one place; there is nothing to blend between.', [
      { at: a.at },
    ])
  if (!pull.every((x) => x > 0))
    return bad('not-positive', 'How far it keeps its direction must be more than 0.')
  const reaches = (logs: readonly number[]) => logs.map(Math.exp)
  const poles = (m: readonly number[]) => hermitePoles(a, b, order, m[0]!, m[1]!)
  const pulled = (m: readonly number[]) => poles(m.map((x, i) => x * pull[i]!))
  const uneven = (logs: readonly number[]) => {
    const m = reaches(logs)
    const within = m.every((x) => x > REACH.least * chord && x < REACH.most * chord)
    return within ? unevenness(poles(m)) : Number.POSITIVE_INFINITY
  }
  const start = [Math.log(chord), Math.log(chord)]
  let found = downhill(uneven, start, 0.4).x
  const free = uneven(found)
  if (above.length) {
    for (const over of above)
      for (const { at } of [a, b])
        if (heightOver(over, at) < -DEARER.near)
          return bad(
            'end-below',
            `It cannot stay above that ${over.called}: this end lies below it.`,
            [{ at }],
          )
    const low = (logs: readonly number[]) => lowest(pulled(reaches(logs)), above)
    let dear = Math.max(free, 1)
    for (let k = 0; k < DEARER.rounds && low(found).height < -DEARER.near / 2; k++) {
      dear *= DEARER.by
      const price = dear
      found = downhill(
        // Aimed a little above, so that it ends on the upper side.
        (logs) =>
          uneven(logs) + price * (Math.min(0, low(logs).height - DEARER.near / 4) / chord) ** 2,
        found,
        0.2,
      ).x
    }
    const { at, height, over } = low(found)
    if (height < -DEARER.near)
      return bad(
        'goes-below',
        `No blend that meets both ends so stays above that ${over.called}; the nearest goes ${mm(-height, 2)} below it here.`,
        [{ at }],
      )
  }
  const curve = {
    kind: 'spline' as const,
    basis: basisOf(2 * order + 1, []),
    poles: pulled(reaches(found)),
  }
  return good({ curve, cost: free > 1e-12 ? uneven(found) / free : 1 })
}
