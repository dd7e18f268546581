import { norm3, type P3, placeAt, scale3, sub3 } from '../../math'
import { Interpolation } from '../band'
import { type Basis, basisOf, breaksOf, countOf, greville, halved } from '../basis'
import { at3, bend3, type Curve3 } from '../curve3'
import { halvesOf, type Looked, probesIn } from '../fit'
import { functionsAlong } from '../grid'
import type { Patch } from '../patch'
import { AcrossSections, ringSlope } from './across'
import { BEND, fieldOn, heldOver, SLOPE } from './held'
import { type Matched, sideSpan } from './match'

/** What is matched across the sections between two places of each. */
export interface Side {
  /** Of each section, the place at u from 0 to 1 along the side. */
  place: ((u: number) => P3)[]
  /** Derivatives by u at both ends, first and second. */
  ends: { first: [P3, P3]; last: [P3, P3] }[]
  /** Where pieces join on it, in u, all sections together. */
  joints: number[]
  names: string[]
}

/** A section that is one place: where a loft runs to a point. */
export interface Tip {
  tip: P3
}
export type Section = Matched | Tip
export const isTip = (s: Section): s is Tip => 'tip' in s

/** How near sections are met where nothing else is told, mm. */
export const MET = 1e-5
/** Degree along the sections. */
const DEGREE = 5
/** Joints nearer than this in u are one. */
const SAME = 1e-4

/** The sides of matched sections: as many as places are matched, less one for open ones. */
export function sidesOf(sections: readonly Section[]): Side[] {
  const real = sections.filter((s): s is Matched => !isTip(s))
  const closed = real[0]!.ring.closed
  const n = real[0]!.breaks.length - (closed ? 0 : 1)
  return Array.from({ length: n }, (_, j) => {
    const joints = new Set<number>()
    const names: string[] = []
    const of = (s: Section) => {
      if (isTip(s)) return { place: () => s.tip, end: { first: [O, O], last: [O, O] } as const }
      const [from, to] = sideSpan(s, j)
      const { way, curves } = s.ring
      for (const start of way.starts)
        for (const at of [start, start + 1]) {
          const u = (at - from) / (to - from)
          if (u > SAME && u < 1 - SAME && ![...joints].some((x) => Math.abs(x - u) < SAME))
            joints.add(u)
        }
      const place = (u: number) => {
        const at = from + u * (to - from)
        return way.place(at > 1 + 1e-12 ? at - 1 : at)
      }
      const length = (to - from) * way.length
      return { place, end: endsOf(curves, way.at.bind(way), from, to, length) }
    }
    const made = sections.map(of)
    const [from, to] = sideSpan(real[0]!, j)
    const starts = real[0]!.ring.way.starts
    for (const [i, name] of real[0]!.ring.names.entries()) {
      const within = [0, 1].some(
        (turn) => starts[i]! + turn < to - SAME && starts[i + 1]! + turn > from + SAME,
      )
      if (within && !names.includes(name)) names.push(name)
    }
    return {
      place: made.map((m) => m.place),
      ends: made.map((m) => m.end as Side['ends'][number]),
      joints: [...joints].sort((a, b) => a - b),
      names,
    }
  })
}

const O: P3 = [0, 0, 0]

/** Derivatives of a side by u where it begins and ends, on the pieces that lie on it. */
function endsOf(
  curves: readonly Curve3[],
  at: (share: number) => { curve: number; t: number },
  from: number,
  to: number,
  length: number,
): Side['ends'][number] {
  const inside = 1e-9
  const read = (share: number, begins: boolean): [P3, P3] => {
    const { curve, t } = at(((share % 1) + 1) % 1)
    const c = curves[curve]!
    // A share within rounding of a joint is read on the side it belongs to.
    const end = begins ? (t > 1 - 1e-7 ? 0 : t) : t < 1e-7 ? 1 : t
    const on = begins
      ? t > 1 - 1e-7
        ? curves[(curve + 1) % curves.length]!
        : c
      : t < 1e-7
        ? curves[(curve + curves.length - 1) % curves.length]!
        : c
    const { d1 } = at3(on, end)
    return [scale3(d1, length / (norm3(d1) || 1)), scale3(bend3(on, end), length * length)]
  }
  return { first: read(from + inside, true), last: read(to - inside, false) }
}

/** How the poles of a side follow from values at places, and derivatives at both ends. */
class AlongSide {
  readonly basis: Basis
  readonly #system: Interpolation
  readonly #at: number[]

  constructor(basis: Basis) {
    this.basis = basis
    const g = greville(basis)
    const n = g.length
    this.#at = [0, 0, 0, ...g.slice(3, n - 3), 1, 1, 1]
    const orders = [0, 1, 2, ...Array<number>(n - 6).fill(0), 2, 1, 0]
    this.#system = new Interpolation(basis, this.#at, orders)
  }

