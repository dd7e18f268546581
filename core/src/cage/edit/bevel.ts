import {
  add3,
  bad,
  cross3,
  dot3,
  good,
  mm,
  norm3,
  type Outcome,
  type P3,
  placeAt,
  scale3,
  sub3,
  unit3,
} from '../../math'
import { type Cage, edgeKey, edgeOfKey } from '../layout'
import { type Table, tableOf } from '../limit/table'
import { faceVector } from './extrude'
import { Loose } from './loose'

/** Faces and edges of a fan between two edges that are cut off, or from such a one to the border. */
interface Sector {
  faces: number[]
  /** Edges it is bounded by that are cut off, and those between. */
  cut: number[]
  between: number[]
}
/** What becomes of a point: one of each of its sectors, in the order of the fan. */
interface Parted {
  now: number[]
  of: Map<number, number>
}

/**
 * Edges cut off: each becomes a strip of quads whose sides lie `by` mm from where it was, square to it in the faces beside. Where three and
 * more meet there is a face between them; where one ends inside the cage its strip runs to a point. Fails, with the most that goes, where
 * the strips would meet.
 */
export function bevelled(
  cage: Cage,
  edges: readonly (readonly [number, number])[],
  by: number,
  name: string,
): Outcome<Cage> {
  const table = tableOf(cage)
  if (!table.ok) return table
  const t = table.value
  const chosen = new Set(edges.map(([a, b]) => edgeKey(a, b)))
  const places = cage.layout.points.map((_, p) => placeAt(cage.at, p))
  const cut = Uint8Array.from({ length: t.edges }, (_, e) =>
    chosen.has(edgeKey(t.edgeEnds[2 * e]!, t.edgeEnds[2 * e + 1]!)) ? 1 : 0,
  )
  const rim = cut.findIndex((c, e) => c === 1 && t.edgeCorners[2 * e + 1] === -1)
  if (rim !== -1)
    return bad('cage-bevel', 'Only edges between two faces are cut off; this one is on the rim.', [
      { at: places[t.edgeEnds[2 * rim]!]! },
    ])
  const loose = new Loose(cage)
  const parted = new Map<number, Parted>()
  const ways = new Map<number, P3>()
  for (const p of new Set(edges.flat())) {
    const sectors = sectorsAt(t, p, cut)
    if (sectors.length < 2) continue
    const of = new Map<number, number>()
    const now = sectors.map((sector) => {
      const n = loose.point(
        `${name}:${loose.points[p]}/${loose.faces[sector.faces[0]!]!.name}`,
        [0, 0, 0],
      )
      ways.set(n, wayOf(t, p, sector, places))
      for (const f of sector.faces) of.set(f, n)
      return n
    })
    parted.set(p, { now, of })
  }
  const at = (p: number, f: number) => parted.get(p)?.of.get(f) ?? p
  const alone = edges.find(([a, b]) => !parted.has(a) && !parted.has(b))
  if (alone)
    return bad(
      'cage-bevel',
      'One edge alone is not cut off: choose a line of them, or all round.',
      [{ at: places[alone[0]]! }],
    )
  const most = mostOf(cage, at, ways, places)
  if (!(by > 0 && by < most))
    return bad(
      'cage-bevel',
      `Cut off by ${mm(by, 2)}, strips would meet: above 0 and below ${mm(most, 2)} goes here.`,
    )
  for (const [p, { now }] of parted)
    for (const n of now) loose.at[n] = add3(places[p]!, scale3(ways.get(n)!, by))

  // The face that runs along an edge, one way and the other.
  const along = new Map<string, number>()
  for (const [f, { corners }] of cage.layout.faces.entries())
    for (const [i, p] of corners.entries())
      along.set(`${p} ${corners[(i + 1) % corners.length]}`, f)
  const sharp = [...loose.creases]
  loose.creases.clear()
  for (const [key, s] of sharp) {
    if (chosen.has(key)) continue
    const [a, b] = edgeOfKey(key)
    const f = along.get(`${a} ${b}`) ?? along.get(`${b} ${a}`)!
    loose.creases.set(edgeKey(at(a, f), at(b, f)), s)
  }
  loose.faces = loose.faces.map(({ name: own, corners }, f) => ({
    name: own,
    corners: corners.map((p) => at(p, f)),
  }))
  for (const key of chosen) {
    const [a, b] = edgeOfKey(key)
    const [f, g] = [along.get(`${a} ${b}`)!, along.get(`${b} ${a}`)!]
    const corners = [...new Set([at(b, f), at(a, f), at(a, g), at(b, g)])]
    loose.faces.push({ name: `${name}:${loose.points[a]}~${loose.points[b]}`, corners })
  }
  for (const [p, { now }] of parted)
    if (now.length > 2) loose.faces.push({ name: `${name}:${loose.points[p]}`, corners: now })
  loose.rows = loose.rows.flatMap((row) => rowsOf(row, along, at, name))
  return good(loose.cage())
}

