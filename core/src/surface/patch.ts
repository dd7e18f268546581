import { add3, cross3, gaussRule, type P3, placeAt, scale3 } from '../math'
import { type Basis, breaksOf, countOf, derivatives, MOST, spanOf } from './basis'

/** A polynomial B-spline surface: pole (i, j) of u and v is at 3 (i nv + j), mm. */
export interface Patch {
  readonly u: Basis
  readonly v: Basis
  readonly poles: Float64Array
}

/** A place on a surface and its derivatives by u and v, in mm a unit of parameter; filled in place. */
export interface Jet {
  p: Float64Array
  u: Float64Array
  v: Float64Array
  uu: Float64Array
  uv: Float64Array
  vv: Float64Array
}
export const jet = (): Jet => ({
  p: new Float64Array(3),
  u: new Float64Array(3),
  v: new Float64Array(3),
  uu: new Float64Array(3),
  uv: new Float64Array(3),
  vv: new Float64Array(3),
})

/** Functions of a basis at one parameter. */
interface Kept {
  basis: Basis | null
  t: number
  order: number
  span: number
  values: Float64Array
}
const slot = (): Kept => ({
  basis: null,
  t: 0,
  order: 0,
  span: 0,
  values: new Float64Array(3 * MOST),
})
/** Those last read: along a line of a grid, and for surfaces that are read by turns, most come again. */
const lately: readonly Kept[] = [slot(), slot(), slot(), slot(), slot(), slot()]
let [next, last] = [0, -1]

/** Good until it is asked twice more: what was given last is not overwritten. */
function functionsAt(basis: Basis, t: number, order: number): Kept {
  for (let i = 0; i < lately.length; i++) {
    const k = lately[i]!
    if (k.basis === basis && k.t === t && k.order >= order) {
      last = i
      return k
    }
  }
  if (next === last) next = (next + 1) % lately.length
  const k = lately[next]!
  last = next
  next = (next + 1) % lately.length
  k.basis = basis
  k.t = t
  k.order = order
  k.span = spanOf(basis, t)
  derivatives(basis, k.span, t, order, k.values)
  return k
}

/** The place at (u, v), mm, put where it is asked for. */
function placeInto(s: Patch, u: number, v: number, o: Float64Array): void {
  const [p, q] = [s.u.degree, s.v.degree]
  const [fu, fv] = [functionsAt(s.u, u, 0), functionsAt(s.v, v, 0)]
  const [bu, bv, { poles }] = [fu.values, fv.values, s]
  const nv = countOf(s.v)
  let [x, y, z] = [0, 0, 0]
  for (let i = 0; i <= p; i++) {
    const w = bu[i]!
    let at = 3 * ((fu.span - p + i) * nv + fv.span - q)
    for (let j = 0; j <= q; j++, at += 3) {
      const f = w * bv[j]!
      x += f * poles[at]!
      y += f * poles[at + 1]!
      z += f * poles[at + 2]!
    }
  }
  set(o, x, y, z)
}

/** Evaluates a patch up to `order` (0, 1 or 2) derivatives. Allocates nothing. */
export function evaluate(s: Patch, u: number, v: number, order: 0 | 1 | 2, out: Jet): void {
  if (order === 0) placeInto(s, u, v, out.p)
  else if (order === 1) firstInto(s, u, v, out)
  else secondInto(s, u, v, out)
}

/** Place and first derivatives, put where they are asked for. */
function firstInto(s: Patch, u: number, v: number, out: Jet): void {
  const [p, q] = [s.u.degree, s.v.degree]
  const [fu, fv] = [functionsAt(s.u, u, 1), functionsAt(s.v, v, 1)]
  const [bu, bv, { poles }] = [fu.values, fv.values, s]
  const nv = countOf(s.v)
  const [wu, wv] = [p + 1, q + 1]
  let x = 0
  let y = 0
  let z = 0
  let ux = 0
  let uy = 0
  let uz = 0
  let vx = 0
  let vy = 0
  let vz = 0
  for (let i = 0; i <= p; i++) {
    // Of one column of poles: its place, and its derivative by v.
    let a = 0
    let b = 0
    let c = 0
    let d = 0
    let e = 0
    let f = 0
    let at = 3 * ((fu.span - p + i) * nv + fv.span - q)
    for (let j = 0; j <= q; j++, at += 3) {
      const w = bv[j]!
      const dw = bv[wv + j]!
      const px = poles[at]!
      const py = poles[at + 1]!
      const pz = poles[at + 2]!
      a += w * px
      b += w * py
      c += w * pz
      d += dw * px
      e += dw * py
      f += dw * pz
    }
    const w = bu[i]!
    const dw = bu[wu + i]!
    x += w * a
    y += w * b
    z += w * c
    ux += dw * a
    uy += dw * b
    uz += dw * c
    vx += w * d
    vy += w * e
    vz += w * f
  }
  set(out.p, x, y, z)
  set(out.u, ux, uy, uz)
  set(out.v, vx, vy, vz)
}

