import { edgeKey, facesAtEdges } from '@ivory/core/cage'
import type { ShownCage } from '@ivory/core/ops'

/** What is picked and what is beside it: points by edges, faces by their sides; edges go on along their lines to the end. */
export function morePicked(cage: ShownCage, picks: readonly string[]): string[] {
  const points = new Map(cage.points.map((name, p) => [name, p]))
  const faces = new Map(cage.faces.map((f, i) => [f.name, i]))
  const at = facesAtEdges(cage.faces)
  const out = new Set(picks)
  const name = (p: number) => cage.points[p]!
  for (const word of picks) {
    const p = points.get(word)
    const f = faces.get(word)
    if (p !== undefined) {
      for (const key of at.keys()) {
        const ends = key.split(' ').map(Number)
        if (ends.includes(p)) for (const q of ends) out.add(name(q))
      }
    } else if (f !== undefined) {
      const { corners } = cage.faces[f]!
      for (const [i, a] of corners.entries())
        for (const g of at.get(edgeKey(a, corners[(i + 1) % corners.length]!)) ?? [])
          out.add(cage.faces[g]!.name)
    }
  }
  const edges = [...at.keys()].map((key) => key.split(' ').map(Number) as [number, number])
  const known = new Map(
    edges.flatMap(([a, b]) => [
      [`${name(a)}~${name(b)}`, [a, b] as const],
      [`${name(b)}~${name(a)}`, [a, b] as const],
    ]),
  )
  const taken = new Set(picks.flatMap((w) => (known.has(w) ? [edgeKey(...known.get(w)!)] : [])))
  for (const word of picks) {
    const edge = known.get(word)
    if (!edge) continue
    for (const start of [edge, [edge[1], edge[0]] as const]) {
      let [from, to]: readonly [number, number] = start
      for (;;) {
        const next = onFrom(cage, at, edges, from, to)
        if (next === null || taken.has(edgeKey(to, next))) break
        taken.add(edgeKey(to, next))
        out.add(`${name(to)}~${name(next)}`)
        ;[from, to] = [to, next]
      }
    }
  }
  return [...out]
}

/**
 * Where a line goes on from the edge (from, to): over from it where four edges meet; where three meet along the border it runs on, or
 * round the large face beside it. Null where it ends.
 */
function onFrom(
  cage: ShownCage,
  at: ReadonlyMap<string, readonly number[]>,
  edges: readonly (readonly [number, number])[],
  from: number,
  to: number,
): number | null {
  const others = edges.flatMap(([a, b]) => (a === to ? [b] : b === to ? [a] : []))
  const facesAt = (p: number) => at.get(edgeKey(to, p)) ?? []
  const beside = facesAt(from)
  const on = others.filter((p) => {
    if (p === from) return false
    const shared = facesAt(p).filter((f) => beside.includes(f))
    if (others.length === 4) return shared.length === 0
    if (others.length !== 3) return false
    const border = beside.length === 1 && facesAt(p).length === 1
    return border || shared.some((f) => cage.faces[f]!.corners.length > 4)
  })
  return on.length === 1 ? on[0]! : null
}
