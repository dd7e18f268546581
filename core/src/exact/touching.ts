import type { BallSpot } from '../kernel'
import { type P3, placeAt, toSegment } from '../math'
import { MeshTree, noHit } from '../mesh'
import type { ExactPart } from './part'

/** A ball may touch a neighbouring face where the edge between lies nearer than this, mm. */
const BESIDE = 0.5

/** Places where balls touch by the triangles that show a part, with the faces they lie on. */
export function ballSpots(part: ExactPart, spots: readonly { at: P3; to: P3 }[]): BallSpot[] {
  const { positions, triangles, faceOf, lines, edgeOf } = part.shown
  const tree = new MeshTree({ positions, triangles })
  const hit = noHit()
  const faceAt = (at: P3): number =>
    tree.nearest(...at, Number.POSITIVE_INFINITY, -1, hit) ? faceOf[hit.triangle]! : 0
  return spots.map(({ at, to }) => {
    const faces = new Set([faceAt(to)])
    const [own] = faces
    for (const [i, e] of edgeOf.entries()) {
      const beside = part.edges[e]!.faces
      if (!beside.includes(own!) || beside.every((f) => faces.has(f))) continue
      if (toSegment(placeAt(lines, 2 * i), placeAt(lines, 2 * i + 1), to) < BESIDE)
        for (const f of beside) faces.add(f)
    }
    return { at, face: faceAt(at), to, faces: [...faces] }
  })
}
