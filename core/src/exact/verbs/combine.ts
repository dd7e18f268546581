import type { How } from '../../kernel'
import { bad, good, type Outcome } from '../../math'
import { MeshError, measureMesh } from '../../mesh'
import { soundVolume, trianglesClose } from '../accept'
import { namesFrom } from '../names'
import { SHOWN } from '../part'
import { inTriangles } from '../triangles'
import { fromMeshes } from './meshes'
import { type Bench, keepMade, type Named, type Verb } from './verb'

export interface CombineArgs {
  op: string
  how: How
}

/** Share by which measured volumes may break their bounds. */
const SLACK = 1e-6
/** The same of triangles in single precision. */
const MESH_SLACK = 1e-5

/** Shapes whose triangles are further apart than this do not touch: as far as those of both can lie off them, mm. */
const CLEAR = 2 * 1.5 * SHOWN.chord

/** Ways the kernel combines, in the order they are tried: as they are, unmerged, or with a little give. */
const RUNGS = [{}, { apart: true }, { near: 1e-5 }, { near: 1e-4 }] as const

/** The first shape joined with, cut by or met with all the others at once. */
export const combineVerb: Verb<CombineArgs> = {
  version: 4,
  run(bench, on, args) {
    if (args.how === 'meet' && clear(bench, on)) return bad('nothing-left', 'Nothing is left.')
    let first: Outcome<Named[]> | null = null
    let cracked: Outcome<Named[]> | null = null
    for (const way of RUNGS) {
      // Where faces nearly meet the kernel leaves slivers that only a little give closes.
      if (cracked && !('near' in way)) continue
      const tried = attempt(bench, on, args, way)
      // What is empty is empty any way; a sentence is that of the plain way.
      if (!tried.ok && tried.diagnosis.code === 'nothing-left') return tried
      if (tried.ok && trianglesClose(bench.kernel, tried.value[0]!.shape)) return tried
      if (tried.ok) cracked ??= tried
      else first ??= tried
    }
    return cracked ?? first!
  },
  onMeshes({ meshes }, on, { op, how }) {
    const made = meshes.combine(
      how,
      on.map((x) => x.mesh),
    )
    if (made.mesh.triangles.length === 0) return bad('nothing-left', 'Nothing is left.')
    const volumes = on.map((x) => measureMesh(x.mesh).volume)
    const { volume, closed } = measureMesh(made.mesh)
    if (!closed) return bad('not-sound', 'What they make does not close.')
    const wrong = outOfBounds(how, volume, volumes, MESH_SLACK)
    return wrong ?? good([fromMeshes(made, on, op)])
  },
}

/** Whether the first shape surely shares nothing with the others, by triangles: what takes the kernel long where faces run beside each other. */
function clear({ kernel, meshes }: Bench, on: readonly Named[]): boolean {
  const [own, ...others] = on.map((x) => inTriangles(kernel, x).mesh)
  try {
    return others.every((m) => meshes.gap(own!, m, CLEAR) >= CLEAR && meshes.shared(own!, m) === 0)
  } catch (e) {
    // Triangles that do not close leave it to the kernel.
    if (e instanceof MeshError) return false
    throw e
  }
}

function attempt(
  bench: Bench,
  on: readonly Named[],
  { op, how }: CombineArgs,
  way: { apart?: boolean; near?: number },
): Outcome<Named[]> {
  const { kernel } = bench
  const [target, ...tools] = on
  const made = keepMade(
    bench,
    kernel.boolean(
      how,
      target!.shape,
      tools.map((t) => t.shape),
      way,
    ),
  )
  const names = namesFrom(
    made.origins,
    on.map((x) => x.names),
    op,
  )
  const before = on.map((x) => kernel.measure(x.shape).volume)
  // The kernel may give nothing where something has to be left, and not say so.
  if (kernel.measure(made.shape).solids === 0)
    return outOfBounds(how, 0, before, SLACK) ?? bad('nothing-left', 'Nothing is left.')
  const volume = soundVolume(kernel, made.shape, 'What they make')
  if (!volume.ok) return volume
  const wrong = outOfBounds(how, volume.value, before, SLACK)
  return wrong ?? good([{ shape: made.shape, names }])
}

/** Refuses a volume (mm3) that bodies of these volumes cannot make this way. */
function outOfBounds(
  how: How,
  volume: number,
  before: readonly number[],
  share: number,
): Outcome<never> | null {
  const [own, ...others] = before as [number, ...number[]]
  const sum = others.reduce((a, b) => a + b, 0)
  const [least, most] =
    how === 'join'
      ? [Math.max(...before), own + sum]
      : how === 'cut'
        ? [own - sum, own]
        : [0, Math.min(own, sum)]
  const slack = share * (own + sum)
  if (volume >= least - slack && volume <= most + slack) return null
  return bad(
    'not-right',
    'The kernel’s result does not measure what it must, so it is not used. Move one of the bodies a little, so that their faces do not just touch.',
  )
}