const set = (o: Float64Array, x: number, y: number, z: number): void => {
  o[0] = x
  o[1] = y
  o[2] = z
}

function secondInto(s: Patch, u: number, v: number, out: Jet): void {
  const [p, q] = [s.u.degree, s.v.degree]
  const nv = countOf(s.v)
  const [fu, fv] = [functionsAt(s.u, u, 2), functionsAt(s.v, v, 2)]
  const [ku, kv, bu, bv] = [fu.span, fv.span, fu.values, fv.values]
  const { p: o, u: ou, v: ov, uu, uv, vv } = out
  for (const part of [o, ou, ov, uu, uv, vv]) part.fill(0)
  const [wu, wv] = [p + 1, q + 1]
  for (let i = 0; i <= p; i++) {
    const row = 3 * ((ku - p + i) * nv + kv - q)
    for (let j = 0; j <= q; j++) {
      const at = row + 3 * j
      for (let c = 0; c < 3; c++) {
        const x = s.poles[at + c]!
        o[c]! += bu[i]! * bv[j]! * x
        ou[c]! += bu[wu + i]! * bv[j]! * x
        ov[c]! += bu[i]! * bv[wv + j]! * x
        uu[c]! += bu[2 * wu + i]! * bv[j]! * x
        uv[c]! += bu[wu + i]! * bv[wv + j]! * x
        vv[c]! += bu[i]! * bv[2 * wv + j]! * x
      }
    }
  }
}

const scratch = jet()
const asP3 = (a: Float64Array): P3 => [a[0]!, a[1]!, a[2]!]

/** The place at (u, v), mm. */
export function pointOn(s: Patch, u: number, v: number): P3 {
  evaluate(s, u, v, 0, scratch)
  return asP3(scratch.p)
}

/** The pole row at an end of v, as places. */
export function rowAt(s: Patch, last: boolean): P3[] {
  const [nu, nv] = [countOf(s.u), countOf(s.v)]
  const j = last ? nv - 1 : 0
  return Array.from({ length: nu }, (_, i) =>
    asP3(s.poles.slice(3 * (i * nv + j), 3 * (i * nv + j) + 3)),
  )
}

/** The pole column at an end of u, as places. */
export function columnAt(s: Patch, last: boolean): P3[] {
  const nv = countOf(s.v)
  const i = last ? countOf(s.u) - 1 : 0
  return Array.from({ length: nv }, (_, j) => placeAt(s.poles, i * nv + j))
}

/**
 * The area vector of a closed chain of curves: half the integral of place x tangent, mm2. Of a flat loop it is the area
 * times the normal about which it runs.
 */
export function areaVector(curves: readonly { basis: Basis; poles: readonly P3[] }[]): P3 {
  let sum: P3 = [0, 0, 0]
  const values = new Float64Array(20)
  for (const { basis, poles } of curves) {
    const p = basis.degree
    const rule = gaussRule(p + 1)
    const breaks = breaksOf(basis)
    for (let a = 1; a < breaks.length; a++) {
      const h = breaks[a]! - breaks[a - 1]!
      for (const [i, x] of rule.nodes.entries()) {
        const t = breaks[a - 1]! + h * x
        const k = spanOf(basis, t)
        derivatives(basis, k, t, 1, values)
        let at: P3 = [0, 0, 0]
        let way: P3 = [0, 0, 0]
        for (let m = 0; m <= p; m++) {
          const pole = poles[k - p + m]!
          at = add3(at, scale3(pole, values[m]!))
          way = add3(way, scale3(pole, values[p + 1 + m]!))
        }
        sum = add3(sum, scale3(cross3(at, way), (rule.weights[i]! * h) / 2))
      }
    }
  }
  return sum
}
