import { type ExactPart, jobKey, type KernelJob, splitKey } from '../exact'
import type { Outcome } from '../math'
import { WaitsForKernel } from '../ops'

/** Results kept at most: each holds the triangles of a body. */
const MOST = 400

/** The code of a job that did not come to an end. */
export const STOPPED = 'kernel-stopped'

/** What the exact kernel made, by what it was asked, and how each thing it made can be made again. */
export class JobResults {
  /** In the order of their last use. */
  readonly #results = new Map<string, Outcome<ExactPart[]>>()
  readonly #recipes = new Map<string, KernelJob>()
  /** How long each took, ms. */
  readonly #took = new Map<string, number>()

  /** The result of a job; throws `WaitsForKernel` while there is none. */
  resultOf(job: KernelJob): Outcome<ExactPart[]> {
    const key = jobKey(job)
    this.#recipes.set(key, job)
    const known = this.#results.get(key)
    if (!known) throw new WaitsForKernel(job)
    this.#results.delete(key)
    this.#results.set(key, known)
    return known
  }

  has(job: KernelJob): boolean {
    return this.#results.has(jobKey(job))
  }

  /** How long jobs took together, by their keys, ms. */
  tookOf(keys: Iterable<string>): number {
    let sum = 0
    for (const key of keys) sum += this.#took.get(key) ?? 0
    return sum
  }

  put(job: KernelJob, result: Outcome<ExactPart[]>, took = 0): void {
    this.#results.set(jobKey(job), result)
    this.#took.set(jobKey(job), took)
    for (const key of this.#results.keys()) {
      if (this.#results.size <= MOST) return
      this.#results.delete(key)
      this.#took.delete(key)
    }
  }

  /** Forgets jobs that were stopped or ran out of time: they are asked for again. */
  forgetStopped(): void {
    for (const [key, result] of this.#results)
      if (!result.ok && result.diagnosis.code === STOPPED) this.#results.delete(key)
  }

  /** The jobs that make parts of these keys, and what those are made of, first things first. */
  recipesFor(keys: readonly string[]): KernelJob[] {
    const found = new Map<string, KernelJob>()
    const add = (key: string) => {
      const { job } = splitKey(key)
      const recipe = this.#recipes.get(job)
      if (!recipe || found.has(job)) return
      for (const k of recipe.on) add(k)
      found.set(job, recipe)
    }
    for (const key of keys) add(key)
    return [...found.values()]
  }
}
