import type { Kernel, Made, SolidHandle } from '../../kernel'
import type { Outcome } from '../../math'

/** A shape in the kernel with the names of its faces, in its order. */
export interface Named {
  shape: SolidHandle
  names: string[][]
}

/** The kernel for one job: what is made there and does not become a result is given back. */
export interface Bench {
  kernel: Kernel
  /** Notes a shape made on the way. */
  keep(shape: SolidHandle): SolidHandle
  /** The bytes of a kept file. */
  file(id: string): Outcome<Uint8Array>
}

/** One kind of work for the kernel: how it is done and measured, and what its faces are called. */
export interface Verb<A> {
  /** Raise when results change for equal arguments. */
  version: number
  run(bench: Bench, on: readonly Named[], args: A): Outcome<Named[]>
}

export const keepMade = (bench: Bench, made: Made): Made => ({
  ...made,
  shape: bench.keep(made.shape),
})
