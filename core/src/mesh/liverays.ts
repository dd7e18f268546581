import type { P3 } from '../math'
import { noHit, treeOf } from './tree'
import type { TriMesh } from './types'

/** A ray that goes farther than this tells no wall, mm. */
const FAR = 60
/** Rays begin so far off what they stand on, mm. */
const OFF = 1e-6

/**
 * The least wall from places of an outside skin (normals out) in to the skin of a room, by rays along the normals: at most about `most` of
 * them. Below 0 where the room stands out of the skin. Null where no ray meets the room.
 */
export function wallByRays(
  { positions: p, normals: n }: { positions: Float32Array; normals: Float32Array },
  room: TriMesh,
  most: number,
): { wall: number; at: P3 } | null {
  const tree = treeOf(room)
  const hit = noHit()
  const count = p.length / 3
  const step = Math.max(1, Math.floor(count / most))
  let [wall, where] = [Number.POSITIVE_INFINITY, -1]
  for (let v = 0; v < count; v += step) {
    const [x, y, z] = [p[3 * v]!, p[3 * v + 1]!, p[3 * v + 2]!]
    const [a, b, c] = [n[3 * v]!, n[3 * v + 1]!, n[3 * v + 2]!]
    // Out of the skin nothing of the room is met, unless it has come through.
    const through = tree.along(x, y, z, a, b, c, OFF, FAR, hit)
    if (!through && !tree.along(x, y, z, -a, -b, -c, -OFF, FAR, hit)) continue
    const d = through ? -hit.d : hit.d
    if (d < wall) [wall, where] = [d, v]
  }
  return where === -1 ? null : { wall, at: [p[3 * where]!, p[3 * where + 1]!, p[3 * where + 2]!] }
}