  poles(place: (u: number) => P3, { first, last }: Side['ends'][number]): P3[] {
    const n = this.#at.length
    const x = new Float64Array(3 * n)
    for (const [i, u] of this.#at.entries()) x.set(place(u), 3 * i)
    x.set(first[0], 3)
    x.set(first[1], 6)
    x.set(last[1], 3 * (n - 3))
    x.set(last[0], 3 * (n - 2))
    this.#system.solve(x)
    return Array.from({ length: n }, (_, i) => placeAt(x, i))
  }
}

/**
 * Poles along u of all sections of a side over one basis, each section met within `met` mm. While spans are halved
 * only these are looked at again; in the end all are.
 */
export function sidePoles(side: Side, met = MET): { basis: Basis; rows: P3[][]; off: number } {
  const times = DEGREE - 1
  let basis = basisOf(
    DEGREE,
    side.joints.map((at) => ({ at, times })),
  )
  if (breaksOf(basis).length < 3) basis = halved(basis, new Set([0]))
  let looked: Looked = null
  let [rows, round] = [rowsOver(side, basis), 0]
  for (;;) {
    const { at: us, span } = probesIn(basis, looked)
    const worse = new Set<number>()
    let off = 0
    const { first, values, w } = functionsAlong(basis, us)
    for (const [i, row] of rows.entries())
      for (const [k, u] of us.entries()) {
        let [x, y, z] = [0, 0, 0]
        for (let j = 0; j < w; j++) {
          const [f, pole] = [values[k * w + j]!, row[first[k]! + j]!]
          x += f * pole[0]
          y += f * pole[1]
          z += f * pole[2]
        }
        const d = norm3(sub3([x, y, z], side.place[i]!(u)))
        off = Math.max(off, d)
        if (d > met) worse.add(span[k]!)
      }
    const done = worse.size === 0 || round === 8
    if (done && looked === null) return { basis, rows, off }
    looked = done ? null : halvesOf(worse)
    if (done) continue
    basis = halved(basis, worse)
    rows = rowsOver(side, basis)
    round++
  }
}

/** Poles of each section of a side over a basis. */
function rowsOver(side: Side, basis: Basis): P3[][] {
  const along = new AlongSide(basis)
  return side.place.map((p, i) => along.poles(p, side.ends[i]!))
}

/** What holds a loft's end: nothing, or how the skin runs there by v at a place of a side. */
export type EndHold = null | {
  /** Its derivative, mm a unit of v. */
  slope(u: number, side: number): P3
  /** Its second derivative, where that is held too. */
  bend?(u: number, side: number): P3
}

/** How the skin runs from section to section. */
export interface Running {
  /** Straight from each to the next. */
  ruled: boolean
  /** On from the last to the first. */
  ring: boolean
  first: EndHold
  last: EndHold
  /** How near sections are met, mm. */
  met?: number
}

/** How far sections that follow each other are apart on the whole, mm; of a ring, the last and the first too. */
export function sectionSteps(sides: readonly Side[], ring: boolean): number[] {
  const n = sides[0]!.place.length
  return Array.from({ length: ring ? n : n - 1 }, (_, i) => {
    let sum = 0
    for (const side of sides)
      for (let k = 0; k < 8; k++) {
        const u = (k + 0.5) / 8
        sum += norm3(sub3(side.place[(i + 1) % n]!(u), side.place[i]!(u)))
      }
    return sum / (8 * sides.length)
  })
}

/** Parameters of the sections from 0 to 1, by those steps. */
function sectionParams(steps: readonly number[]): number[] {
  const whole = steps.reduce((a, b) => a + b, 0)
  const out = [0]
  for (const s of steps) out.push(out[out.length - 1]! + s / whole)
  out[out.length - 1] = 1
  return out
}

/** The skin through the sections, a patch a side. */
export function skinned(
  sides: readonly Side[],
  { ruled, ring, first, last, met }: Running,
): { patches: Patch[]; params: number[]; off: number } {
  const params = sectionParams(sectionSteps(sides, ring))
  let off = 0
  const patches = sides.map((side, s) => {
    const plain = sidePoles(side, met)
    off = Math.max(off, plain.off)
    const fields = (hold: EndHold) =>
      ring || !hold
        ? []
        : [
            fieldOn(side.joints, (u) => hold.slope(u, s), SLOPE),
            ...(hold.bend ? [fieldOn(side.joints, (u) => hold.bend!(u, s), BEND)] : []),
          ]
    const [begins, ends] = [fields(first), fields(last)]
    const { basis, poles: held } = heldOver(plain.basis, [...begins, ...ends])
    const metRows = basis === plain.basis ? plain.rows : rowsOver(side, basis)
    const rows = ring ? [...metRows, metRows[0]!] : metRows
    const nu = countOf(basis)
    const across = new AcrossSections(
      params,
      ruled,
      ring ? 1 : begins.length,
      ring ? 1 : ends.length,
    )
    const nv = countOf(across.basis)
    const poles = new Float64Array(3 * nu * nv)
    const [d0, d1] = [held.slice(0, begins.length), held.slice(begins.length)]
    for (let i = 0; i < nu; i++) {
      const column = rows.map((r) => r[i]!)
      const slope = ring ? [ringSlope(column, params)] : null
      const at = (d: Float64Array[]) => d.map((x) => placeAt(x, i))
      const made = across.poles(column, slope ?? at(d0), slope ?? at(d1))
      for (let j = 0; j < nv; j++) poles.set(made[j]!, 3 * (i * nv + j))
    }
    return { u: basis, v: across.basis, poles }
  })
  return { patches, params, off }
}
