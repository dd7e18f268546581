import { bad, dot3, good, type Outcome, type P2, type P3, placeAt, sub3, unit3 } from '../../math'
import { type FacedMesh, filledLoop, Groups, weldFaced } from '../../mesh'
import { faceVector } from '../edit/extrude'
import { openLoops } from '../edit/holes'
import { type Cage, ENDLESS, facesAtEdges } from '../layout'
import { CageSkinner } from '../limit/skin'
import { tableOf } from '../limit/table'

/** How far what bounds a flat end may lie off its plane, mm: places are single precision. */
const PLANE = 1e-3

/**
 * The limit of a cage refined `level` times as a closed mesh: each corner of a triangle lies on the limit. Faces of the cage that no edge
 * of no end keeps apart are one face, named by the first of them; openings that lie in a plane are shut by `end1`, `end2` …
 */
export function meshed(cage: Cage, level: number): Outcome<{ mesh: FacedMesh; names: string[] }> {
  const made = tableOf(cage)
  if (!made.ok) return made
  const table = made.value
  const { positions, triangles } = new CageSkinner(table, level).skin(cage)
  const { group, names } = grouped(cage)
  // Faces of a refined table follow those before by their corners.
  const quads = 4 ** (level - 1)
  const faceOf = Uint32Array.from({ length: triangles.length / 3 }, (_, t) =>
    group(table.cornerFace[Math.floor(t / 2 / quads)]!),
  )
  const skin = weldFaced({ positions, triangles, faceOf })
  const faces = Array.from({ length: skin.triangles.length / 3 }, (_, t) => ({
    corners: [...skin.triangles.subarray(3 * t, 3 * t + 3)],
  }))
  const more: number[] = []
  const ends: number[] = []
  for (const [k, loop] of openLoops({ layout: { faces } as never }).entries()) {
    const cap = flatly(loop, skin)
    if (!cap)
      return bad(
        'cage-open',
        'An opening of the cage lies in no plane: fill it, or flatten its points.',
        [{ at: placeAt(skin.positions, loop[0]!) }],
      )
    more.push(...cap)
    for (let i = 0; i < cap.length; i += 3) ends.push(names.length + k)
  }
  const caps = new Set(ends).size
  return good({
    mesh: {
      positions: skin.positions,
      triangles: Uint32Array.from([...skin.triangles, ...more]),
      faceOf: Uint32Array.from([...skin.faceOf, ...ends]),
    },
    names: [...names, ...Array.from({ length: caps }, (_, k) => `end${k + 1}`)],
  })
}

/** Which faces of a cage run on in each other, by number, and the name of the first of each. */
function grouped({ layout: { faces, creases } }: Cage) {
  const joined = new Groups(faces.length)
  for (const [key, at] of facesAtEdges(faces))
    if (at.length === 2 && (creases.get(key) ?? 0) < ENDLESS) joined.join(at[0]!, at[1]!)
  const lists = joined.lists()
  const of = new Map(lists.flatMap((list, g) => list.map((f) => [f, g] as const)))
  return {
    group: (face: number) => of.get(face)!,
    names: lists.map((list) => faces[Math.min(...list)]!.name),
  }
}

/** Triangles over a loop that lies in a plane; null where it does not. */
function flatly(loop: readonly number[], { positions }: FacedMesh): number[] | null {
  const places = loop.map((p) => placeAt(positions, p))
  const normal = unit3(faceVector([...places.keys()], places))
  const [from] = places as [P3]
  if (places.some((p) => Math.abs(dot3(sub3(p, from), normal)) > PLANE)) return null
  // Seen along the axis it faces most, the same way round.
  const k = [0, 1, 2].reduce((a, b) => (Math.abs(normal[b]!) > Math.abs(normal[a]!) ? b : a), 0)
  const [u, v] = normal[k]! > 0 ? [(k + 1) % 3, (k + 2) % 3] : [(k + 2) % 3, (k + 1) % 3]
  const flat = places.map((p): P2 => [p[u]!, p[v]!])
  const out = filledLoop(flat)
  for (let i = 0; i < out.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((j) => flat[out[i + j]!]!) as [P2, P2, P2]
    const turn = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])
    if (turn < 0) [out[i], out[i + 1]] = [out[i + 1]!, out[i]!]
  }
  return out.map((i) => loop[i]!)
}
