import type { MeasureReport } from '@ivory/core/release'
import { readWorkpiece, type Workpiece } from '@ivory/core/workpiece'
import { Piscina } from 'piscina'

export type MeasureReply =
  | { ok: true; value: MeasureReport }
  | { ok: false; status: 400 | 408 | 500 | 503; error: string }

/** Threads kept ready, and those that may be there at most. */
const THREADS = { ready: 1, most: 2 }
/** Requests that may wait for a thread. */
const QUEUE = 32

/**
 * Rebuilds posted workpieces in a small pool of threads that are kept ready. What cannot be read is
 * refused before any thread is asked; a rebuild that takes longer than `timeLimit` ms is ended with its
 * thread, and another takes its place.
 */
export function createMeasuring(thread: string, timeLimit: number) {
  const pool = new Piscina<Workpiece, MeasureReport>({
    filename: thread,
    minThreads: THREADS.ready,
    maxThreads: THREADS.most,
    maxQueue: QUEUE,
    idleTimeout: 30_000,
  })
  return {
    async measure(text: string): Promise<MeasureReply> {
      const w = readWorkpiece(text)
      if (!w.ok) return { ok: false, status: 400, error: w.diagnosis.message }
      if (pool.queueSize >= QUEUE)
        return { ok: false, status: 503, error: 'Too many rebuilds are waiting; try again soon.' }
      try {
        return {
          ok: true,
          value: await pool.run(w.value, { signal: AbortSignal.timeout(timeLimit) }),
        }
      } catch (e) {
        if (e instanceof Error && (e.name === 'TimeoutError' || e.name === 'AbortError'))
          return {
            ok: false,
            status: 408,
            error: 'The rebuild took too long and was stopped.',
          }
        const why = e instanceof Error ? e.message : String(e)
        return { ok: false, status: 500, error: `The rebuild broke down: ${why}` }
      }
    },
    close: () => pool.destroy(),
  }
}
