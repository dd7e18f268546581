import { add3, cross3, lerp3, mean3, type P3, scale3, sub3, unit3 } from '../../math'
import { Groups } from '../../mesh'
import { type Cage, edgeKey, edgeOfKey, facesAtEdges } from '../layout'
import { Loose } from './loose'

/** Connected faces of some: two belong together where they share an edge. */
function groups(faces: readonly { corners: readonly number[] }[], chosen: readonly number[]) {
  const number = new Map(chosen.map((f, k) => [f, k]))
  const joined = new Groups(chosen.length)
  for (const [a, b] of facesAtEdges(faces, chosen).values())
    if (a !== undefined && b !== undefined) joined.join(number.get(a)!, number.get(b)!)
  return joined.lists().map((list) => list.map((k) => chosen[k]!))
}

/** Twice the area of a face along its normal (Newell's sum). */
export function faceVector(corners: readonly number[], at: readonly P3[]): P3 {
  let sum: P3 = [0, 0, 0]
  const from = at[corners[0]!]!
  for (let i = 1; i + 1 < corners.length; i++)
    sum = add3(sum, cross3(sub3(at[corners[i]!]!, from), sub3(at[corners[i + 1]!]!, from)))
  return sum
}

/**
 * Faces carried out by `by` mm along their normals (into the form below 0) and drawn together to `size` of what they were about the
 * middle of each group; walls join them to what stays. Faces side by side go together; of several lists each goes by itself.
 */
export function extrudeFaces(
  cage: Cage,
  lists: readonly (readonly number[])[],
  by: number,
  size: number,
  name: string,
): Cage {
  const loose = new Loose(cage)
  const out = [...loose.faces]
  const walls: { name: string; corners: number[] }[] = []
  // A point of two groups becomes two: each is called after the first face of its own.
  const called = (group: readonly number[], what: string) =>
    lists.length > 1 ? `${name}:${loose.faces[group[0]!]!.name}/${what}` : `${name}:${what}`
  for (const group of lists.flatMap((chosen) => groups(loose.faces, chosen))) {
    const inGroup = group.map((f) => loose.faces[f]!)
    const ways = new Map<number, P3>()
    const edges = new Map<string, [number, number] | null>()
    for (const { corners } of inGroup) {
      const normal = faceVector(corners, loose.at)
      for (const [i, p] of corners.entries()) {
        ways.set(p, add3(ways.get(p) ?? [0, 0, 0], normal))
        const q = corners[(i + 1) % corners.length]!
        const key = edgeKey(p, q)
        edges.set(key, edges.has(key) ? null : [p, q])
      }
    }
    const points = [...ways.keys()]
    const middle = mean3(points.map((p) => loose.at[p]!))
    const now = new Map<number, number>()
    for (const [p, way] of ways) {
      const to = add3(loose.at[p]!, scale3(unit3(way), by))
      const centre = add3(middle, scale3(unit3(way), by))
      now.set(p, loose.point(called(group, loose.points[p]!), lerp3(centre, to, size)))
    }
    for (const f of group) out[f] = { ...out[f]!, corners: out[f]!.corners.map((p) => now.get(p)!) }
    for (const edge of edges.values()) {
      if (!edge) continue
      const [p, q] = edge
      walls.push({
        name: called(group, `${loose.points[p]}~${loose.points[q]}`),
        corners: [p, q, now.get(q)!, now.get(p)!],
      })
      const sharp = loose.creases.get(edgeKey(p, q))
      if (sharp !== undefined) loose.creases.set(edgeKey(now.get(p)!, now.get(q)!), sharp)
    }
    for (const [key, edge] of edges) {
      if (edge) continue
      const sharp = loose.creases.get(key)
      if (sharp === undefined) continue
      const [a, b] = edgeOfKey(key)
      loose.creases.set(edgeKey(now.get(a)!, now.get(b)!), sharp)
    }
  }
  loose.faces = [...out, ...walls]
  return loose.cage()
}
