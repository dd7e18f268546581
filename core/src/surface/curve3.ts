import {
  add3,
  cross3,
  dot3,
  gaussRule,
  lerp3,
  norm3,
  type P3,
  placeAt,
  scale3,
  sub3,
  unit3,
} from '../math'
import { Interpolation } from './band'
import {
  averagedBasis,
  type Basis,
  breaksOf,
  countOf,
  derivatives,
  greville,
  halved,
  PROBES,
  spanOf,
} from './basis'

/** A curve in space, each run through from t = 0 to 1. */
export type Curve3 =
  | { readonly kind: 'line'; readonly a: P3; readonly b: P3 }
  | Arc3
  | { readonly kind: 'spline'; readonly basis: Basis; readonly poles: readonly P3[] }

/** From x (at t = 0) towards y about a centre by `sweep` rad; x and y are unit and square to each other. */
export interface Arc3 {
  readonly kind: 'arc'
  readonly centre: P3
  readonly x: P3
  readonly y: P3
  readonly radius: number
  readonly sweep: number
}

/** A place on a curve and its first and second derivative by t. */
export interface At {
  p: P3
  d1: P3
  d2: P3
}

const values = new Float64Array(30)

export function at3(c: Curve3, t: number): At {
  if (c.kind === 'line') {
    return { p: lerp3(c.a, c.b, t), d1: sub3(c.b, c.a), d2: [0, 0, 0] }
  }
  if (c.kind === 'arc') {
    const w = c.sweep * t
    const [cos, sin] = [Math.cos(w), Math.sin(w)]
    const out = add3(scale3(c.x, cos), scale3(c.y, sin))
    const on = add3(scale3(c.x, -sin), scale3(c.y, cos))
    return {
      p: add3(c.centre, scale3(out, c.radius)),
      d1: scale3(on, c.radius * c.sweep),
      d2: scale3(out, -c.radius * c.sweep * c.sweep),
    }
  }
  const p = c.basis.degree
  const k = spanOf(c.basis, t)
  derivatives(c.basis, k, t, 2, values)
  const sum = (row: number): P3 => {
    const s: [number, number, number] = [0, 0, 0]
    for (let i = 0; i <= p; i++)
      for (let m = 0; m < 3; m++) s[m]! += values[row * (p + 1) + i]! * c.poles[k - p + i]![m]!
    return s
  }
  return { p: sum(0), d1: sum(1), d2: sum(2) }
}

export function place3(c: Curve3, t: number): P3 {
  if (c.kind !== 'spline') return at3(c, t).p
  const p = c.basis.degree
  const k = spanOf(c.basis, t)
  derivatives(c.basis, k, t, 0, values)
  let [x, y, z] = [0, 0, 0]
  for (let i = 0; i <= p; i++) {
    const pole = c.poles[k - p + i]!
    x += values[i]! * pole[0]
    y += values[i]! * pole[1]
    z += values[i]! * pole[2]
  }
  return [x, y, z]
}

/** How fast a curve runs at t, mm a unit of t. */
export function speed3(c: Curve3, t: number): number {
  if (c.kind !== 'spline') return norm3(at3(c, t).d1)
  const p = c.basis.degree
  const k = spanOf(c.basis, t)
  derivatives(c.basis, k, t, 1, values)
  let [x, y, z] = [0, 0, 0]
  for (let i = 0; i <= p; i++) {
    const pole = c.poles[k - p + i]!
    const w = values[p + 1 + i]!
    x += w * pole[0]
    y += w * pole[1]
    z += w * pole[2]
  }
  return Math.hypot(x, y, z)
}

export const start3 = (c: Curve3): P3 => place3(c, 0)
export const end3 = (c: Curve3): P3 => place3(c, 1)
/** Unit direction at t. */
export const way3 = (c: Curve3, t: number): P3 => unit3(at3(c, t).d1)

