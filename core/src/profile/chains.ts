import { endOf, reverse, startOf } from '../curve'
import { dist, type P2 } from '../math'
import type { Seg } from './arrangement'

/** Ends this near are one, mm. */
const JOINED = 1e-4

/**
 * Drawn curves that end somewhere, as chains of pieces that follow each other; where three or more meet each
 * goes on by itself. Closed outlines are left out.
 */
export function openChains(segs: readonly Seg[]): Seg[][] {
  const nodes: P2[] = []
  const nodeAt = (p: P2): number => {
    const known = nodes.findIndex((q) => dist(p, q) <= JOINED)
    return known >= 0 ? known : nodes.push(p) - 1
  }
  const ends = segs.map((s) => [nodeAt(startOf(s.curve)), nodeAt(endOf(s.curve))] as const)
  const at = nodes.map((_, n) => ends.flatMap(([a, b], i) => (a === n || b === n ? [i] : [])))
  const degree = nodes.map((_, n) =>
    ends.reduce((sum, [a, b]) => sum + Number(a === n) + Number(b === n), 0),
  )
  const used = new Set<number>()
  const chains: Seg[][] = []
  for (const [start] of nodes.entries()) {
    if (degree[start] === 2) continue
    for (const first of at[start]!) {
      const chain: Seg[] = []
      let [node, piece] = [start, first as number | undefined]
      while (piece !== undefined && !used.has(piece)) {
        used.add(piece)
        const [a, b]: readonly [number, number] = ends[piece]!
        const s = segs[piece]!
        chain.push(a === node ? s : { ...s, curve: reverse(s.curve) })
        node = a === node ? b : a
        piece = degree[node] === 2 ? at[node]!.find((k) => !used.has(k)) : undefined
      }
      if (chain.length > 0) chains.push(chain)
    }
  }
  return chains
}
