import type { BallSpot, Side } from '../kernel'
import { type P3, placeAt, toSegment } from '../math'
import { gapField, type Held, heldAt, MeshTree, noHit, type WallField, wallField } from '../mesh'
import type { ExactPart } from './part'

/** A ball may touch a neighbouring face where the edge between lies nearer than this, mm. */
const BESIDE = 0.5

/** The triangles that show a part, each in its face's order. */
const meshes = new WeakMap<ExactPart, { positions: Float32Array; triangles: Uint32Array }>()

/**
 * The wall of a body, or the gaps in it, by the triangles that show it, but where two of its faces meet in an edge: there a ball is as
 * large as its way to the edge lets it be.
 */
export function wallOf(part: ExactPart, side: Side = 'in'): WallField | null {
  const field = side === 'in' ? wallField : gapField
  if (part.kind === 'mesh') return field(part.mesh)
  const { positions, triangles } = part.shown
  const mesh = meshes.get(part) ?? { positions, triangles }
  meshes.set(part, mesh)
  return field(mesh, () => heldBy(part, side))
}

function heldBy({ shown: { faceOf, lines, edgeOf }, edges }: ExactPart, side: Side): Held {
  // The lines in which two faces meet, by their faces.
  const between = new Map<string, number[]>()
  for (const [i, e] of edgeOf.entries()) {
    const { faces, bend } = edges[e]!
    if (faces.length !== 2 || bend !== (side === 'in' ? 'out' : 'in')) continue
    const key = keyOf(faces[0]!, faces[1]!)
    const list = between.get(key)
    if (list) list.push(i)
    else between.set(key, [i])
  }
  return (own, other, at, wall, angle) => {
    const [f, g] = [faceOf[own]!, faceOf[other]!]
    const list = f === g ? undefined : between.get(keyOf(f, g))
    if (!list) return false
    const far = Math.min(
      ...list.map((i) => toSegment(placeAt(lines, 2 * i), placeAt(lines, 2 * i + 1), at)),
    )
    return heldAt(wall, angle, far)
  }
}
const keyOf = (f: number, g: number): string => (f < g ? `${f} ${g}` : `${g} ${f}`)

/** Places where balls touch by the triangles that show a part, with the faces they lie on. */
export function ballSpots(
  part: ExactPart,
  spots: readonly { at: P3; to: P3 }[],
  side: Side,
): BallSpot[] {
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
    return { at, face: faceAt(at), to, faces: [...faces], side }
  })
}
