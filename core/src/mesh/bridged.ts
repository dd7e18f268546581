import { add3, dot3, frameAlong, outAt, outSums, type P3, placeAt, scale3, unit3 } from '../math'
import { type Hit, noHit, treeOf } from './tree'
import type { TriMesh } from './types'
import { weldIndexed } from './weld'

/** A closed mesh with its hollows filled, and how deep each of its corners lay before, mm. */
export interface Bridged {
  mesh: TriMesh
  depth: Float64Array
}

/** Steps until a ball lies on all it touches, and when it does, mm. */
const [STEPS, STILL] = [60, 1e-3]
/** A corner that would lie this little deeper than its neighbours is in no hollow, as a share of the ball: triangles stand for what is round. */
const NONE = 2e-3

/**
 * A closed mesh as a ball of radius `r`, mm, that rolls on it from outside feels it: its closing. Each corner in a hollow the ball does not
 * go into comes out to the ball that rests over it without digging in anywhere. Only corners `about` the place in
 * question are looked at.
 */
export function bridged(of: TriMesh, r: number, about: (at: P3) => boolean = () => true): Bridged {
  const mesh = weldIndexed(of)
  const [positions, normals] = [Float64Array.from(mesh.positions), outSums(mesh)]
  const depth = new Float64Array(positions.length / 3)
  const hit = noHit()
  let beside: P3 | null = null
  for (let v = 0; v < depth.length; v++) {
    const at = placeAt(mesh.positions, v)
    if (!about(at)) continue
    const normal = unit3(placeAt(normals, v))
    const ball = lowest(mesh, at, normal, beside ?? normal, r, hit)
    beside = ball.way
    if (ball.deep <= NONE * r || ball.deep === Number.POSITIVE_INFINITY) continue
    depth[v] = ball.deep
    positions.set(add3(at, scale3(ball.way, ball.deep)), 3 * v)
  }
  return { mesh: { positions, triangles: mesh.triangles }, depth }
}

/**
 * How near a ball comes to a place that digs in nowhere: the way it stands from there is turned by less and less to where it comes
 * nearest, begun out along the normal, or as `beside` it.
 */
function lowest(mesh: TriMesh, at: P3, normal: P3, beside: P3, r: number, hit: Hit) {
  let best = { way: normal, deep: above(mesh, at, normal, r, Number.POSITIVE_INFINITY, hit) }
  if (best.deep <= NONE * r) return best
  const warm = above(mesh, at, beside, r, best.deep, hit)
  if (warm < best.deep) best = { way: beside, deep: warm }
  for (let by = best.way === beside ? TURN / 4 : TURN; by > TURNED && best.deep > NONE * r; ) {
    const { x, y } = frameAlong(at, best.way)
    const before = best
    for (const side of [x, scale3(x, -1), y, scale3(y, -1)]) {
      const way = unit3(add3(before.way, scale3(side, by)))
      const deep = above(mesh, at, way, r, best.deep, hit)
      if (deep < best.deep) best = { way, deep }
    }
    if (best === before) by /= 2
  }
  return best
}
/** The turns that are tried, rad, from and to. */
const [TURN, TURNED] = [0.2, 0.02]

/**
 * How far a ball that stands one way from a place of a mesh has to be moved on that way until it stands free, mm; endless where that is
 * not less than `least`, or in the material.
 */
function above(mesh: TriMesh, at: P3, way: P3, r: number, least: number, hit: Hit): number {
  const tree = treeOf(mesh)
  let deep = 0
  for (let step = 0; step < STEPS; step++) {
    if (deep > least - STILL) return Number.POSITIVE_INFINITY
    const [x, y, z] = add3(at, scale3(way, r + deep))
    tree.nearest(x, y, z, Number.POSITIVE_INFINITY, -1, hit)
    if (hit.d > r - STILL) {
      const free = dot3(outAt(mesh, hit.triangle), [x - hit.x, y - hit.y, z - hit.z]) > 0
      return free ? deep : Number.POSITIVE_INFINITY
    }
    // Out of the reach of what is nearest.
    const b = way[0] * (x - hit.x) + way[1] * (y - hit.y) + way[2] * (z - hit.z)
    deep += Math.sqrt(b * b + r * r - hit.d * hit.d) - b
  }
  return deep
}
