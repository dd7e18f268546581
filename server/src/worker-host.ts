import { Worker } from 'node:worker_threads'

export type MeasureReply =
  | { ok: true; value: unknown }
  | { ok: false; status: 400 | 408 | 500; error: string }

/** Rebuilds in a thread of its own, which is ended when the time is up. */
export function runMeasure(text: string, timeLimit: number): Promise<MeasureReply> {
  return new Promise((resolve) => {
    // tsx's loader is registered inside the thread, since threads do not inherit it as an import.
    const worker = new Worker(new URL('./measure-worker.mjs', import.meta.url), {
      workerData: { text },
    })
    const finish = (reply: MeasureReply) => {
      clearTimeout(timer)
      resolve(reply)
      void worker.terminate()
    }
    const timer = setTimeout(
      () => finish({ ok: false, status: 408, error: 'The rebuild took too long and was stopped.' }),
      timeLimit,
    )
    worker.once('message', finish)
    worker.once('error', (e) =>
      finish({ ok: false, status: 500, error: `The rebuild broke down: ${e.message}` }),
    )
  })
}
