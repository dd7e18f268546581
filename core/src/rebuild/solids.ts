import { type Kernel, KernelError } from '../kernel'
import { bad, good, type Outcome } from '../math'
import { weldIndexed } from '../mesh'
import type { ExactPart } from '../ops'
import { unpackFile, type Workpiece } from '../workpiece'
import { RebuildCache, type Rebuilt, rebuild } from './rebuild'

/** Chord (mm) and angle (rad) of the triangles a solid is shown and measured by. */
const SHOWN = { chord: 0.05, angle: 0.2 }

/** Reads a kept STEP file of a workpiece through the kernel: measured and meshed. */
export function readSolid(w: Workpiece, id: string, kernel: Kernel): Outcome<ExactPart> {
  const file = w.files?.[id]
  if (!file) return bad('no-file', `The file "${id}" is not in the workpiece.`)
  const bytes = unpackFile(file)
  if (!bytes.ok) return bytes
  try {
    const solid = kernel.fromStep(bytes.value)
    try {
      return good({
        kind: 'exact',
        file: id,
        measure: kernel.measure(solid),
        mesh: weldIndexed(kernel.tessellate(solid, SHOWN.chord, SHOWN.angle)),
      })
    } finally {
      kernel.free(solid)
    }
  } catch (e) {
    if (e instanceof KernelError) return bad('bad-step', `${file.name}: ${e.message}`)
    throw e
  }
}

/** Rebuilds, letting the kernel read the files the route waits for. It is loaded only when one is. */
export async function rebuildWith(
  w: Workpiece,
  kernel: () => Promise<Kernel>,
  cache = new RebuildCache(),
): Promise<Rebuilt> {
  for (;;) {
    const built = rebuild(w, cache)
    if (built.waits.length === 0) return built
    const k = await kernel()
    for (const id of built.waits) cache.solids.set(id, readSolid(w, id, k))
  }
}
