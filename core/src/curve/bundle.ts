import type { P2 } from '../math'
import { boundsOf } from './curve'
import { searchLine } from './flatten'
import { chordFoot, type Nearest, nearest } from './nearest'
import type { Curve } from './types'

/** The nearest place on a bundle of curves: which curve, and where on it. */
export interface BundleHit extends Nearest {
  index: number
}

/** Boxes at most in a leaf. */
const LEAF = 3

/**
 * Curves sorted into a tree of boxes, so that the nearest of many is found without asking each. Lines and
 * arcs are leaves; of a spline every chord of its search polyline is one.
 */
export class Bundle {
  readonly curves: readonly Curve[]
  /** Per leaf item: curve, and the chord's number on its search polyline, or -1 for a whole curve. */
  readonly #curve: Int32Array
  readonly #chord: Int32Array
  /** Boxes of items in leaf order, then of nodes: min x, min y, max x, max y. */
  readonly #items: Float64Array
  readonly #nodes: number[] = []
  /** Per node: first item and count for a leaf (count > 0), else the two children. */
  readonly #kids: number[] = []

  constructor(curves: readonly Curve[]) {
    this.curves = curves
    const curve: number[] = []
    const chord: number[] = []
    const boxes: number[] = []
    for (const [i, c] of curves.entries()) {
      if (c.kind !== 'spline') {
        const { min, max } = boundsOf(c)
        curve.push(i)
        chord.push(-1)
        boxes.push(min[0], min[1], max[0], max[1])
        continue
      }
      const { t, x, y, chord: off } = searchLine(c)
      for (let k = 0; k + 1 < t.length; k++) {
        curve.push(i)
        chord.push(k)
        boxes.push(
          Math.min(x[k]!, x[k + 1]!) - off,
          Math.min(y[k]!, y[k + 1]!) - off,
          Math.max(x[k]!, x[k + 1]!) + off,
          Math.max(y[k]!, y[k + 1]!) + off,
        )
      }
    }
    const order = Int32Array.from(curve, (_, i) => i)
    if (order.length > 0) this.#build(order, boxes, 0, order.length)
    this.#curve = order.map((i) => curve[i]!)
    this.#chord = order.map((i) => chord[i]!)
    this.#items = new Float64Array(4 * order.length)
    for (const [at, i] of order.entries())
      for (let k = 0; k < 4; k++) this.#items[4 * at + k] = boxes[4 * i + k]!
  }

  /** Builds the node over order[from, to) and gives its number. */
  #build(order: Int32Array, boxes: readonly number[], from: number, to: number): number {
    const node = this.#kids.length / 2
    let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
    for (let i = from; i < to; i++) {
      const b = 4 * order[i]!
      x0 = Math.min(x0, boxes[b]!)
      y0 = Math.min(y0, boxes[b + 1]!)
      x1 = Math.max(x1, boxes[b + 2]!)
      y1 = Math.max(y1, boxes[b + 3]!)
    }
    this.#nodes.push(x0, y0, x1, y1)
    this.#kids.push(from, to - from)
    if (to - from <= LEAF) return node
    const wide = x1 - x0 > y1 - y0 ? 0 : 1
    const middle = (i: number) => boxes[4 * i + wide]! + boxes[4 * i + wide + 2]!
    order.subarray(from, to).sort((a, b) => middle(a) - middle(b))
    const half = (from + to) >> 1
    const first = this.#build(order, boxes, from, half)
    const second = this.#build(order, boxes, half, to)
    this.#kids[2 * node] = first
    this.#kids[2 * node + 1] = -second
    return node
  }

  /** The nearest place to (x, y) nearer than `within` mm; null where there is none. */
  nearest(x: number, y: number, within = Number.POSITIVE_INFINITY): BundleHit | null {
    if (this.#kids.length === 0) return null
    const p: P2 = [x, y]
    let best: BundleHit | null = null
    let most = within
    const visit = (node: number) => {
      const first = this.#kids[2 * node]!
      const second = this.#kids[2 * node + 1]!
      if (second < 0) {
        const [da, db] = [boxGap(this.#nodes, first, x, y), boxGap(this.#nodes, -second, x, y)]
        const [near, far, dNear, dFar] =
          da <= db ? [first, -second, da, db] : [-second, first, db, da]
        if (dNear < most) visit(near)
        if (dFar < most) visit(far)
        return
      }
      for (let i = first; i < first + second; i++) {
        if (boxGap(this.#items, i, x, y) >= most) continue
        const index = this.#curve[i]!
        const c = this.curves[index]!
        const hit = this.#chord[i]! < 0 ? nearest(c, p) : chordFoot(c, p, this.#chord[i]!, most)
        if (hit && hit.d < most) {
          most = hit.d
          best = { ...hit, index }
        }
      }
    }
    visit(0)
    return best
  }
}

/** Distance from (x, y) to box number i. */
function boxGap(boxes: ArrayLike<number>, i: number, x: number, y: number): number {
  const b = 4 * i
  const dx = Math.max(boxes[b]! - x, 0, x - boxes[b + 2]!)
  const dy = Math.max(boxes[b + 1]! - y, 0, y - boxes[b + 3]!)
  return dx === 0 ? dy : dy === 0 ? dx : Math.sqrt(dx * dx + dy * dy)
}
