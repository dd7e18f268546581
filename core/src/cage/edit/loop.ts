import { lerp3 } from '../../math'
import { type Cage, edgeKey, facesAtEdges } from '../layout'
import { Loose } from './loose'

/**
 * Edges across which a strip of quads runs from the edge (a, b), in its order and all pointing alike: as far as there are quads,
 * and round where it closes, or over so many each way. `at` are the faces at each edge.
 */
function stripAcross(
  { layout: { faces } }: Cage,
  at: ReadonlyMap<string, readonly number[]>,
  a: number,
  b: number,
  most: number,
): [number, number][] {
  const start = edgeKey(a, b)
  const walk = (avoid: number): { edges: [number, number][]; closed: boolean } => {
    const edges: [number, number][] = []
    let [p, q] = [a, b]
    for (let last = avoid; edges.length < Math.min(most, faces.length + 1); ) {
      const found = at.get(edgeKey(p, q))?.find((f) => f !== last)
      const corners = found === undefined ? [] : faces[found]!.corners
      if (found === undefined || corners.length !== 4) break
      const i = corners.indexOf(p)
      // The side over from (p, q), pointing the same way.
      const beside = corners[(i + 1) % 4] === q ? 3 : 1
      ;[p, q] = [corners[(i + beside) % 4]!, corners[(i + 2) % 4]!]
      if (edgeKey(p, q) === start) return { edges, closed: true }
      edges.push([p, q])
      last = found
    }
    return { edges, closed: false }
  }
  const sides = at.get(start) ?? []
  if (sides.length === 0) return []
  // The first way goes over the first face, the second over the other.
  const forward = walk(sides[1] ?? -1)
  if (forward.closed || sides.length < 2) return [[a, b], ...forward.edges]
  return [...walk(sides[0]!).edges.reverse(), [a, b], ...forward.edges]
}

/**
 * A line of new points across strips of quads, `share` of the way from the first end of each given edge to the second; over so many faces
 * each way at `most`, over none a point on the edge alone. What a line ends at takes the last point in, so that no half-joined point remains.
 */
export function insertLoops(
  cage: Cage,
  starts: readonly (readonly [number, number])[],
  share: number,
  name: string,
  most = Number.POSITIVE_INFINITY,
): Cage {
  const loose = new Loose(cage)
  const at = facesAtEdges(cage.layout.faces)
  const cut = new Map<string, number>()
  for (const [a, b] of starts) {
    if (cut.has(edgeKey(a, b))) continue
    const edges = stripAcross(cage, at, a, b, most)
    const line: number[] = []
    for (const [p, q] of edges) {
      const key = edgeKey(p, q)
      if (cut.has(key)) continue
      const place = lerp3(loose.at[p]!, loose.at[q]!, share)
      const n = loose.point(`${name}:${loose.points[p]}~${loose.points[q]}`, place)
      cut.set(key, n)
      line.push(n)
      const sharp = loose.creases.get(key)
      if (sharp === undefined) continue
      loose.creases.set(edgeKey(p, n), sharp)
      loose.creases.set(edgeKey(n, q), sharp)
    }
    rowBetween(loose, cage, edges, line, name)
  }
  loose.faces = loose.faces.flatMap((face) => parted(loose, face, cut, name))
  return loose.cage()
}

/** A line that runs between two rows is a row between them. */
function rowBetween(
  loose: Loose,
  cage: Cage,
  edges: readonly (readonly [number, number])[],
  line: readonly number[],
  name: string,
): void {
  const { rows } = cage.layout
  const of = (p: number) => rows.findIndex((r) => r.points.includes(p))
  const [low, high] = [of(edges[0]![0]), of(edges[0]![1])]
  const whole = (k: number) => k !== -1 && rows[k]!.points.length === line.length
  if (Math.abs(low - high) !== 1 || !whole(low) || !whole(high)) return
  const first = rows[Math.min(low, high)]!
  const order = new Map(edges.map(([p, q], k) => [low < high ? p : q, line[k]!]))
  const points = first.points.map((p) => order.get(p)!)
  if (points.includes(undefined as never)) return
  const at = loose.rows.findIndex((r) => r.name === first.name)
  loose.rows.splice(at + 1, 0, { name, points })
}

/** A face cut where its edges were: a quad over two opposite ones in two, and any other takes the points in. */
function parted(
  loose: Loose,
  face: { name: string; corners: readonly number[] },
  cut: ReadonlyMap<string, number>,
  name: string,
) {
  const { corners } = face
  const at = corners.map((p, i) => cut.get(edgeKey(p, corners[(i + 1) % corners.length]!)))
  const found = at.filter((p) => p !== undefined).length
  if (found === 0) return [face]
  if (corners.length === 4 && found === 4) {
    const middle = loose.point(
      `${name}:${face.name}`,
      [0, 1, 2].map((d) => corners.reduce((s, p) => s + loose.at[p]![d]!, 0) / 4) as never,
    )
    return corners.map((p, i) => ({
      name: i === 0 ? face.name : `${name}:${face.name}/${i}`,
      corners: [p, at[i]!, middle, at[(i + 3) % 4]!],
    }))
  }
  const first = at.findIndex((p, i) => p !== undefined && at[(i + 2) % 4] !== undefined)
  if (corners.length !== 4 || found !== 2 || first === -1)
    return [
      {
        name: face.name,
        corners: corners.flatMap((p, i) => (at[i] === undefined ? [p] : [p, at[i]!])),
      },
    ]
  const [m, n] = [at[first]!, at[(first + 2) % 4]!]
  const c = (k: number) => corners[(first + k) % 4]!
  return [
    { name: face.name, corners: [c(0), m, n, c(3)] },
    { name: `${name}:${face.name}`, corners: [m, c(1), c(2), n] },
  ]
}
