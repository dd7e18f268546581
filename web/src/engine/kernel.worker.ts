import { type Kernel, KernelError, loadKernel } from '@ivory/core/kernel'
import { RebuildCache, readSolid, rebuildWith } from '@ivory/core/rebuild'
import { measureFile, release } from '@ivory/core/release'
import wasmUrl from 'replicad-opencascadejs/wasm?url'
import type { Calls, Request, Response } from './protocol'

// The exact kernel's thread. It cannot be interrupted, so the page may end it and start another.
let loading: Promise<Kernel> | undefined
const cache = new RebuildCache()
const kernel = () => {
  loading ??= loadKernel(wasmUrl)
  return loading
}

async function answer(request: Request): Promise<unknown> {
  if (request.call === 'release') {
    const { doc, format, chord, angle } = request.ask
    const { state } = await rebuildWith(doc, kernel, cache)
    const made = release(doc, state, format, { chord, angle, kernel: await kernel() })
    return made.ok ? made.value : made.diagnosis.message
  }
  if (request.call === 'readSolid')
    return readSolid(request.ask.doc, request.ask.file, await kernel())
  if (request.call === 'measureFile') return measured(request.ask)
  throw new Error(`the kernel does not do "${request.call}"`)
}

async function measured({ name, bytes }: Calls['measureFile']['ask']): Promise<string[] | string> {
  const r = await measureFile(name, bytes, kernel)
  if (!r.ok) return r.diagnosis.message
  return r.value.bodies.map((b) => {
    const size = [0, 1, 2].map((k) => (b.bounds.max[k]! - b.bounds.min[k]!).toFixed(2)).join(' × ')
    return `${b.name}: ${size} mm, ${(b.volume_mm3 / 1000).toFixed(2)} cm³, ${(b.area_mm2 / 100).toFixed(1)} cm², ${b.closed ? 'closed' : 'open'}${b.valid ? '' : ', not valid'}`
  })
}

self.addEventListener('message', async (e: MessageEvent<Request>) => {
  const { id } = e.data
  let response: Response
  try {
    response = { id, is: 'done', reply: await answer(e.data) }
  } catch (error) {
    if (error instanceof KernelError) response = { id, is: 'done', reply: error.message }
    else
      response = {
        id,
        is: 'broken',
        message: error instanceof Error ? error.message : String(error),
      }
  }
  postMessage(response)
})
