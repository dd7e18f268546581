import type { P2 } from '../../math'

/** Distance between hatch lines, mm on paper. */
const STEP = 2.2

/** Lines at 45 deg (or across that) over what loops enclose, even and odd. */
export function hatch(loops: readonly P2[][], across: boolean): P2[][] {
  // Turned by 45 deg so that the lines lie level: v counts the lines, u runs along them.
  const s = Math.SQRT1_2
  const way = across ? -1 : 1
  const to = ([x, y]: P2): P2 => [s * (x + way * y), s * (y - way * x)]
  const back = ([u, v]: P2): P2 => [s * (u - way * v), s * (v + way * u)]
  const turned = loops.map((l) => l.map(to))
  const vs = turned.flat().map((p) => p[1])
  if (vs.length === 0) return []
  const [low, high] = [Math.min(...vs), Math.max(...vs)]
  const out: P2[][] = []
  for (let v = (Math.floor(low / STEP) + 0.5) * STEP; v < high; v += STEP) {
    const cuts: number[] = []
    for (const loop of turned)
      for (const [i, a] of loop.entries()) {
        const b = loop[(i + 1) % loop.length]!
        if (a[1] <= v === b[1] <= v) continue
        cuts.push(a[0] + ((v - a[1]) / (b[1] - a[1])) * (b[0] - a[0]))
      }
    cuts.sort((a, b) => a - b)
    for (let i = 0; i + 1 < cuts.length; i += 2)
      out.push([back([cuts[i]!, v]), back([cuts[i + 1]!, v])])
  }
  return out
}
