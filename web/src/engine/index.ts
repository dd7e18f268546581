import { WorkerClient } from './client'

export { EngineError } from './client'
export type {
  AreaView,
  BodyView,
  ChartData,
  ChartKind,
  DatumView,
  LinesView,
  ProfileView,
  View,
  ViewRequest,
  WallsView,
} from './protocol'

/** The lathe's thread; the exact kernel's are its own. */
export const lathe = new WorkerClient(
  () => new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module', name: 'lathe' }),
)
