import { ENDLESS } from './layout'

/** A crease: its ends by number, and how sharp it is. */
export interface Crease {
  a: number
  b: number
  sharp: number
}

/** Creases that go on in each other, equally sharp, in their order; the first begins again where it is closed. */
export interface CreaseLine {
  edges: Crease[]
  /** Infinite where it never smooths out. */
  sharp: number
  closed: boolean
}

/** Creases as lines: each goes on where just one other of the same sharpness does. Longest first. */
export function creaseLines(creases: readonly Crease[]): CreaseLine[] {
  const at = new Map<number, number[]>()
  for (const [i, { a, b }] of creases.entries())
    for (const p of [a, b]) {
      const there = at.get(p)
      if (there) there.push(i)
      else at.set(p, [i])
    }
  const done = new Uint8Array(creases.length)
  /** The crease after number i over point p; -1 where the line ends. */
  const after = (i: number, p: number): number => {
    const there = at.get(p)!
    const next = there.length === 2 ? there.find((j) => j !== i)! : -1
    return next !== -1 && creases[next]!.sharp === creases[i]!.sharp ? next : -1
  }
  const across = (i: number, p: number) => (creases[i]!.a === p ? creases[i]!.b : creases[i]!.a)
  const lines: CreaseLine[] = []
  for (let i = 0; i < creases.length; i++) {
    if (done[i]) continue
    // Back to where the line begins, then along it.
    let [first, from] = [i, creases[i]!.a]
    for (let prev = after(first, from); prev !== -1 && prev !== i; prev = after(first, from)) {
      first = prev
      from = across(first, from)
    }
    const edges: Crease[] = []
    let [k, p] = [first, from]
    while (k !== -1 && !done[k]) {
      done[k] = 1
      edges.push(creases[k]!)
      p = across(k, p)
      k = after(k, p)
    }
    const { sharp } = creases[i]!
    lines.push({
      edges,
      sharp: sharp >= ENDLESS ? Number.POSITIVE_INFINITY : sharp,
      closed: k === first && edges.length > 2,
    })
  }
  return lines.sort((x, y) => y.edges.length - x.edges.length)
}
