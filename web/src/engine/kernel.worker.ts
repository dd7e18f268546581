import { loadShapes, type ShapeStore } from '@ivory/core/exact'
import { KernelError } from '@ivory/core/kernel'
import { fixed } from '@ivory/core/math'
import { inPlace, RebuildCache, rebuildWith } from '@ivory/core/rebuild'
import { measureFile, overlaps, releaseFile } from '@ivory/core/release'
import meshes from 'manifold-3d/manifold.wasm?url'
import kernel from 'replicad-opencascadejs/wasm?url'
import type { Calls, Request, Response } from './protocol'

// A thread of the exact kernel. It cannot be interrupted, so the lathe may end it and start another.
let loading: Promise<ShapeStore> | undefined
const cache = new RebuildCache()
const shapes = () => {
  loading ??= loadShapes({ kernel, meshes })
  return loading
}

async function answer(request: Request): Promise<unknown> {
  if (request.call === 'job') {
    const { job, recipes, files } = request.ask
    return inPlace({ files }, shapes)(job, recipes)
  }
  if (request.call === 'release') {
    const { doc, format, chord, angle, without } = request.ask
    const built = await rebuildWith(doc, inPlace(doc, shapes), cache)
    const made = await releaseFile(doc, built, format, {
      chord,
      angle,
      without,
      shapes: await shapes(),
    })
    return made.ok ? made.value : made.diagnosis.message
  }
  if (request.call === 'shared') return overlaps(request.ask, (await shapes()).meshes)
  if (request.call === 'measureFile') return measured(request.ask)
  throw new Error(`the kernel does not do "${request.call}"`)
}

async function measured({ name, bytes }: Calls['measureFile']['ask']): Promise<string[] | string> {
  const r = await measureFile(name, bytes, shapes)
  if (!r.ok) return r.diagnosis.message
  return r.value.bodies.map((b) => {
    const size = [0, 1, 2].map((k) => fixed(b.bounds.max[k]! - b.bounds.min[k]!, 2)).join(' × ')
    return `${b.name}: ${size} mm, ${fixed(b.volume_mm3 / 1000, 2)} cm³, ${fixed(b.area_mm2 / 100, 1)} cm², ${b.closed ? 'closed' : 'open'}${b.valid ? '' : ', not valid'}`
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
