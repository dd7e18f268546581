import { parentPort, workerData } from 'node:worker_threads'
import { loadKernel } from '@ivory/core/kernel'
import { measureFile } from '@ivory/core/release'
import type { MeasureReply } from './worker-host'

const { text } = workerData as { text: string }
const outcome = await measureFile('posted.lathe.json', new TextEncoder().encode(text), () =>
  loadKernel(),
)
const reply: MeasureReply = outcome.ok
  ? { ok: true, value: outcome.value }
  : { ok: false, status: 400, error: outcome.diagnosis.message }
parentPort!.postMessage(reply)
