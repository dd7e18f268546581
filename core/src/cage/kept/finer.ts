import type { Outcome } from '../../math'
import { good } from '../../math'
import { type Cage, type CageFace, ENDLESS, edgeKey } from '../layout'
import { refinedLevel } from '../limit/refine'
import { lastCorner, tableOf } from '../limit/table'

/** What is left of a sharpness after a step of refinement. */
const later = (sharp: number): number => (sharp >= ENDLESS ? ENDLESS : Math.max(0, sharp - 1))

/**
 * The cage refined once: each face becomes as many quads as it has corners, the limit stays where it is. Points keep their names; new
 * ones are called `name:a~b` on an edge and `name:f` in a face, faces `name:f.k` at the k-th corner of face f. Rows take in the points
 * on their edges.
 */
export function finer(cage: Cage, name: string): Outcome<Cage> {
  const { layout, at } = cage
  const made = tableOf(cage)
  if (!made.ok) return made
  const t = made.value
  const child = refinedLevel({ table: t, at })
  const edges = new Map<string, number>()
  const points = [...layout.points]
  for (let e = 0; e < t.edges; e++) {
    const [a, b] = [t.edgeEnds[2 * e]!, t.edgeEnds[2 * e + 1]!]
    edges.set(edgeKey(a, b), t.points + e)
    points.push(`${name}:${layout.points[a]}~${layout.points[b]}`)
  }
  for (const f of layout.faces) points.push(`${name}:${f.name}`)
  const faces: CageFace[] = []
  for (let c = 0; c < t.corners.length; c++) {
    const f = t.cornerFace[c]!
    faces.push({
      name: `${name}:${layout.faces[f]!.name}.${c - t.faceStart[f]!}`,
      corners: [
        t.corners[c]!,
        t.points + t.cornerEdge[c]!,
        t.points + t.edges + f,
        t.points + t.cornerEdge[lastCorner(t, c)]!,
      ],
    })
  }
  const creases = new Map<string, number>()
  for (const [key, sharp] of layout.creases) {
    const middle = edges.get(key)
    if (middle === undefined || !(later(sharp) > 0)) continue
    for (const end of key.split(' ')) creases.set(edgeKey(Number(end), middle), later(sharp))
  }
  const peaks = new Map<number, number>()
  for (const [p, sharp] of layout.peaks) if (later(sharp) > 0) peaks.set(p, later(sharp))
  const rows = layout.rows.map((row) => ({
    name: row.name,
    points: row.points.flatMap((p, i, all) => {
      const middle = edges.get(edgeKey(p, all[(i + 1) % all.length]!))
      // A row of two has one edge only.
      return middle === undefined || (all.length === 2 && i === 1) ? [p] : [p, middle]
    }),
  }))
  return good({ layout: { points, faces, creases, peaks, rows }, at: child.at })
}
