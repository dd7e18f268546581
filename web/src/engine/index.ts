import { WorkerClient } from './client'

export { EngineError } from './client'
export type { BodyView, DatumView, ProfileView, View, ViewRequest } from './protocol'

/** The lathe's thread. */
export const lathe = new WorkerClient(
  () => new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module', name: 'lathe' }),
)
/** The exact kernel's thread; it loads when first asked. */
export const exact = new WorkerClient(
  () =>
    new Worker(new URL('./kernel.worker.ts', import.meta.url), { type: 'module', name: 'kernel' }),
)
