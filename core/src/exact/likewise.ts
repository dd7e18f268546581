import type { ExactPart } from './part'
import { realEdges } from './references'

/** Words that only say which of several copies a face belongs to. */
const COPY = /[\w-]+:(?:copy\d+|mirror)\(/

/**
 * A face's name without what says which copy it is of: `o5:copy3(turn:side)` is alike `turn:side`, a slot's
 * `cut:line1~4` alike `cut:line1`, and so inside names made of others.
 */
export function plainName(name: string): string {
  let rest = name.replace(/~\d+/g, '').replace(/:dimple\d+/g, ':dimple')
  for (let m = COPY.exec(rest); m; m = COPY.exec(rest)) {
    const from = m.index + m[0].length
    let depth = 1
    let to = from
    for (; to < rest.length && depth > 0; to++)
      depth += rest[to] === '(' ? 1 : rest[to] === ')' ? -1 : 0
    rest = rest.slice(0, m.index) + rest.slice(from, to - 1) + rest.slice(to)
  }
  return rest
}

/** The edges where faces meet that are alike those of an edge, which bend as it does; itself among them. */
export function edgesAlike(p: ExactPart, edge: number): number[] {
  const plain = p.faces.map((f) => new Set(f.names.map(plainName)))
  const of = (e: number) => p.edges[e]!.faces.map((f) => plain[f]!)
  const share = (a: Set<string>, b: Set<string>) => [...a].some((n) => b.has(n))
  const [f, g] = of(edge)
  return realEdges(p).filter((e) => {
    const [a, b] = of(e)
    if (!a || !b || p.edges[e]!.bend !== p.edges[edge]!.bend) return false
    return (share(a, f!) && share(b, g!)) || (share(a, g!) && share(b, f!))
  })
}
