import type { Table } from '../limit/table'
import { beside, endsOf } from './blocks'

/** Three args of a blossom each along x and y, in cells from a piece's low corner. */
export type Args = readonly [number, number, number]

const [wx, wy] = [new Float64Array(4), new Float64Array(4)]

/**
 * What the four places of a uniform cubic piece over [0, 1] count at a blossom: place k belongs to the knots (k - 2, k - 1, k).
 * Ramshaw, Blossoms are polar forms (1989).
 */
function weights([a, b, c]: Args, w: Float64Array): void {
  const [p0, p1] = [(1 - a) / 3, (a + 2) / 3]
  const [q1, q2] = [(2 - a) / 3, (a + 1) / 3]
  const [r2, r3] = [(3 - a) / 3, a / 3]
  const [low, up] = [(1 - b) / 2, (b + 1) / 2]
  const [low2, up2] = [(2 - b) / 2, b / 2]
  w[0] = (1 - c) * low * p0
  w[1] = (1 - c) * (low * p1 + up * q1) + c * low2 * q1
  w[2] = (1 - c) * up * q2 + c * (low2 * q2 + up2 * r2)
  w[3] = c * up2 * r3
}

/** The 16 places about a quad, 3 (4 j + i) along its x and y: what they are past something sharp goes straight on. */
export type Net = Float64Array

/** The net about the quad that begins at corner c, x along its edge. The quad has to be regular. */
export function netOf(t: Table, at: Float64Array, c: number): Net {
  const net = new Float64Array(48)
  const set = (i: number, j: number, p: number) => {
    for (let d = 0; d < 3; d++) net[3 * (4 * j + i) + d] = at[3 * p + d]!
  }
  /** (i, j) as far beyond (k, l) as that is from (m, n). */
  const beyond = (i: number, j: number, k: number, l: number, m: number, n: number) => {
    for (let d = 0; d < 3; d++)
      net[3 * (4 * j + i) + d] = 2 * net[3 * (4 * l + k) + d]! - net[3 * (4 * n + m) + d]!
  }
  const [low, high] = [endsOf(t, c, 3), endsOf(t, c, 1)]
  set(1, 1, low[0])
  set(2, 1, low[1])
  set(1, 2, high[0])
  set(2, 2, high[1])
  const sides = ([0, 1, 2, 3] as const).map((way) => beside(t, c, way))
  for (const way of [0, 2] as const) {
    const [i, from, back] = way === 0 ? [3, 2, 1] : [0, 1, 2]
    const ends = sides[way]! === -1 ? null : endsOf(t, sides[way]!, way)
    for (const j of [1, 2]) ends ? set(i, j, ends[j - 1]!) : beyond(i, j, from, j, back, j)
  }
  for (const way of [1, 3] as const) {
    const [j, from, back] = way === 1 ? [3, 2, 1] : [0, 1, 2]
    const ends = sides[way]! === -1 ? null : endsOf(t, sides[way]!, way)
    for (const i of [1, 2]) ends ? set(i, j, ends[i - 1]!) : beyond(i, j, i, from, i, back)
  }
  for (const x of [0, 2] as const)
    for (const y of [1, 3] as const) {
      const [i, j] = [x === 0 ? 3 : 0, y === 1 ? 3 : 0]
      const [fromI, backI] = x === 0 ? [2, 1] : [1, 2]
      const [fromJ, backJ] = y === 1 ? [2, 1] : [1, 2]
      if (sides[y]! === -1) beyond(i, j, i, fromJ, i, backJ)
      else if (sides[x]! === -1) beyond(i, j, fromI, j, backI, j)
      else {
        const over = beside(t, sides[x]!, y)
        if (over === -1) throw new Error('a net about a star')
        set(i, j, endsOf(t, over, x)[y === 1 ? 1 : 0])
      }
    }
  return net
}

/** The blossom of a net's bicubic piece, put at 3 `to` of `out`. */
export function blossom(net: Net, x: Args, y: Args, out: Float64Array, to: number): void {
  weights(x, wx)
  weights(y, wy)
  for (let d = 0; d < 3; d++) {
    let sum = 0
    for (let j = 0; j < 4; j++)
      for (let i = 0; i < 4; i++) sum += wx[i]! * wy[j]! * net[3 * (4 * j + i) + d]!
    out[3 * to + d] = sum
  }
}
