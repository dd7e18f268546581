import { type ExactPart, formJob } from '../../exact'
import { good, norm3, type Outcome, type P3, sub3 } from '../../math'
import { type FacedMesh, MeshTree, noHit, withoutFace } from '../../mesh'
import type { OpContext } from '../state'

/** Places that are looked at on true surfaces. */
const NEAREST = 40

/**
 * The least distance from places to a body, or to all its faces but one: those nearest by triangles, then on the true surfaces. An op
 * that waits for the kernel is run again: the places are asked for once.
 */
export function nearestOf(
  places: () => readonly P3[],
  body: ExactPart,
  ctx: OpContext,
  besides = -1,
): Outcome<{ d: number; at: P3 }> {
  const near = ctx.once('nearest', () => byTriangles(places(), withoutFace(body.shown, besides)))
  const read = ctx.kernel(
    formJob(body.key, {
      seams: false,
      ribbons: [],
      feet: { faces: [...new Set(near.map((n) => n.face))], from: near.map((n) => n.at) },
    }),
  )
  if (!read.ok) return read
  const feet = read.value[0]!.form!.feet
  let [d, at] = [Number.POSITIVE_INFINITY, near[0]!.at]
  for (const [i, n] of near.entries()) {
    const foot = feet[i]
    const off = foot ? norm3(sub3(foot.at, n.at)) : n.d
    if (off < d) [d, at] = [off, n.at]
  }
  return good({ d, at })
}

function byTriangles(places: readonly P3[], mesh: FacedMesh) {
  const tree = new MeshTree(mesh)
  const hit = noHit()
  return places
    .map((at) => {
      tree.nearest(...at, Number.POSITIVE_INFINITY, -1, hit)
      return { at, d: hit.d, face: mesh.faceOf[hit.triangle]! }
    })
    .sort((a, b) => a.d - b.d)
    .slice(0, NEAREST)
}
