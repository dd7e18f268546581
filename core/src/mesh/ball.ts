import { cornersAt, cross3, norm3, type P3, placeAt, sub3 } from '../math'
import { inMaterial } from './room'
import { noHit, treeOf } from './tree'
import type { TriMesh } from './types'

/** Places tried along each side of a large triangle at most. */
const MOST = 8

/**
 * Where a ball of radius `r` mm lies within the material of some closed meshes and wholly without that of others; null where none
 * was found, looked for behind places of `rest` (what they bound together) no further apart than about twice the ball, beside those of
 * its corners that lie off the surface of `own`, one of them (all where it is null): `real` has the last word on each place.
 */
export function ballIn(
  rest: TriMesh,
  own: TriMesh | null,
  within: readonly TriMesh[],
  without: readonly TriMesh[],
  r: number,
  real: (at: P3) => boolean,
): P3 | null {
  const hit = noHit()
  // Slivers run beside the surfaces of all: only where a corner is off one of them is there room to look for.
  const ownTree = own && treeOf(own)
  const off = Array.from({ length: rest.positions.length / 3 }, (_, v) => {
    const [x, y, z] = placeAt(rest.positions, v)
    return !ownTree?.nearest(x, y, z, 1.9 * r, -1, hit)
  })
  if (!off.includes(true)) return null
  const sides = [...within, ...without].map((mesh, i) => ({
    mesh,
    tree: treeOf(mesh),
    inside: i < within.length,
  }))
  for (let t = 0; t < rest.triangles.length / 3; t++) {
    if (![0, 1, 2].some((k) => off[rest.triangles[3 * t + k]!])) continue
    const [a, b, c] = cornersAt(rest, t)
    const [u, v] = [sub3(b, a), sub3(c, a)]
    const n = cross3(u, v)
    const size = norm3(n)
    if (size < 1e-9) continue
    const steps = Math.min(MOST, Math.max(1, Math.ceil(Math.sqrt(size) / (4 * r))))
    for (let i = 0; i < steps; i++)
      for (let j = 0; j < steps - i; j++) {
        const [s, w] = [(i + 1 / 3) / steps, (j + 1 / 3) / steps]
        const at = (k: 0 | 1 | 2) => a[k] + s * u[k] + w * v[k] - (r * n[k]) / size
        const [x, y, z] = [at(0), at(1), at(2)]
        // No surface nearer than (almost) the ball's own radius.
        if (sides.some(({ tree }) => tree.nearest(x, y, z, 0.95 * r, -1, hit))) continue
        if (sides.some(({ mesh, tree, inside }) => inMaterial(mesh, tree, x, y, z) !== inside))
          continue
        if (real([x, y, z])) return [x, y, z]
      }
  }
  return null
}
