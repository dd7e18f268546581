/** Things by number that are joined one with another, and asked which hang together (union-find). */
export class Groups {
  readonly #parent: Uint32Array

  constructor(count: number) {
    this.#parent = Uint32Array.from({ length: count }, (_, i) => i)
  }

  /** The number that stands for all that hang together with this one. */
  of(i: number): number {
    const p = this.#parent
    let r = i
    while (p[r] !== r) {
      p[r] = p[p[r]!]!
      r = p[r]!
    }
    return r
  }

  join(i: number, j: number): void {
    this.#parent[this.of(i)] = this.of(j)
  }

  /** All things, those that hang together in one list. */
  lists(): number[][] {
    const by = new Map<number, number[]>()
    for (let i = 0; i < this.#parent.length; i++) {
      const list = by.get(this.of(i))
      if (list) list.push(i)
      else by.set(this.of(i), [i])
    }
    return [...by.values()]
  }
}
