import { writeSync } from 'node:fs'
import { Worker } from 'node:worker_threads'
import type { Said } from './ivory'

/** Seconds a call may take unless it says otherwise. */
const LIMIT = 120

const args = process.argv.slice(2)
const at = args.indexOf('--limit')
const seconds = at < 0 ? LIMIT : Number(args.splice(at, 2)[1])

/** Writes everything before the process ends, also into a pipe. */
function finish({ code, out, err }: Said): never {
  for (const [to, lines] of [
    [1, out],
    [2, err],
  ] as const)
    for (let bytes = Buffer.from(lines.map((l) => `${l}\n`).join('')); bytes.length > 0; ) {
      try {
        bytes = bytes.subarray(writeSync(to, bytes))
      } catch (e) {
        // A full pipe is written to again; a reader that went away is no fault of the call.
        if ((e as NodeJS.ErrnoException).code === 'EPIPE') break
        if ((e as NodeJS.ErrnoException).code !== 'EAGAIN') throw e
      }
    }
  process.exit(code)
}
const failed = (sentence: string): never => finish({ code: 2, out: [], err: [sentence] })

if (!(seconds > 0)) failed('--limit needs a number of seconds.')
const worker = new Worker(new URL('./ivory-thread.js', import.meta.url), { workerData: args })
worker.once('message', finish)
worker.once('error', (e) => failed(`Something went wrong inside: ${e.message}`))
setTimeout(() => failed(`It took longer than ${seconds} s and was stopped.`), seconds * 1000)
