import { dot3, type P3, placeAt } from '../math'
import { type ExactPart, edgeLine } from './part'

/** Leans nearer to each other than this (rad) are the same: normals are single precision. */
const EVEN = 1e-5

/**
 * How much a face leans in along an edge of it, rad: 0 where it runs along `up`, more where it leans over the
 * side `up` looks away from. Null where it leans unevenly.
 */
export function leanAlong(p: ExactPart, edge: number, face: number, up: P3): number | null {
  const { flat, round } = p.faces[face]!
  if (flat) return snapped(Math.asin(clamped(dot3(p.faces[face]!.normal, up))))
  if (round && Math.abs(dot3(round.dir, up)) > 1 - 1e-12) return 0
  const normals = normalsOf(p, face)
  const leans = edgeLine(p, edge).flatMap((at) => {
    const n = normals.get(at.join())
    return n ? [Math.asin(clamped(dot3(n, up)))] : []
  })
  const [first] = leans
  if (first === undefined || leans.some((x) => Math.abs(x - first) > EVEN)) return null
  return snapped(leans.reduce((a, b) => a + b, 0) / leans.length)
}

const clamped = (x: number): number => Math.min(1, Math.max(-1, x))
const snapped = (x: number): number => (Math.abs(x) < EVEN ? 0 : x)

/** Normals of a face at the places of the triangles that show it. */
function normalsOf({ shown }: ExactPart, face: number): Map<string, P3> {
  const out = new Map<string, P3>()
  for (let t = 0; t < shown.faceOf.length; t++) {
    if (shown.faceOf[t] !== face) continue
    for (let k = 0; k < 3; k++) {
      const v = shown.triangles[3 * t + k]!
      out.set(placeAt(shown.positions, v).join(), placeAt(shown.normals, v))
    }
  }
  return out
}
