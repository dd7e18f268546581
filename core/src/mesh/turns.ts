import type { TriMesh } from './types'

/** Heights at which something may turn that are told at most: more of them lie together. */
const MOST = 160
/** Heights nearer to each other than this share of all lie together. */
const SAME = 1e-6

/**
 * Heights (from, to) at which what a closed mesh cuts out of level planes may part, meet, begin or end: those of its critical
 * vertices, about which heights go up and down other than once (Banchoff 1967; from memory). Rising; the lowest and highest of all
 * are the first and last. Those that lie together are one.
 */
export function turnsOf({ positions: p, triangles: t }: TriMesh): [number, number][] {
  const n = p.length / 3
  const z = (v: number) => p[3 * v + 2]!
  // Of equal heights the one that comes later counts as higher.
  const above = (a: number, b: number) => z(a) > z(b) || (z(a) === z(b) && a > b)
  // Round a vertex the far side of each triangle goes from above to below it or back: so often the ring changes sides.
  const changes = new Uint16Array(n)
  for (let i = 0; i < t.length; i += 3)
    for (let k = 0; k < 3; k++) {
      const [v, a, b] = [t[i + k]!, t[i + ((k + 1) % 3)]!, t[i + ((k + 2) % 3)]!]
      if (above(a, v) !== above(b, v)) changes[v]!++
    }
  const heights: number[] = []
  for (let v = 0; v < n; v++) if (changes[v] !== 2) heights.push(z(v))
  heights.sort((a, b) => a - b)
  const all = heights[heights.length - 1]! - heights[0]!
  for (let near = SAME * all; ; near *= 4) {
    const out = together(heights, near)
    if (out.length <= MOST) return out
  }
}

function together(heights: readonly number[], near: number): [number, number][] {
  const out: [number, number][] = []
  for (const h of heights) {
    const last = out[out.length - 1]
    if (last && h - last[1] <= near) last[1] = h
    else out.push([h, h])
  }
  return out
}