/** The curvature vector at t: towards the centre of curvature, of length 1 / radius, 1/mm. */
export function bend3(c: Curve3, t: number): P3 {
  const { d1, d2 } = at3(c, t)
  const w = dot3(d1, d1)
  return w === 0 ? [0, 0, 0] : scale3(sub3(d2, scale3(d1, dot3(d1, d2) / w)), 1 / w)
}

/** The arc through three places, in their order; null where they lie on a line. */
export function arcThrough3(a: P3, m: P3, b: P3): Arc3 | null {
  const [u, v] = [sub3(m, a), sub3(b, a)]
  const n = cross3(u, v)
  const nn = dot3(n, n)
  if (nn < 1e-18 * dot3(u, u) * dot3(v, v) || nn === 0) return null
  // Circumcentre of a triangle, from one corner.
  const to = scale3(
    add3(scale3(cross3(v, n), dot3(u, u)), scale3(cross3(n, u), dot3(v, v))),
    1 / (2 * nn),
  )
  const centre = add3(a, to)
  const radius = norm3(to)
  const x = unit3(sub3(a, centre))
  const y = cross3(unit3(n), x)
  const d = sub3(b, centre)
  const sweep = Math.atan2(dot3(d, y), dot3(d, x))
  return { kind: 'arc', centre, x, y, radius, sweep: sweep > 0 ? sweep : sweep + 2 * Math.PI }
}

/** The arc that leaves a place in a unit direction and ends at another; null where that is straight ahead or behind. */
export function arcFrom3(a: P3, dir: P3, b: P3): Arc3 | null {
  const chord = sub3(b, a)
  const off = sub3(chord, scale3(dir, dot3(chord, dir)))
  const h = norm3(off)
  if (h < 1e-9 * norm3(chord) || h === 0) return null
  const radius = dot3(chord, chord) / (2 * h)
  const inward = scale3(off, 1 / h)
  const centre = add3(a, scale3(inward, radius))
  const d = sub3(b, centre)
  const sweep = Math.atan2(dot3(d, dir), -dot3(d, inward))
  return {
    kind: 'arc',
    centre,
    x: scale3(inward, -1),
    y: dir,
    radius,
    sweep: sweep > 0 ? sweep : sweep + 2 * Math.PI,
  }
}

export function reversed3(c: Curve3): Curve3 {
  if (c.kind === 'line') return { kind: 'line', a: c.b, b: c.a }
  if (c.kind === 'arc') {
    const { p } = at3(c, 1)
    const x = unit3(sub3(p, c.centre))
    return { ...c, x, y: scale3(way3(c, 1), -1) }
  }
  const last = c.basis.knots[c.basis.knots.length - 1]!
  const knots = Float64Array.from(c.basis.knots, (k) => last - k).reverse()
  return { kind: 'spline', basis: { degree: c.basis.degree, knots }, poles: [...c.poles].reverse() }
}

/** Points of each stretch of a spline at which its length is read. */
const RULE = 16

/** Length from t = 0 to `to`, mm; of splines by Gauss points span by span. */
export function length3(c: Curve3, to = 1): number {
  if (c.kind === 'line') return norm3(sub3(c.b, c.a)) * to
  if (c.kind === 'arc') return c.radius * c.sweep * to
  const rule = gaussRule(RULE)
  const breaks = breaksOf(c.basis)
  let sum = 0
  for (let i = 1; i < breaks.length && breaks[i - 1]! < to; i++) {
    const from = breaks[i - 1]!
    const h = Math.min(to, breaks[i]!) - from
    for (const [k, x] of rule.nodes.entries()) sum += rule.weights[k]! * h * speed3(c, from + h * x)
  }
  return sum
}

/**
 * The curve of a basis' degree through places at parameters from 0 to 1 (chord lengths where none are told),
 * with directions (by parameter) at its ends where they are given.
 */
