import { cross3, dot3, norm3, type P3 } from '../../math'
import { basisOf, creasesIn } from '../basis'
import { normalOn } from '../offset'
import { areaVector, evaluate, jet, type Patch } from '../patch'

/** Places looked at along u and v of each patch. */
const [NU, NV] = [24, 32]
/** Sine between the lines of a patch under which it is as good as folded. */
const FLAT = 1e-3
/** Cosine of the least angle between two sides of a crease: nearer, they lie on each other. */
const BACK = Math.cos(0.17)
/** Share of its neighbours' area under which a slice is a waist that a twist makes. */
const WAIST = 0.5

/** Where a skin folds over or is drawn in by a twist. */
export interface Fold {
  code: 'fold' | 'twist'
  at: P3
  /** Of a twist: the share of area that is left. */
  left?: number
}

/** The first fold of a patch: where its normal turns over from one place to the next, or its lines run along each other. */
export function foldIn(s: Patch): Fold | null {
  const j = jet()
  const p = (a: Float64Array): P3 => [a[0]!, a[1]!, a[2]!]
  // The steps that lead over a crease.
  const [us, vs] = [
    new Set(creasesIn(s.u).map((t) => Math.ceil(t * NU))),
    new Set(creasesIn(s.v).map((t) => Math.ceil(t * NV))),
  ]
  const row: (P3 | null)[] = []
  let before: (P3 | null)[] = []
  for (let b = 1; b < NV; b++) {
    row.length = 0
    for (let a = 0; a <= NU; a++) {
      evaluate(s, a / NU, b / NV, 1, j)
      const [u, v] = [p(j.u), p(j.v)]
      const n = cross3(u, v)
      const [along, across] = [norm3(u), norm3(v)]
      // Where all sections share an end there is nothing to fold.
      if (across <= 1e-9 * along || along <= 1e-9 * across) {
        row.push(null)
        continue
      }
      if (norm3(n) < FLAT * along * across) return { code: 'fold', at: p(j.p) }
      const at = p(j.p)
      const [x, y] = [a / NU, b / NV]
      if (
        turned(s, row[a - 1], n, [x - 1 / NU, y, x, y], us.has(a)) ||
        turned(s, before[a], n, [x, y - 1 / NV, x, y], vs.has(b))
      )
        return { code: 'fold', at }
      row.push(n)
    }
    before = [...row]
  }
  return null
}

/** Whether a normal has turned over on a step: over a crease that is meant it may turn as far as the skin does not run back along itself. */
function turned(
  s: Patch,
  from: P3 | null | undefined,
  n: P3,
  step: readonly [number, number, number, number],
  creased: boolean,
): boolean {
  if (!from || dot3(from, n) >= 0) return false
  return creased ? dot3(from, n) < -BACK * norm3(from) * norm3(n) : turnsOver(s, ...step)
}

/** Parts a step is looked at in, where the normal turns by more than a right angle on it, and how often. */
const [PARTS, ROUNDS] = [8, 4]

/** Whether the normal turns over at one place between two, and not by a tight bend. */
function turnsOver(
  s: Patch,
  u0: number,
  v0: number,
  u1: number,
  v1: number,
  rounds = ROUNDS,
): boolean {
  if (rounds === 0) return true
  const at = (k: number): [number, number] => {
    const f = k / PARTS
    return [u0 + f * (u1 - u0), v0 + f * (v1 - v0)]
  }
  let before: P3 | null = null
  for (let k = 0; k <= PARTS; k++) {
    const n = normalOn(s, ...at(k))
    if (before && dot3(before, n) < 0 && turnsOver(s, ...at(k - 1), ...at(k), rounds - 1))
      return true
    before = n
  }
  return false
}

/** Where closed slices between two sections are drawn in: the sections are turned against each other. */
export function twistIn(patches: readonly Patch[], params: readonly number[]): Fold | null {
  const j = jet()
  const slice = (v: number): { area: number; middle: P3 } => {
    const spots: P3[] = []
    for (const s of patches)
      for (let a = 0; a < NU; a++) {
        evaluate(s, a / NU, v, 0, j)
        spots.push([j.p[0]!, j.p[1]!, j.p[2]!])
      }
    const sides = spots.map((a, i) => ({ basis: LINE, poles: [a, spots[(i + 1) % spots.length]!] }))
    const sum = spots.reduce((m, q) => [m[0] + q[0], m[1] + q[1], m[2] + q[2]] as const, [
      0, 0, 0,
    ] as P3)
    const n = spots.length
    return { area: norm3(areaVector(sides)), middle: [sum[0] / n, sum[1] / n, sum[2] / n] }
  }
  for (let i = 1; i < params.length; i++) {
    const [a, b] = [slice(params[i - 1]!).area, slice(params[i]!).area]
    for (const f of [0.25, 0.5, 0.75]) {
      const now = slice(params[i - 1]! + f * (params[i]! - params[i - 1]!))
      const least = Math.min(a, b)
      if (now.area < WAIST * least) return { code: 'twist', at: now.middle, left: now.area / least }
    }
  }
  return null
}
const LINE = basisOf(1)
