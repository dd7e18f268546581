import { type MeshTree, noHit } from './tree'
import type { TriMesh } from './types'

/** How near a reach is found, mm, and the least step towards it: where a floor is just as far as the wall asks, nothing else moves on. */
const [NEAR, STEP] = [1e-3, 0.25]

/** The distance from a mesh of the ring of radius r about an upright axis at height z, at so many places round it. */
export function ringAway(
  tree: MeshTree,
  [cx, cy]: readonly [number, number],
  r: number,
  z: number,
  around: number,
  within: number,
): { d: number; angle: number } {
  const hit = noHit()
  let [least, at] = [within, 0]
  for (let k = 0; k < (r > 0 ? around : 1); k++) {
    const a = (2 * Math.PI * k) / around
    if (tree.nearest(cx + r * Math.cos(a), cy + r * Math.sin(a), z, least, -1, hit)) {
      least = hit.d
      at = a
    }
  }
  return { d: least, angle: at }
}

/**
 * How far a round room about an upright axis can reach at each height and stay `wall` from a mesh all round: traced from the axis
 * outward by what is free, which distances never let pass a wall. 0 where the axis itself is nearer.
 */
export function roomAbout(
  tree: MeshTree,
  centre: readonly [number, number],
  heights: readonly number[],
  wall: number,
  around: number,
  most: number,
): number[] {
  const free = (r: number, z: number) => ringAway(tree, centre, r, z, around, most).d - wall
  return heights.map((z) => {
    let [r, low] = [0, 0]
    let f = free(0, z)
    if (f < -NEAR) return 0
    while (f >= -NEAR && r < most) {
      low = r
      r += Math.max(f, STEP)
      f = free(r, z)
    }
    for (let high = r; high - low > NEAR; ) {
      const mid = (low + high) / 2
      if (free(mid, z) >= -NEAR) low = mid
      else high = mid
    }
    return low
  })
}

/** Whether a place lies in the material: the first triangle that a level ray meets there looks along it. */
export function inMaterial(
  mesh: TriMesh,
  tree: MeshTree,
  x: number,
  y: number,
  z: number,
): boolean {
  const hit = noHit()
  // Along no likely edge.
  const [ux, uy] = [Math.cos(0.7391), Math.sin(0.7391)]
  if (!tree.along(x, y, z, ux, uy, 0, 0, Number.POSITIVE_INFINITY, hit)) return false
  const { positions: p, triangles: t } = mesh
  const corner = (k: number, d: number) => p[3 * t[3 * hit.triangle + k]! + d]!
  const u = [0, 1, 2].map((d) => corner(1, d) - corner(0, d)) as [number, number, number]
  const v = [0, 1, 2].map((d) => corner(2, d) - corner(0, d)) as [number, number, number]
  return ux * (u[1] * v[2] - u[2] * v[1]) + uy * (u[2] * v[0] - u[0] * v[2]) > 0
}
