import type { How } from '../kernel'
import { bad, type Outcome, type P3 } from '../math'
import { ballIn, type FacedMesh, MeshError, measureMesh } from '../mesh'
import { SHOWN } from './part'
import { inTriangles } from './triangles'
import type { Bench, Named } from './verbs/verb'

/** Shapes whose triangles are further apart than this do not touch: as far as those of both can lie off them, mm. */
const CLEAR = 2 * 1.5 * SHOWN.chord
/** What two ways make of the same may differ by no more than where a ball of this radius, mm, finds no room. */
const BALL = 0.1
/** Less than such a ball holds, mm3. */
const NOTHING = (4 / 3) * Math.PI * BALL ** 3

const known = new WeakMap<Named, FacedMesh>()
/** The triangles of a shape, made once. */
function meshOf({ kernel }: Bench, x: Named): FacedMesh {
  const mesh = known.get(x) ?? inTriangles(kernel, x).mesh
  known.set(x, mesh)
  return mesh
}

/** Whether two shapes surely share nothing, by triangles; false too where these do not close. */
export function clearOf(bench: Bench, a: Named, b: Named): boolean {
  try {
    const [m, n] = [meshOf(bench, a), meshOf(bench, b)]
    return bench.meshes.gap(m, n, CLEAR) >= CLEAR && bench.meshes.shared(m, n) === 0
  } catch (e) {
    if (e instanceof MeshError) return false
    throw e
  }
}

/**
 * What is wrong with a combination by the kernel, held against what triangles of the same shapes make, which share none of its
 * mistakes: nowhere may the two differ by more than triangles lie off, nor two solids of it overlap. `unsure` where triangles do
 * not close. Without a result, nothing is what it says is left.
 */
export function unlikeTriangles(
  bench: Bench,
  how: How,
  on: readonly Named[],
  made: Named | null,
): Outcome<never> | 'unsure' | null {
  const { meshes } = bench
  /** Where a ball finds room in what one mesh has more than another (or shares with it); null where that is nothing but slivers. */
  const room = (how: 'cut' | 'meet', one: FacedMesh, other: FacedMesh): P3 | null => {
    const rest = meshes.combine(how, [one, other]).mesh
    if (rest.triangles.length === 0 || measureMesh(rest).volume < NOTHING) return null
    return how === 'cut' ? ballIn(rest, [one], [other], BALL) : ballIn(rest, [one, other], [], BALL)
  }
  try {
    for (const [a, b] of made ? pairsThatMayMeet(solidsOf(bench, made)) : []) {
      const at = room('meet', a, b)
      if (at) return wrong('Solids of the kernel’s result overlap', at)
    }
    const other = meshes.combine(
      how,
      on.map((x) => meshOf(bench, x)),
    ).mesh
    const own = made ? meshOf(bench, made) : NONE
    const at = room('cut', own, other) ?? room('cut', other, own)
    return at && wrong('The kernel’s result is not what the triangles of the bodies make', at)
  } catch (e) {
    if (e instanceof MeshError) return 'unsure'
    throw e
  }
}

const NONE: FacedMesh = {
  positions: new Float32Array(),
  triangles: new Uint32Array(),
  faceOf: new Uint32Array(),
}

const wrong = (what: string, at: P3) =>
  bad(
    'not-right',
    `${what}, so it is not used. Move one of the bodies a little, so that their faces do not just touch.`,
    [{ at }],
  )

/** The triangles of each solid of a shape that has several. */
function solidsOf(bench: Bench, x: Named): FacedMesh[] {
  const { kernel } = bench
  if (kernel.measure(x.shape).solids < 2) return []
  return kernel.solidFaces(x.shape).map(({ solid, faces }) => {
    bench.keep(solid)
    const names = faces.map((f) => x.names[f]!)
    return meshOf(bench, { shape: solid, names })
  })
}

/** Pairs of meshes whose boxes reach into each other. */
function pairsThatMayMeet(all: readonly FacedMesh[]): [FacedMesh, FacedMesh][] {
  const boxed = all.map((mesh) => ({ mesh, box: measureMesh(mesh).bounds }))
  return boxed.flatMap((a, i) =>
    boxed
      .slice(i + 1)
      .filter((b) =>
        [0, 1, 2].every((k) => a.box.min[k]! < b.box.max[k]! && b.box.min[k]! < a.box.max[k]!),
      )
      .map((b): [FacedMesh, FacedMesh] => [a.mesh, b.mesh]),
  )
}
