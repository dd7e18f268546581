import { good } from '../../math'
import { fromMeshes } from './meshes'
import type { Verb } from './verb'

/** The solids of a body that do not hang together, each by itself. */
export const apartVerb: Verb<Record<string, never>> = {
  version: 1,
  run(bench, [whole]) {
    const solids = bench.kernel.solidFaces(whole!.shape)
    return good(
      solids.map(({ solid, faces }) => ({
        shape: bench.keep(solid),
        names: faces.map((f) => whole!.names[f]!),
      })),
    )
  },
  onMeshes: ({ meshes }, [whole]) =>
    good(meshes.apart(whole!.mesh).map((m) => fromMeshes(m, [whole!], ''))),
}
