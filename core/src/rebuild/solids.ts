import type { ExactPart, KernelJob, ShapeStore } from '../exact'
import type { Outcome } from '../math'
import { WaitsForKernel } from '../ops'
import { unpackFile, type Workpiece } from '../workpiece'
import type { JobResults } from './jobs'
import { RebuildCache, type Rebuilt, rebuild } from './rebuild'

/** Has a job done, with the recipes of what it works on. */
export type RunJob = (
  job: KernelJob,
  recipes: readonly KernelJob[],
) => Promise<Outcome<ExactPart[]>>

/** Jobs done by a kernel in this process. It is loaded when the first is asked for. */
export const inPlace =
  (w: Pick<Workpiece, 'files'>, shapes: () => Promise<ShapeStore>): RunJob =>
  async (job, recipes) => {
    const store = await shapes()
    for (const [id, file] of Object.entries(w.files ?? {}))
      store.provide(id, () => unpackFile(file))
    store.learn(recipes)
    return store.run(job)
  }

/** Rebuilds until nothing waits for the exact kernel any more. */
export async function rebuildWith(
  w: Workpiece,
  run: RunJob,
  cache = new RebuildCache(),
): Promise<Rebuilt> {
  // What an op took counts from its first to its last run.
  const spent = new Map<string, number>()
  for (;;) {
    const built = rebuild(w, cache)
    for (const r of built.reports) {
      spent.set(r.id, (spent.get(r.id) ?? 0) + r.ms)
      r.ms = spent.get(r.id)!
    }
    if (built.waits.length === 0) return built
    for (const job of built.waits) await done(job, run, cache.exact)
  }
}

/** Repeats work that asks for jobs until it has all it asks for: a search for a range, say. */
export async function workedOut<T>(work: () => T, run: RunJob, exact: JobResults): Promise<T> {
  for (;;) {
    try {
      return work()
    } catch (e) {
      if (!(e instanceof WaitsForKernel)) throw e
      await done(e.job, run, exact)
    }
  }
}

/** Has a job done and keeps what it made. */
export async function done(job: KernelJob, run: RunJob, exact: JobResults): Promise<void> {
  const start = performance.now()
  const made = await run(job, exact.recipesFor(job.on))
  exact.put(job, made, performance.now() - start)
}
