import type { ExactPart, KernelJob } from '@ivory/core/exact'
import { bad, type Outcome } from '@ivory/core/math'
import { done, type JobResults, type RunJob, STOPPED } from '@ivory/core/rebuild'
import type { Workpiece } from '@ivory/core/workpiece'
import { keepParts, keptParts } from '../storage/parts'
import { EngineError, WorkerClient } from './client'

// The exact kernel's threads, started and ended by the lathe's. A call there cannot be interrupted: one
// serves the route, the other searches.
const started = () =>
  new WorkerClient(
    () =>
      new Worker(new URL('./kernel.worker.ts', import.meta.url), {
        type: 'module',
        name: 'kernel',
      }),
  )
export const serving = started()
export const searching = started()

/**
 * After this a job is given up, ms: long enough for machines many times slower than those of today. What takes long is seen at work
 * meanwhile, and ended by hand.
 */
const LIMIT = 600_000

/** Has a job done by one of the threads, or takes what was kept of it. */
export const runOn =
  (thread: WorkerClient, doc: Workpiece): RunJob =>
  async (job, recipes) => {
    const kept = await keptParts(job)
    if (kept) return { ok: true, value: kept }
    const read = [job, ...recipes].some((j) => 'file' in j.args)
    try {
      const made: Outcome<ExactPart[]> = await thread.call(
        'job',
        { job, recipes: [...recipes], files: (read && doc.files) || {} },
        { budget: LIMIT },
      )
      if (made.ok) void keepParts(job, made.value)
      return made
    } catch (e) {
      if (!(e instanceof EngineError)) throw e
      return bad(STOPPED, `The exact kernel did not come to an end: ${e.message}`)
    }
  }

/** Does what a route waits for, one job at a time; a newer list takes the place of what is not begun. */
export class Queue {
  #waiting: { job: KernelJob; doc: Workpiece }[] = []
  #busy = false
  /** Stopped between two jobs: what is asked for next is not begun. */
  #halted = false
  readonly #results: JobResults
  readonly #told: () => void

  /** `told` is called after each job. */
  constructor(results: JobResults, told: () => void) {
    this.#results = results
    this.#told = told
  }

  want(jobs: readonly KernelJob[], doc: Workpiece): void {
    this.#waiting = jobs.map((job) => ({ job, doc }))
    if (this.#halted && jobs.length > 0) this.#giveUp()
    this.#halted = false
    void this.#work()
  }

  /** Gives up what waits; where nothing does, what is asked for next. The job at work is stopped by its thread. */
  stop(): void {
    this.#halted = !this.#busy && this.#waiting.length === 0
    this.#giveUp()
  }

  #giveUp(): void {
    if (this.#waiting.length === 0) return
    for (const { job } of this.#waiting)
      if (!this.#results.has(job)) this.#results.put(job, bad(STOPPED, 'Stopped as asked.'))
    this.#waiting = []
    this.#told()
  }

  async #work(): Promise<void> {
    if (this.#busy) return
    this.#busy = true
    try {
      for (let next = this.#waiting.shift(); next; next = this.#waiting.shift()) {
        const { job, doc } = next
        if (this.#results.has(job)) continue
        await done(job, runOn(serving, doc), this.#results)
        this.#told()
      }
    } finally {
      this.#busy = false
    }
  }
}
