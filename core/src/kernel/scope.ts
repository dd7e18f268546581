/** Anything the kernel hands out that must be given back. */
export interface Handle {
  delete(): void
}

/** Owns kernel objects and gives them back, all at once, in the reverse order. */
export class KernelScope {
  #owned: Handle[] = []

  keep<T extends Handle>(h: T): T {
    this.#owned.push(h)
    return h
  }
  /** Takes an object out of the scope: the caller owns it now. */
  release<T extends Handle>(h: T): T {
    this.#owned = this.#owned.filter((o) => o !== h)
    return h
  }
  get size(): number {
    return this.#owned.length
  }
  close(): void {
    for (const h of this.#owned.reverse()) h.delete()
    this.#owned = []
  }
}

/** Runs `work` with a scope that is closed afterwards, whatever happens. */
export function scoped<T>(work: (s: KernelScope) => T): T {
  const s = new KernelScope()
  try {
    return work(s)
  } finally {
    s.close()
  }
}
