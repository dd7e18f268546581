import { cross3, dot3, norm3, type P3, placeAt, sub3 } from '../math'
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
  const { positions: p, triangles: t } = mesh
  const count = p.length / 3
  const normal = (i: number): P3 => {
    const [a, b, c] = [0, 1, 2].map((k) => placeAt(p, t[3 * i + k]!)) as [P3, P3, P3]
    return cross3(sub3(b, a), sub3(c, a))
  }
  /** The triangle on whose left an edge runs from one corner to another. */
  const left = new Map<number, number>()
  for (let k = 0; k < t.length; k++) left.set(t[k]! * count + t[k % 3 === 2 ? k - 2 : k + 1]!, k)
  const edges: number[] = []
  for (let k = 0; k < t.length; k++) {
    const [a, b] = [t[k]!, t[k % 3 === 2 ? k - 2 : k + 1]!]
    const twin = left.get(b * count + a)
    if (a > b || twin === undefined) continue
    const [own, other] = [normal(Math.floor(k / 3)), normal(Math.floor(twin / 3))]
    if (dot3(own, other) > SHARP * norm3(own) * norm3(other)) continue
    // A fold inwards holds nothing in the material.
    const apex = placeAt(p, t[twin % 3 === 0 ? twin + 2 : twin - 1]!)
    if (dot3(own, sub3(apex, placeAt(p, a))) < 0) edges.push(a, b, b)
  }
  if (edges.length === 0) return null
  const tree = new MeshTree({ positions: p, triangles: Uint32Array.from(edges) })
  const hit = noHit()
  return (at) => {
    tree.nearest(at[0], at[1], at[2], Number.POSITIVE_INFINITY, -1, hit)
    return hit.d
  }
}
