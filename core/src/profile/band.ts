import { arc, type Curve, endOf, line, offsetCurve, reverse, startOf, tangentAt } from '../curve'
import { add, bad, cross, dist, good, left, type Outcome, type P2, POINT, scale } from '../math'
import type { Seg } from './arrangement'
import { combine, JOIN } from './combine'
import type { Loop, Region } from './region'

/** How the two sides of a band are named after the piece they run beside. */
export interface BandNames {
  left(name: string): string
  right(name: string): string
  end(name: string): string
}

/**
 * All that lies within `d` mm of a chain of curves, square to them: rounded about corners that stand out,
 * flat at open ends. Refused where the chain bends more tightly than that, with the place.
 */
export function bandAlong(chain: readonly Seg[], d: number, names: BandNames): Outcome<Region[]> {
  let sum: Region[] = []
  const closed = dist(endOf(chain[chain.length - 1]!.curve), startOf(chain[0]!.curve)) < 1e-6
  for (const [i, s] of chain.entries()) {
    const strip = stripOf(s, d, names)
    if (!strip.ok) return strip
    sum = combine(sum, [strip.value], JOIN)
    const next = chain[i + 1] ?? (closed ? chain[0] : undefined)
    const corner = next && cornerOf(s, next, d, names)
    if (corner) sum = combine(sum, [corner], JOIN)
  }
  return good(sum)
}

function stripOf({ curve, name }: Seg, d: number, names: BandNames): Outcome<Region> {
  const [onLeft, ...l] = offsetCurve(curve, d)
  const [onRight, ...r] = offsetCurve(curve, -d)
  const whole =
    onLeft &&
    onRight &&
    l.length === 0 &&
    r.length === 0 &&
    runs(curve, onLeft) &&
    runs(curve, onRight)
  if (!whole)
    return bad('too-tight', `The piece ${name} bends more tightly than half the width here.`, [
      { at: startOf(curve) },
    ])
  // A piece that closes on itself leaves a ring.
  if (dist(startOf(curve), endOf(curve)) < 1e-9) {
    const rings: [Seg, Seg] = [
      { curve: onRight, name: names.right(name) },
      { curve: onLeft, name: names.left(name) },
    ]
    const counter = curve.kind === 'arc' ? curve.sweep > 0 : true
    const [outer, inner] = counter ? rings : [rings[1], rings[0]]
    const turned = (s: Seg): Seg => ({ ...s, curve: reverse(s.curve) })
    return good({
      outer: [counter ? outer : turned(outer)],
      holes: [[counter ? turned(inner) : inner]],
    })
  }
  const cap = (a: P2, b: P2): Seg => ({ curve: line(a, b), name: names.end(name) })
  return good({
    outer: [
      { curve: onRight, name: names.right(name) },
      cap(endOf(onRight), endOf(onLeft)),
      { curve: reverse(onLeft), name: names.left(name) },
      cap(startOf(onLeft), startOf(onRight)),
    ],
    holes: [],
  })
}

/** Whether an offset goes all the way along its curve. */
const runs = (c: Curve, offset: Curve): boolean => {
  const beside = (t: 0 | 1) => {
    const [p, q] = t === 0 ? [startOf(c), startOf(offset)] : [endOf(c), endOf(offset)]
    const u = tangentAt(c, t)
    return Math.abs((q[0] - p[0]) * u[0] + (q[1] - p[1]) * u[1]) < 1e-5
  }
  return beside(0) && beside(1)
}

/** The sector that closes the gap on the outside of a corner; null where the pieces run on smoothly. */
function cornerOf(s: Seg, next: Seg, d: number, names: BandNames): Region | null {
  const at = endOf(s.curve)
  const [u, v] = [tangentAt(s.curve, 1), tangentAt(next.curve, 0)]
  const turn = Math.atan2(cross(u, v), u[0] * v[0] + u[1] * v[1])
  if (Math.abs(turn) * d < POINT) return null
  // Turning left the gap opens on the right.
  const side = turn > 0 ? -1 : 1
  const [p, q] = [add(at, scale(left(u), side * d)), add(at, scale(left(v), side * d))]
  const from = Math.atan2(p[1] - at[1], p[0] - at[0])
  const name = side > 0 ? names.left(s.name) : names.right(s.name)
  const spoke = (a: P2, b: P2): Seg => ({ curve: line(a, b), name: names.end(s.name) })
  const loop: Loop =
    turn > 0
      ? [spoke(at, p), { curve: arc(at, d, from, turn), name }, spoke(q, at)]
      : [spoke(at, q), { curve: reverse(arc(at, d, from, turn)), name }, spoke(p, at)]
  return { outer: loop, holes: [] }
}
