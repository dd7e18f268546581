import type { How } from '../../kernel'
import { bad, good, type Outcome } from '../../math'
import { measureMesh } from '../../mesh'
import { soundVolume, trianglesClose } from '../accept'
import { namesFrom } from '../names'
import { clearOf, unlikeTriangles } from '../witness'
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

/** Ways the kernel combines, in the order they are tried: as they are, unmerged, or with a little give. */
const RUNGS = [{}, { apart: true }, { near: 1e-5 }, { near: 1e-4 }] as const

/** The first shape joined with, cut by or met with all the others at once. */
export const combineVerb: Verb<CombineArgs> = {
  version: 5,
  run(bench, on, args) {
    const [target, ...tools] = on
    // What lies clear of it is left out: the kernel takes long where faces run beside each other.
    const near = args.how === 'join' ? tools : tools.filter((t) => !clearOf(bench, target!, t))
    if (near.length === 0)
      return args.how === 'cut'
        ? good([{ shape: bench.keep(bench.kernel.same(target!.shape)), names: target!.names }])
        : bad('nothing-left', 'Nothing is left.')
    const given = [target!, ...near]
    let first: Outcome<Named[]> | null = null
    let cracked: Outcome<Named[]> | null = null
    for (const way of RUNGS) {
      // Where faces nearly meet the kernel leaves slivers that only a little give closes.
      if (cracked && !('near' in way)) continue
      const tried = attempt(bench, given, args, way)
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
    return (
      outOfBounds(how, 0, before, SLACK) ??
      leftOut(bench, how, on) ??
      bad('nothing-left', 'Nothing is left.')
    )
  const volume = soundVolume(kernel, made.shape, 'What they make')
  if (!volume.ok) return volume
  const result = { shape: made.shape, names }
  const wrong =
    outOfBounds(how, volume.value, before, SLACK) ?? unlikeTriangles(bench, how, on, result)
  if (wrong && wrong !== 'unsure') return wrong
  // Where triangles cannot tell, or are too coarse for what little it took, the kernel has to agree with itself.
  const unchanged = Math.abs(volume.value - before[0]!) <= SLACK * before[0]!
  const odd = wrong === 'unsure' || unchanged ? disagrees(bench, how, on, volume.value) : null
  return odd ?? good([result])
}

/** Refuses that nothing is left where triangles leave something. */
function leftOut(bench: Bench, how: How, on: readonly Named[]): Outcome<never> | null {
  const nothing = unlikeTriangles(bench, how, on, null)
  return nothing === 'unsure' ? null : nothing
}

/**
 * Refuses a volume (mm3) that breaks inclusion and exclusion: V(A - B) = V(A) - V(AB), V(A + B) = V(A) + V(B) - V(AB), with what
 * both share found by the kernel by itself.
 */
function disagrees(
  { kernel, keep }: Bench,
  how: How,
  [target, ...tools]: readonly Named[],
  volume: number,
): Outcome<never> | null {
  if (how === 'meet' || (how === 'join' && tools.length > 1)) return null
  const [own, other] = [target!, tools[0]!].map((x) => kernel.measure(x.shape).volume)
  const both = keep(
    kernel.boolean(
      'meet',
      target!.shape,
      tools.map((t) => t.shape),
      { apart: true },
    ).shape,
  )
  const shared = kernel.measure(both).solids === 0 ? 0 : kernel.measure(both).volume
  const want = how === 'cut' ? own! - shared : own! + other! - shared
  return Math.abs(volume - want) <= SLACK * (own! + other!) ? null : notRight()
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
  return notRight()
}

const notRight = () =>
  bad(
    'not-right',
    'The kernel’s result does not measure what it must, so it is not used. Move one of the bodies a little, so that their faces do not just touch.',
  )