/** The sectors of a point's fan; one where a single edge ends inside. */
function sectorsAt(t: Table, p: number, cut: Uint8Array): Sector[] {
  const faces = t.pointFaces.subarray(t.faceRing[p]!, t.faceRing[p + 1]!)
  const edges = t.pointEdges.subarray(t.edgeRing[p]!, t.edgeRing[p + 1]!)
  const n = faces.length
  const open = edges.length > n
  const first = open ? 0 : edges.findIndex((e) => cut[e] === 1)
  if (first === -1) return []
  const out: Sector[] = []
  for (let k = 0; k < n; k++) {
    const e = edges[(first + k) % edges.length]!
    if (k === 0 || cut[e])
      out.push({ faces: [], cut: cut[e] ? [e] : [], between: cut[e] ? [] : [e] })
    else out[out.length - 1]!.between.push(e)
    out[out.length - 1]!.faces.push(faces[(first + k) % n]!)
    const next = edges[(first + k + 1) % edges.length]!
    if (cut[next]) out[out.length - 1]!.cut.push(next)
    else if (open && k === n - 1) out[out.length - 1]!.between = [next]
  }
  return out
}

/** Where the point of a sector goes for each mm cut off. */
function wayOf(t: Table, p: number, { faces, cut, between }: Sector, places: readonly P3[]): P3 {
  const to = (e: number): P3 => {
    const q = t.edgeEnds[2 * e] === p ? t.edgeEnds[2 * e + 1]! : t.edgeEnds[2 * e]!
    return unit3(sub3(places[q]!, places[p]!))
  }
  if (between.length > 0) {
    const way = unit3(between.map(to).reduce(add3))
    const sine = cut.reduce((s, e) => s + norm3(cross3(way, to(e))), 0) / cut.length
    return scale3(way, 1 / Math.max(sine, 0.1))
  }
  const f = faces[0]!
  const corners = [...t.corners.subarray(t.faceStart[f]!, t.faceStart[f + 1]!)]
  const normal = unit3(faceVector(corners, places))
  const i = corners.indexOf(p)
  const n = corners.length
  const [last, next] = [places[corners[(i + n - 1) % n]!]!, places[corners[(i + 1) % n]!]!]
  const [a, b] = [sub3(places[p]!, last), sub3(next, places[p]!)].map((e) =>
    unit3(cross3(normal, e)),
  ) as [P3, P3]
  // Square to both edges by as much.
  return scale3(add3(a, b), 1 / Math.max(1 + dot3(a, b), 0.1))
}

/** The least that brings an edge of a face to nothing, mm: what it loses is in proportion to what is cut off. */
function mostOf(
  { layout }: Cage,
  at: (p: number, f: number) => number,
  ways: ReadonlyMap<number, P3>,
  places: readonly P3[],
): number {
  let most = Number.POSITIVE_INFINITY
  const still: P3 = [0, 0, 0]
  for (const [f, { corners }] of layout.faces.entries())
    for (const [i, p] of corners.entries()) {
      const q = corners[(i + 1) % corners.length]!
      const edge = sub3(places[q]!, places[p]!)
      const way = (r: number) => ways.get(at(r, f)) ?? still
      const loss = -dot3(edge, sub3(way(q), way(p)))
      if (loss > 1e-9) most = Math.min(most, dot3(edge, edge) / loss)
    }
  return most
}

/** A row that was cut off along becomes two, one across takes both sides in. */
function rowsOf(
  { name: own, points }: { name: string; points: readonly number[] },
  along: ReadonlyMap<string, number>,
  at: (p: number, f: number) => number,
  name: string,
) {
  const n = points.length
  const side = (back: boolean) => {
    // A rim has a face on one side only.
    const face = (a: number, b: number) => {
      const [own, other] = [along.get(`${a} ${b}`), along.get(`${b} ${a}`)]
      return back ? (other ?? own) : (own ?? other)
    }
    const out: number[] = []
    for (const [i, p] of points.entries()) {
      const before = face(points[(i + n - 1) % n]!, p)
      const after = face(p, points[(i + 1) % n]!)
      for (const f of [before ?? after, after ?? before]) {
        const q = f === undefined ? p : at(p, f)
        if (!out.includes(q)) out.push(q)
      }
    }
    return out
  }
  const [low, high] = [side(true), side(false)]
  return low.join() === high.join()
    ? [{ name: own, points: low }]
    : [
        { name: own, points: low },
        { name: `${name}:${own}`, points: high },
      ]
}