export function through3(
  places: readonly P3[],
  degree = 3,
  ends: { first?: P3; last?: P3 } = {},
  params?: readonly number[],
): Curve3 {
  const at = params ?? chordParams(places)
  const rows: { at: number; order: number; x: P3 }[] = places.map((x, i) => ({
    at: at[i]!,
    order: 0,
    x,
  }))
  if (ends.first) rows.splice(1, 0, { at: at[0]!, order: 1, x: ends.first })
  if (ends.last) rows.splice(rows.length - 1, 0, { at: at[at.length - 1]!, order: 1, x: ends.last })
  const basis = averagedBasis(
    degree,
    rows.map((r) => r.at),
  )
  const x = Float64Array.from(rows.flatMap((r) => [...r.x]))
  new Interpolation(
    basis,
    rows.map((r) => r.at),
    rows.map((r) => r.order),
  ).solve(x)
  return { kind: 'spline', basis, poles: polesOf(x) }
}

/**
 * The closed cubic spline through places (at least three), from the first back to it, whose direction and curvature run on there too: the
 * periodic cubic over chord lengths (de Boor, A practical guide to splines, 1978).
 */
export function throughClosed3(places: readonly P3[]): Curve3 & { kind: 'spline' } {
  const round = [...places, places[0]!]
  const at = chordParams(round)
  const basis: Basis = {
    degree: 3,
    knots: Float64Array.from([0, 0, 0, ...at, 1, 1, 1]),
  }
  const params = [0, ...at, 1]
  const orders = params.map((_, i) => (i === 1 || i === params.length - 2 ? 1 : 0))
  const system = new Interpolation(basis, params, orders)
  const solved = (x: readonly P3[]): Curve3 & { kind: 'spline' } => {
    const flat = Float64Array.from(x.flat())
    system.solve(flat)
    return { kind: 'spline', basis, poles: polesOf(flat) }
  }
  const rows = (x: readonly P3[], way: P3): P3[] => [x[0]!, way, ...x.slice(1, -1), way, x.at(-1)!]
  const jump = (c: Curve3): P3 => sub3(at3(c, 0).d2, at3(c, 1).d2)
  // How far curvature jumps goes linearly with the direction there, each coordinate by itself and alike.
  const still = solved(rows(round, [0, 0, 0]))
  const none = round.map((): P3 => [0, 0, 0])
  const answer = jump(solved(rows(none, [1, 0, 0])))[0]
  return solved(rows(round, scale3(jump(still), -1 / answer)))
}

/** Shares of the whole way along the chords. */
function chordParams(places: readonly P3[]): number[] {
  const out = [0]
  for (let i = 1; i < places.length; i++)
    out.push(out[i - 1]! + norm3(sub3(places[i]!, places[i - 1]!)))
  const whole = out[out.length - 1]! || 1
  return out.map((x) => x / whole)
}

const polesOf = (x: Float64Array): P3[] =>
  Array.from({ length: x.length / 3 }, (_, i) => placeAt(x, i))

/** The curve of a basis that has a function's places at its Greville parameters. */
export function interpolated3(basis: Basis, place: (t: number) => P3): Curve3 & { kind: 'spline' } {
  const g = greville(basis)
  const x = new Float64Array(3 * countOf(basis))
  for (const [i, t] of g.entries()) x.set(place(t), 3 * i)
  new Interpolation(basis, g).solve(x)
  return { kind: 'spline', basis, poles: polesOf(x) }
}

/** The same within `tolerance` mm between those places: spans that are further off are halved. */
export function fitted3(
  basis: Basis,
  place: (t: number) => P3,
  tolerance: number,
  rounds = 8,
): { curve: Curve3 & { kind: 'spline' }; off: number } {
  let now = basis
  for (let round = 0; ; round++) {
    const curve = interpolated3(now, place)
    const breaks = breaksOf(now)
    const worse = new Set<number>()
    let off = 0
    for (let i = 1; i < breaks.length; i++)
      for (const f of PROBES) {
        const t = breaks[i - 1]! + f * (breaks[i]! - breaks[i - 1]!)
        const d = norm3(sub3(place3(curve, t), place(t)))
        off = Math.max(off, d)
        if (d > tolerance) worse.add(i - 1)
      }
    if (worse.size === 0 || round === rounds) return { curve, off }
    now = halved(now, worse)
  }
}
