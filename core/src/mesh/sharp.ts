import { dot3, norm3, outAt, type P3, placeAt, sub3 } from '../math'
import { edgesOf } from './mend/shells'
import { MeshTree, noHit } from './tree'
import type { TriMesh } from './types'

/** Two sides that meet in an edge hold a ball between them where their normals turn over it by more than this, as the cosine: 120 deg. */
const SHARP = -0.5
/** How nearly a ball lies where an edge of its angle would hold it, as a share of how far off that is. */
const NEARLY = 0.75

/** Whether a ball (mm across) that touches two sides at an angle (rad) is held by the edge, so far from where it touches, in which they meet. */
export const heldAt = (wall: number, angle: number, far: number): boolean =>
  Math.abs(wall / (2 * Math.tan(angle / 2)) - far) <= NEARLY * far

/** Tells how far a place is from the nearest edge of a mesh over which its outside turns sharply, mm; null where it has none. */
export function toSharpEdges(mesh: TriMesh): ((at: P3) => number) | null {
  const { positions, triangles } = mesh
  const edges: number[] = []
  for (const own of edgesOf(mesh).values()) {
    if (own.length !== 2) continue
    const [s, t] = own.map((k) => Math.floor(k / 3)) as [number, number]
    const [m, n] = [outAt(mesh, s), outAt(mesh, t)]
    if (dot3(m, n) > SHARP * norm3(m) * norm3(n)) continue
    const [k, l] = own as [number, number]
    const [a, b] = [triangles[k]!, triangles[3 * s + ((k + 1) % 3)]!]
    // A fold inwards holds nothing in the material.
    const apex = placeAt(positions, triangles[3 * t + ((l + 2) % 3)]!)
    if (dot3(m, sub3(apex, placeAt(positions, a))) < 0) edges.push(a, b, b)
  }
  if (edges.length === 0) return null
  const tree = new MeshTree({ positions, triangles: Uint32Array.from(edges) })
  const hit = noHit()
  return (at) => {
    tree.nearest(at[0], at[1], at[2], Number.POSITIVE_INFINITY, -1, hit)
    return hit.d
  }
}
