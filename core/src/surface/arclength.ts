import { gaussRule, hermite, type P3 } from '../math'
import { breaksOf } from './basis'
import { type Curve3, length3, place3, speed3 } from './curve3'

/** Cells a span of a spline is parted into for looking up lengths. */
const CELLS = 8
const RULE = gaussRule(4)
/** How near a place is found to a share of the length, as a share of it. */
const NEAR = 1e-9

/** A stretch of a curve: length before it and of it, mm, its parameters and how fast it runs at both ends. */
interface Cell {
  s: number
  l: number
  curve: number
  from: number
  to: number
  first: number
  last: number
  /** How far the guessed parameter is off in its middle, where it is off most, mm. */
  rough: number
}

/** The parameter at a share of a cell's length, by the cubic that has its slopes at both ends. */
function guess({ l, from, to, first, last }: Cell, share: number): number {
  const linear = from + share * (to - from)
  if (!(first > 0 && last > 0)) return linear
  const t = hermite(share, l, from, to, 1 / first, 1 / last)
  return t >= from && t <= to ? t : linear
}

/** Curves that follow each other as one way, looked up by the share of its length. */
export class Way {
  readonly length: number
  readonly #curves: readonly Curve3[]
  /** Length from the start of the way to each cell, the curve it is on and its parameters. */
  readonly #cells: Cell[] = []
  #spots = new Float64Array(0)

  constructor(curves: readonly Curve3[]) {
    this.#curves = curves
    let s = 0
    for (const [i, c] of curves.entries()) {
      const breaks = c.kind === 'spline' ? breaksOf(c.basis) : [0, 1]
      const per = c.kind === 'spline' ? CELLS : 1
      for (let k = 1; k < breaks.length; k++)
        for (let j = 0; j < per; j++) {
          const h = (breaks[k]! - breaks[k - 1]!) / per
          const from = breaks[k - 1]! + j * h
          const l = c.kind === 'spline' ? lengthIn(c, from, from + h) : length3(c)
          const [first, last] = [speed3(c, from), speed3(c, from + h)]
          const cell = { s, l, curve: i, from, to: from + h, first, last, rough: 0 }
          if (c.kind === 'spline')
            cell.rough = Math.abs(lengthIn(c, from, guess(cell, 0.5)) - l / 2)
          this.#cells.push(cell)
          s += l
        }
    }
    this.length = s
  }

  /** The curve and its parameter at a share of the whole length. */
  at(share: number): { curve: number; t: number } {
    const s = Math.min(this.length, Math.max(0, share * this.length))
    let [lo, hi] = [0, this.#cells.length - 1]
    while (lo < hi) {
      const mid = (lo + hi + 1) >> 1
      if (this.#cells[mid]!.s <= s) lo = mid
      else hi = mid - 1
    }
    const cell = this.#cells[lo]!
    const c = this.#curves[cell.curve]!
    const within = (s - cell.s) / (cell.l || 1)
    let t = cell.from + within * (cell.to - cell.from)
    if (c.kind !== 'spline') return { curve: cell.curve, t }
    t = guess(cell, within)
    if (cell.rough < NEAR * this.length) return { curve: cell.curve, t }
    for (let i = 0; i < 4; i++) {
      const off = cell.s + lengthIn(c, cell.from, t) - s
      const speed = speed3(c, t)
      if (!(speed > 0) || Math.abs(off) < NEAR * this.length) break
      t = Math.min(cell.to, Math.max(cell.from, t - off / speed))
    }
    return { curve: cell.curve, t }
  }

  place(share: number): P3 {
    const { curve, t } = this.at(share)
    return place3(this.#curves[curve]!, t)
  }

  /** Places at even shares of its length, from its start to its end, three numbers each; kept. */
  spots(count: number): Float64Array {
    if (this.#spots.length === 3 * (count + 1)) return this.#spots
    this.#spots = new Float64Array(3 * (count + 1))
    for (let i = 0; i <= count; i++) this.#spots.set(this.place(i / count), 3 * i)
    return this.#spots
  }

  /** The share at which each of its curves begins, and 1. */
  get starts(): number[] {
    const out: number[] = []
    for (const c of this.#cells) if (out.length <= c.curve) out.push(c.s / this.length)
    return [...out, 1]
  }
}

function lengthIn(c: Curve3, from: number, to: number): number {
  let sum = 0
  for (const [k, x] of RULE.nodes.entries())
    sum += RULE.weights[k]! * (to - from) * speed3(c, from + x * (to - from))
  return sum
}
