import { add3, cross3, gaussRule, type P3, placeAt, scale3 } from '../math'
import { Interpolation } from './band'
import {
  type Basis,
  breaksOf,
  countOf,
  derivatives,
  greville,
  halved,
  MOST,
  PROBES,
  spanOf,
} from './basis'

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
  o[0] = x
  o[1] = y
  o[2] = z
}

/** Evaluates a patch up to `order` (0, 1 or 2) derivatives. Allocates nothing. */
export function evaluate(s: Patch, u: number, v: number, order: 0 | 1 | 2, out: Jet): void {
  if (order === 0) {
    placeInto(s, u, v, out.p)
    return
  }
  const [p, q] = [s.u.degree, s.v.degree]
  const nv = countOf(s.v)
  const [fu, fv] = [functionsAt(s.u, u, order), functionsAt(s.v, v, order)]
  const [ku, kv, bu, bv] = [fu.span, fv.span, fu.values, fv.values]
  const { p: o, u: ou, v: ov, uu, uv, vv } = out
  o.fill(0)
  ou.fill(0)
  ov.fill(0)
  if (order > 1) {
    uu.fill(0)
    uv.fill(0)
    vv.fill(0)
  }
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
        if (order === 1) continue
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

/** What gives a place for every (u, v) of two bases. */
export type Field = (u: number, v: number) => P3

/** The surface that has the field's places at the Greville parameters of both bases. */
export function interpolated(u: Basis, v: Basis, field: Field): Patch {
  const [nu, nv] = [countOf(u), countOf(v)]
  const [gu, gv] = [greville(u), greville(v)]
  const poles = new Float64Array(3 * nu * nv)
  for (let i = 0; i < nu; i++)
    for (let j = 0; j < nv; j++) poles.set(field(gu[i]!, gv[j]!), 3 * (i * nv + j))
  const along = new Interpolation(u, gu)
  for (let j = 0; j < nv; j++) along.solve(poles, 3 * j, 3 * nv)
  const across = new Interpolation(v, gv)
  for (let i = 0; i < nu; i++) across.solve(poles, 3 * i * nv, 3)
  return { u, v, poles }
}

/** Spans of a basis that are looked at; all of them where it is null. */
type Looked = ReadonlySet<number> | null

/** The halves of spans after they were halved, and those so many beside them. */
function halvesOf(halvedSpans: ReadonlySet<number>, beside: number): Set<number> {
  const out = new Set<number>()
  for (const [k, i] of [...halvedSpans].sort((a, b) => a - b).entries())
    for (let n = i + k - beside; n <= i + k + 1 + beside; n++) out.add(n)
  return out
}
/** What is halved changes a fit hardly farther than this many spans away. */
const BESIDE = 2

/**
 * Surfaces beside each other, each over its own u and all over one v, within `tolerance` mm of their fields: spans of v are halved
 * for all alike, so that neighbours keep meeting. While spans are halved only these are looked at again; in the end all are.
 */
export function fittedBeside(
  us: readonly Basis[],
  v: Basis,
  fields: readonly Field[],
  tolerance: number,
  rounds = 5,
): { patches: Patch[]; off: number } {
  let patches = fields.map((f, i) => interpolated(us[i]!, v, f))
  let inU: Looked[] = patches.map(() => null)
  let inV: Looked = null
  for (let round = 0; ; ) {
    const badV = new Set<number>()
    const bad = patches.map(() => new Set<number>())
    let off = 0
    for (const [i, s] of patches.entries())
      off = Math.max(off, probe(s, fields[i]!, tolerance, inU[i]!, inV, bad[i]!, badV))
    const whole = inV === null
    const found = badV.size > 0 || bad.some((b) => b.size > 0)
    if (whole && (!found || round === rounds)) return { patches, off }
    if (!found || round === rounds) {
      inU = patches.map(() => null)
      inV = null
      continue
    }
    round++
    const next = halved(patches[0]!.v, badV)
    patches = patches.map((s, i) => interpolated(halved(s.u, bad[i]!), next, fields[i]!))
    inU = bad.map((b) => halvesOf(b, BESIDE))
    inV = halvesOf(badV, BESIDE)
  }
}

/** The same of one surface. */
export function fitted(
  u: Basis,
  v: Basis,
  field: Field,
  tolerance: number,
): { patch: Patch; off: number } {
  const { patches, off } = fittedBeside([u], v, [field], tolerance, 6)
  return { patch: patches[0]!, off }
}

/** The largest distance from the field in the spans looked at; notes those that are off in the direction that is to blame. */
function probe(
  s: Patch,
  field: Field,
  tolerance: number,
  inU: Looked,
  inV: Looked,
  badU: Set<number>,
  badV: Set<number>,
) {
  const [us, vs] = [breaksOf(s.u), breaksOf(s.v)]
  const [gu, gv] = [greville(s.u), greville(s.v)]
  let off = 0
  const look = (u: number, v: number) => {
    // The field may look places up on other surfaces.
    const at = field(u, v)
    evaluate(s, u, v, 0, scratch)
    const d = Math.hypot(at[0] - scratch.p[0]!, at[1] - scratch.p[1]!, at[2] - scratch.p[2]!)
    off = Math.max(off, d)
    return d > tolerance
  }
  // Along lines of interpolated places only the other direction can be off.
  for (let i = 1; i < us.length; i++) {
    if (inU && !inU.has(i - 1)) continue
    for (const f of PROBES) {
      const u = us[i - 1]! + f * (us[i]! - us[i - 1]!)
      for (const v of gv) if (look(u, v)) badU.add(i - 1)
    }
  }
  for (let j = 1; j < vs.length; j++) {
    if (inV && !inV.has(j - 1)) continue
    for (const f of PROBES) {
      const v = vs[j - 1]! + f * (vs[j]! - vs[j - 1]!)
      for (const u of gu) if (look(u, v)) badV.add(j - 1)
    }
  }
  return off
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

/** The part of a patch between two values of u and of v, exactly; its own parameters run from 0 to 1. */
export function within(s: Patch, u0: number, u1: number, v0: number, v1: number): Patch {
  const [hu, hv] = [u1 - u0, v1 - v0]
  return interpolated(part(s.u, u0, u1), part(s.v, v0, v1), (a, b) =>
    pointOn(s, u0 + a * hu, v0 + b * hv),
  )
}

/** What a basis is between two parameters, from 0 to 1. */
function part({ degree, knots }: Basis, from: number, to: number): Basis {
  const inner = Array.from(knots).filter((k) => k > from + 1e-9 && k < to - 1e-9)
  const ends = (x: number) => Array<number>(degree + 1).fill(x)
  const at = inner.map((k) => (k - from) / (to - from))
  return { degree, knots: Float64Array.from([...ends(0), ...at, ...ends(1)]) }
}
