// A worker thread starts as plain JavaScript; this registers the TypeScript loader, then the work.
import { register } from 'tsx/esm/api'

register()
await import('./measure-thread.ts')
