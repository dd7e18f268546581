import { KernelError } from './types'

/** The kernel's own exceptions become sentences; ours pass through. */
export function guarded<T>(what: string, work: () => T): T {
  try {
    return work()
  } catch (e) {
    if (e instanceof KernelError) throw e
    if (typeof WebAssembly !== 'undefined' && 'Exception' in WebAssembly) {
      const WasmException = (WebAssembly as unknown as { Exception: new () => unknown }).Exception
      if (e instanceof WasmException)
        throw new KernelError(`${what}: the kernel gave up on this shape.`)
    }
    if (e instanceof WebAssembly.RuntimeError) {
      throw new KernelError(`${what}: the kernel stopped unexpectedly.`)
    }
    throw e
  }
}
