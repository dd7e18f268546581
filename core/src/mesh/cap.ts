import earcut from 'earcut'
import { type Frame, type P2, toSpace } from '../math'

/** Twice the signed area of a closed polyline. */
const turned = (loop: readonly P2[]): number =>
  loop.reduce((sum, p, i) => {
    const q = loop[(i + 1) % loop.length]!
    return sum + p[0] * q[1] - p[1] * q[0]
  }, 0)

export function inside(p: P2, loop: readonly P2[]): boolean {
  let odd = false
  for (const [i, a] of loop.entries()) {
    const b = loop[(i + 1) % loop.length]!
    if (a[1] > p[1] === b[1] > p[1]) continue
    if (a[0] + ((p[1] - a[1]) / (b[1] - a[1])) * (b[0] - a[0]) > p[0]) odd = !odd
  }
  return odd
}

/** Triangles that fill a simple loop, as places in it, three numbers each. */
export const filledLoop = (loop: readonly P2[]): number[] => earcut(loop.flat())

/** The area between the loops of a slice as triangles in space, nine numbers each: what closes a body cut there. */
export function capOf(loops: readonly P2[][], plane: Frame): Float32Array {
  const closed = loops.filter((l) => l.length > 2)
  const out: number[] = []
  for (const outer of closed) {
    if (turned(outer) <= 0) continue
    const holes = closed.filter((l) => turned(l) < 0 && nearestAround(l[0]!, closed) === outer)
    const points = [outer, ...holes].flat()
    const starts: number[] = []
    let at = outer.length
    for (const h of holes) {
      starts.push(at)
      at += h.length
    }
    for (const i of earcut(points.flat(), starts)) out.push(...toSpace(plane, ...points[i]!))
  }
  return Float32Array.from(out)
}

/** The smallest outer loop a place lies in. */
function nearestAround(p: P2, loops: readonly P2[][]): P2[] | null {
  let best: P2[] | null = null
  for (const l of loops)
    if (turned(l) > 0 && inside(p, l) && (!best || turned(l) < turned(best))) best = l
  return best
}
