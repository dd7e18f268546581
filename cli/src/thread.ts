import { parentPort, workerData } from 'node:worker_threads'
import { ivory } from './ivory'

// The work, apart from the clock that watches it.
parentPort!.postMessage(await ivory(workerData as string[]))
