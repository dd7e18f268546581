import { parentPort, workerData } from 'node:worker_threads'
import { measureFile } from '@ivory/core/release'
import type { MeasureReply } from './worker-host'

const { text } = workerData as { text: string }
const outcome = await measureFile('posted.lathe.json', new TextEncoder().encode(text), () => {
  throw new Error('a workpiece needs no kernel')
})
const reply: MeasureReply = outcome.ok
  ? { ok: true, value: outcome.value }
  : { ok: false, status: 400, error: outcome.diagnosis.message }
parentPort!.postMessage(reply)
