import { gaussRule, type P3 } from '../math'
import { type Basis, breaksOf, countOf, derivatives, spanOf } from './basis'
import type { Patch } from './patch'

/** The nodes of Gauss's rule on all spans of a basis, with the functions that are not 0 there and their derivatives. */
interface Nodes {
  count: number
  weights: Float64Array
  /** The first function at each. */
  first: Int32Array
  /** `degree + 1` values, then as many derivatives, of each. */
  values: Float64Array
}

function nodesOf(basis: Basis, per: number): Nodes {
  const { nodes, weights } = gaussRule(per)
  const breaks = breaksOf(basis)
  const count = per * (breaks.length - 1)
  const size = 2 * (basis.degree + 1)
  const out: Nodes = {
    count,
    weights: new Float64Array(count),
    first: new Int32Array(count),
    values: new Float64Array(size * count),
  }
  const at = new Float64Array(size)
  for (let k = 1, n = 0; k < breaks.length; k++) {
    const h = breaks[k]! - breaks[k - 1]!
    for (let i = 0; i < per; i++, n++) {
      const t = breaks[k - 1]! + h * nodes[i]!
      const span = spanOf(basis, t)
      derivatives(basis, span, t, 1, at)
      out.weights[n] = h * weights[i]!
      out.first[n] = span - basis.degree
      out.values.set(at, size * n)
    }
  }
  return out
}

/**
 * Goes over a patch with each place of Gauss's rule, its two derivatives and its weight, so many nodes a span each way. Poles are summed
 * up along u once for each of its nodes, so that a place takes the functions of v alone.
 */
function over(
  s: Patch,
  perU: number,
  perV: number,
  at: (p: Float64Array, u: Float64Array, v: Float64Array, weight: number) => void,
): void {
  const [nu, nv] = [nodesOf(s.u, perU), nodesOf(s.v, perV)]
  const [wu, wv, m] = [s.u.degree + 1, s.v.degree + 1, 3 * countOf(s.v)]
  const [row, slopes] = [new Float64Array(m), new Float64Array(m)]
  const [p, du, dv] = [new Float64Array(3), new Float64Array(3), new Float64Array(3)]
  for (let a = 0; a < nu.count; a++) {
    row.fill(0)
    slopes.fill(0)
    for (let i = 0; i < wu; i++) {
      const [f, d] = [nu.values[2 * wu * a + i]!, nu.values[2 * wu * a + wu + i]!]
      const from = m * (nu.first[a]! + i)
      for (let k = 0; k < m; k++) {
        const x = s.poles[from + k]!
        row[k]! += f * x
        slopes[k]! += d * x
      }
    }
    for (let b = 0; b < nv.count; b++) {
      p.fill(0)
      du.fill(0)
      dv.fill(0)
      for (let j = 0; j < wv; j++) {
        const [f, d] = [nv.values[2 * wv * b + j]!, nv.values[2 * wv * b + wv + j]!]
        const from = 3 * (nv.first[b]! + j)
        for (let c = 0; c < 3; c++) {
          p[c]! += f * row[from + c]!
          du[c]! += f * slopes[from + c]!
          dv[c]! += d * row[from + c]!
        }
      }
      at(p, du, dv, nu.weights[a]! * nv.weights[b]!)
    }
  }
}

/**
 * What a patch adds to the volume of the closed skin it is part of, mm3: a third of the flux of the place vector
 * through it along Su x Sv (divergence theorem), by as many Gauss points as are exact for its polynomials; by five a span where
 * there are so many spans that more change nothing (the error falls with their tenth power).
 */
export function fluxThrough(s: Patch): number {
  let sum = 0
  over(s, nodesFor(s.u, 3), nodesFor(s.v, 3), (p, u, v, w) => {
    sum += w * flux(p[0]!, p[1]!, p[2]!, u, v)
  })
  return sum / 3
}

/** What lies between a point and a face: its volume, mm3, and its first moment about the point, mm4. */
export interface Behind {
  volume: number
  moment: P3
}

/**
 * What lies between a point and a patch, mm3, positive where Su x Sv looks away from the point, and its first moment about the point,
 * mm4: a quarter of the flux of the place times the place, by as many Gauss points likewise.
 */
export function behindPatch(s: Patch, from: P3): Behind {
  let [volume, mx, my, mz] = [0, 0, 0, 0]
  over(s, nodesFor(s.u, 4), nodesFor(s.v, 4), (p, u, v, w) => {
    const [x, y, z] = [p[0]! - from[0], p[1]! - from[1], p[2]! - from[2]]
    const f = w * flux(x, y, z, u, v)
    volume += f
    mx += f * x
    my += f * y
    mz += f * z
  })
  return { volume: volume / 3, moment: [mx / 4, my / 4, mz / 4] }
}

/** How many nodes a span are exact for so many factors of a basis, one of them derived. */
const nodesFor = (b: Basis, factors: number): number => {
  const exact = Math.ceil((factors * b.degree) / 2)
  return breaksOf(b).length > MANY ? Math.min(5, exact) : exact
}
const MANY = 24

const flux = (x: number, y: number, z: number, u: Float64Array, v: Float64Array): number =>
  x * (u[1]! * v[2]! - u[2]! * v[1]!) +
  y * (u[2]! * v[0]! - u[0]! * v[2]!) +
  z * (u[0]! * v[1]! - u[1]! * v[0]!)

/** The area of a patch, mm2, by five Gauss points a span each way. */
export function areaOf(s: Patch): number {
  let sum = 0
  over(s, 5, 5, (_, u, v, w) => {
    sum +=
      w *
      Math.hypot(
        u[1]! * v[2]! - u[2]! * v[1]!,
        u[2]! * v[0]! - u[0]! * v[2]!,
        u[0]! * v[1]! - u[1]! * v[0]!,
      )
  })
  return sum
}
