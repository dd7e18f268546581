import type { How } from '../kernel'
import { bad, dot3, type Outcome, type P3, sub3 } from '../math'
import { ballIn, type FacedMesh, inMaterial, MeshError, measureMesh, noHit, treeOf } from '../mesh'
import { SHOWN } from './part'
import { inTriangles } from './triangles'
import type { Bench, Named } from './verbs/verb'

/** Shapes whose triangles are further apart than this do not touch: as far as those of both can lie off them, mm. */
export const CLEAR = 2 * 1.5 * SHOWN.chord
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
  try {
    for (const [a, b] of made ? pairsThatMayMeet(bench, solidsOf(bench, made)) : []) {
      const [m, n] = [meshOf(bench, a), meshOf(bench, b)]
      const both = meshes.against('meet', [m, n], null, NOTHING).less
      const real = (at: P3) => holds(bench, a, at) && holds(bench, b, at)
      const at = both && ballIn(both, m, [m, n], [], BALL, real)
      if (at) return wrong('Solids of the kernel’s result overlap', at)
    }
    const own = made && meshOf(bench, made)
    const given = on.map((x) => meshOf(bench, x))
    const { made: other, more, less } = meshes.against(how, given, own, NOTHING)
    const real = (at: P3) => {
      const [first, ...others] = on.map((x) => holds(bench, x, at))
      const any = others.includes(true)
      const there = how === 'join' ? first! || any : first! && any === (how === 'meet')
      return there !== (made !== null && holds(bench, made, at))
    }
    const at =
      (more && own && ballIn(more, own, [own], [other], BALL, real)) ??
      (less && ballIn(less, own, [other], own ? [own] : [], BALL, real))
    return at && wrong('The kernel’s result is not what the triangles of the bodies make', at)
  } catch (e) {
    if (e instanceof MeshError) return 'unsure'
    throw e
  }
}

const wrong = (what: string, at: P3) =>
  bad(
    'not-right',
    `${what}, so it is not used. Move one of the bodies a little, so that their faces do not just touch.`,
    [{ at }],
  )

/** As far as triangles may lie off a surface that bends, mm: the kernel's come within what was asked, but not everywhere. */
const COARSE = 1

/** Whether a place lies in the material of a shape: near its surface by the true face there, else by its triangles. */
function holds(bench: Bench, x: Named, at: P3): boolean {
  const mesh = meshOf(bench, x)
  const tree = treeOf(mesh)
  const hit = noHit()
  if (tree.nearest(...at, COARSE, -1, hit)) {
    const [foot] = bench.kernel.feet(x.shape, [mesh.faceOf[hit.triangle]!], [at], undefined, true)
    if (foot?.out) return dot3(sub3(at, foot.at), foot.out) < 0
  }
  return inMaterial(mesh, tree, ...at)
}

/** Each solid of a shape that has several. */
function solidsOf({ kernel, keep }: Bench, { shape, names }: Named): Named[] {
  if (kernel.measure(shape).solids < 2) return []
  return kernel
    .solidFaces(shape)
    .map(({ solid, faces }) => ({ shape: keep(solid), names: faces.map((f) => names[f]!) }))
}

/** Pairs of solids whose boxes reach into each other. */
function pairsThatMayMeet(bench: Bench, all: readonly Named[]): [Named, Named][] {
  const boxed = all.map((x) => ({ x, box: measureMesh(meshOf(bench, x)).bounds }))
  return boxed.flatMap((a, i) =>
    boxed
      .slice(i + 1)
      .filter((b) =>
        [0, 1, 2].every((k) => a.box.min[k]! < b.box.max[k]! && b.box.min[k]! < a.box.max[k]!),
      )
      .map((b): [Named, Named] => [a.x, b.x]),
  )
}
