import type { OpReport } from '@ivory/core/rebuild'
import type { CallName, Calls, Leave, Response } from './protocol'

/** A call that did not come back: the worker was ended, broke down or took too long. */
export class EngineError extends Error {
  override name = 'EngineError'
}

interface Pending {
  resolve(reply: unknown): void
  reject(e: Error): void
  progress?: ((r: OpReport) => void) | undefined
  timer?: ReturnType<typeof setTimeout>
}

/** One worker and its calls. When it ends, every call in flight fails; the next call starts it anew. */
export class WorkerClient {
  readonly #start: () => Worker
  #worker: Worker | null = null
  #pending = new Map<number, Pending>()
  #next = 1
  onCount: (n: number) => void = () => undefined
  /** The worker has something new without having been asked. */
  onNews: () => void = () => undefined

  constructor(start: () => Worker) {
    this.#start = start
  }

  call<K extends CallName>(
    call: K,
    ask: Calls[K]['ask'],
    options: { progress?: (r: OpReport) => void; budget?: number; signal?: AbortSignal } = {},
  ): Promise<Calls[K]['reply']> {
    const worker = this.#running()
    const id = this.#next++
    return new Promise<Calls[K]['reply']>((resolve, reject) => {
      const pending: Pending = {
        resolve: resolve as Pending['resolve'],
        reject,
        progress: options.progress,
      }
      if (options.budget) {
        pending.timer = setTimeout(
          () =>
            this.stop(
              `It took longer than ${Math.round(options.budget! / 1000)} s and was stopped.`,
            ),
          options.budget,
        )
      }
      this.#pending.set(id, pending)
      this.onCount(this.#pending.size)
      worker.postMessage({ id, call, ask })
      options.signal?.addEventListener('abort', () => this.#leave(id))
    })
  }

  /** Ends the worker; calls in flight fail with the reason. */
  stop(why: string): void {
    this.#worker?.terminate()
    this.#worker = null
    const all = [...this.#pending.values()]
    this.#pending.clear()
    this.onCount(0)
    for (const p of all) {
      clearTimeout(p.timer)
      p.reject(new EngineError(why))
    }
  }

  /** Nobody waits for a call any more: it fails, and the worker is told. */
  #leave(id: number): void {
    const p = this.#pending.get(id)
    if (!p) return
    clearTimeout(p.timer)
    this.#pending.delete(id)
    this.onCount(this.#pending.size)
    this.#worker?.postMessage({ leave: id } satisfies Leave)
    p.reject(new EngineError('Nobody waits for it any more.'))
  }

  #running(): Worker {
    if (this.#worker) return this.#worker
    const worker = this.#start()
    worker.onmessage = (e: MessageEvent<Response>) => this.#receive(e.data)
    worker.onerror = (e) => this.stop(`The worker broke down: ${e.message || 'no reason given'}.`)
    this.#worker = worker
    return worker
  }

  #receive(r: Response) {
    if (r.is === 'news') {
      this.onNews()
      return
    }
    const p = this.#pending.get(r.id)
    if (!p) return
    if (r.is === 'progress') {
      p.progress?.(r.report)
      return
    }
    clearTimeout(p.timer)
    this.#pending.delete(r.id)
    this.onCount(this.#pending.size)
    if (r.is === 'done') p.resolve(r.reply)
    else p.reject(new EngineError(r.message))
  }
}
