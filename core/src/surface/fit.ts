import type { P3 } from '../math'
import { Interpolation } from './band'
import { type Basis, breaksOf, greville, halved, PROBES } from './basis'
import { placesOver } from './grid'
import type { Patch } from './patch'

/** What gives the places over a grid of parameters, mm: that of us[i] and vs[j] at 3 (i nv + j). */
export type Field = (us: ArrayLike<number>, vs: ArrayLike<number>) => Float64Array

/** The field of what gives one place at a time. */
export const placeByPlace =
  (place: (u: number, v: number) => P3): Field =>
  (us, vs) => {
    const out = new Float64Array(3 * us.length * vs.length)
    for (let i = 0; i < us.length; i++)
      for (let j = 0; j < vs.length; j++) out.set(place(us[i]!, vs[j]!), 3 * (i * vs.length + j))
    return out
  }

/** The surface that has the field's places at the Greville parameters of both bases. */
export function interpolated(u: Basis, v: Basis, field: Field): Patch {
  const [gu, gv] = [greville(u), greville(v)]
  const [nu, nv] = [gu.length, gv.length]
  const poles = field(gu, gv)
  const along = new Interpolation(u, gu)
  for (let j = 0; j < nv; j++) along.solve(poles, 3 * j, 3 * nv)
  const across = new Interpolation(v, gv)
  for (let i = 0; i < nu; i++) across.solve(poles, 3 * i * nv, 3)
  return { u, v, poles }
}

/** Spans of a basis that are looked at; all of them where it is null. */
export type Looked = ReadonlySet<number> | null

/** The halves of spans after they were halved, and those beside them that a fit changes in with them. */
export function halvesOf(halvedSpans: ReadonlySet<number>): Set<number> {
  const out = new Set<number>()
  for (const [k, i] of [...halvedSpans].sort((a, b) => a - b).entries())
    for (let n = i + k - BESIDE; n <= i + k + 1 + BESIDE; n++) out.add(n)
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
    inU = bad.map((b) => halvesOf(b))
    inV = halvesOf(badV)
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
  // Along lines of interpolated places only the other direction can be off.
  const [us, vs] = [probesIn(s.u, inU), probesIn(s.v, inV)]
  const [gu, gv] = [greville(s.u), greville(s.v)]
  const look = (
    a: ArrayLike<number>,
    b: ArrayLike<number>,
    off: (i: number, j: number) => void,
  ) => {
    const [asked, made] = [field(a, b), placesOver(s, a, b)]
    let most = 0
    for (let i = 0, k = 0; i < a.length; i++)
      for (let j = 0; j < b.length; j++, k += 3) {
        const d = Math.hypot(
          asked[k]! - made[k]!,
          asked[k + 1]! - made[k + 1]!,
          asked[k + 2]! - made[k + 2]!,
        )
        if (d > tolerance) off(i, j)
        most = Math.max(most, d)
      }
    return most
  }
  return Math.max(
    look(us.at, gv, (i) => badU.add(us.span[i]!)),
    look(gu, vs.at, (_, j) => badV.add(vs.span[j]!)),
  )
}

/** The parameters a fit is looked at in some spans of a basis, and the span of each. */
export function probesIn(b: Basis, looked: Looked): { at: number[]; span: number[] } {
  const breaks = breaksOf(b)
  const out = { at: [] as number[], span: [] as number[] }
  for (let i = 0; i + 1 < breaks.length; i++) {
    if (looked && !looked.has(i)) continue
    for (const f of PROBES) {
      out.at.push(breaks[i]! + f * (breaks[i + 1]! - breaks[i]!))
      out.span.push(i)
    }
  }
  return out
}

/** The part of a patch between two values of u and of v, exactly; its own parameters run from 0 to 1. */
export function within(s: Patch, u0: number, u1: number, v0: number, v1: number): Patch {
  const [hu, hv] = [u1 - u0, v1 - v0]
  return interpolated(part(s.u, u0, u1), part(s.v, v0, v1), (a, b) =>
    placesOver(
      s,
      Array.from(a, (x) => u0 + x * hu),
      Array.from(b, (x) => v0 + x * hv),
    ),
  )
}

/** What a basis is between two parameters, from 0 to 1. */
function part({ degree, knots }: Basis, from: number, to: number): Basis {
  const inner = Array.from(knots).filter((k) => k > from + 1e-9 && k < to - 1e-9)
  const ends = (x: number) => Array<number>(degree + 1).fill(x)
  const at = inner.map((k) => (k - from) / (to - from))
  return { degree, knots: Float64Array.from([...ends(0), ...at, ...ends(1)]) }
}
