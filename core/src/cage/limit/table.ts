import { bad, type Diagnosis, good, type Outcome, type P3, placeAt } from '../../math'
import { type Cage, ENDLESS, edgeKey, edgeOfKey } from '../layout'

/**
 * What touches what in a cage, as integers. Corner c is a place in a face and the edge from there to the next one; going round a
 * point against the clock (seen from outside) come `pointEdges[k]`, `pointFaces[k]`, `pointEdges[k + 1]` ...
 */
export interface Table {
  readonly points: number
  readonly faces: number
  readonly edges: number
  /** Corners of face f are `faceStart[f]` up to `faceStart[f + 1]`. */
  readonly faceStart: Int32Array
  readonly corners: Int32Array
  readonly cornerEdge: Int32Array
  /** Face of each corner. */
  readonly cornerFace: Int32Array
  readonly edgeEnds: Int32Array
  /** Corners whose edge it is, the second -1 on a border. */
  readonly edgeCorners: Int32Array
  readonly faceRing: Int32Array
  readonly pointFaces: Int32Array
  readonly edgeRing: Int32Array
  readonly pointEdges: Int32Array
  /** 0 is smooth; a border and what never smooths out are infinite. */
  readonly edgeSharp: Float64Array
  readonly pointSharp: Float64Array
}

/** What a table is made from: everything else follows. */
interface Bare {
  points: number
  edges: number
  faceStart: Int32Array
  corners: Int32Array
  cornerEdge: Int32Array
}

export const nextCorner = (t: Pick<Table, 'faceStart' | 'cornerFace'>, c: number): number => {
  const f = t.cornerFace[c]!
  return c + 1 < t.faceStart[f + 1]! ? c + 1 : t.faceStart[f]!
}
export const lastCorner = (t: Pick<Table, 'faceStart' | 'cornerFace'>, c: number): number => {
  const f = t.cornerFace[c]!
  return c > t.faceStart[f]! ? c - 1 : t.faceStart[f + 1]! - 1
}
/** The corner on the other side of a corner's edge; -1 on a border. */
export const twinOf = (t: Pick<Table, 'cornerEdge' | 'edgeCorners'>, c: number): number => {
  const e = 2 * t.cornerEdge[c]!
  return t.edgeCorners[e] === c ? t.edgeCorners[e + 1]! : t.edgeCorners[e]!
}

/** Rings round points from the corners; `onTwist` is told of a point whose faces do not go round it once. */
export function ringed(
  { points, edges, faceStart, corners, cornerEdge }: Bare,
  sharp: (e: number) => number,
  peak: (p: number) => number,
  onTwist?: (point: number) => void,
): Table {
  const faces = faceStart.length - 1
  const n = corners.length
  const cornerFace = new Int32Array(n)
  for (let f = 0; f < faces; f++) cornerFace.fill(f, faceStart[f]!, faceStart[f + 1]!)
  const edgeEnds = new Int32Array(2 * edges).fill(-1)
  const edgeCorners = new Int32Array(2 * edges).fill(-1)
  const faceRing = new Int32Array(points + 1)
  const shape = { faceStart, cornerFace, cornerEdge, edgeCorners }
  for (let c = 0; c < n; c++) {
    const e = 2 * cornerEdge[c]!
    if (edgeEnds[e] === -1) {
      edgeEnds[e] = corners[c]!
      edgeEnds[e + 1] = corners[nextCorner(shape, c)]!
      edgeCorners[e] = c
    } else edgeCorners[e + 1] = c
    faceRing[corners[c]! + 1]!++
  }
  const edgeSharp = new Float64Array(edges)
  for (let e = 0; e < edges; e++) {
    const s = sharp(e)
    edgeSharp[e] = edgeCorners[2 * e + 1] === -1 || s >= ENDLESS ? Number.POSITIVE_INFINITY : s
  }
  // Where a fan begins: at the border if there is one.
  const first = new Int32Array(points).fill(-1)
  const open = new Uint8Array(points)
  for (let c = 0; c < n; c++) {
    const p = corners[c]!
    if (first[p] === -1) first[p] = c
    if (edgeCorners[2 * cornerEdge[c]! + 1] !== -1) continue
    first[p] = c
    open[p] = 1
  }
  const edgeRing = new Int32Array(points + 1)
  for (let p = 0; p < points; p++) {
    edgeRing[p + 1] = edgeRing[p]! + faceRing[p + 1]! + open[p]!
    faceRing[p + 1]! += faceRing[p]!
  }
  const pointFaces = new Int32Array(faceRing[points]!)
  const pointEdges = new Int32Array(edgeRing[points]!)
  const pointSharp = new Float64Array(points)
  for (let p = 0; p < points; p++) {
    const s = peak(p)
    const count = faceRing[p + 1]! - faceRing[p]!
    pointSharp[p] = s >= ENDLESS || (open[p] && count === 1) ? Number.POSITIVE_INFINITY : s
    let [c, k] = [first[p]!, 0]
    for (; k < count && c !== -1; k++) {
      pointFaces[faceRing[p]! + k] = cornerFace[c]!
      pointEdges[edgeRing[p]! + k] = cornerEdge[c]!
      const back = lastCorner(shape, c)
      if (open[p] && k === count - 1) pointEdges[edgeRing[p]! + count] = cornerEdge[back]!
      c = twinOf(shape, back)
      if (c === first[p]) {
        k++
        break
      }
    }
    if (k < count) onTwist?.(p)
  }
  return {
    points,
    faces,
    edges,
    faceStart,
    corners,
    cornerEdge,
    cornerFace,
    edgeEnds,
    edgeCorners,
    faceRing,
    pointFaces,
    edgeRing,
    pointEdges,
    edgeSharp,
    pointSharp,
  }
}

/** The table of a cage; a diagnosis with places where its faces are no skin. */
export function tableOf({ layout, at }: Cage): Outcome<Table> {
  const { faces } = layout
  const points = layout.points.length
  const here = (p: number): { at: P3 } => ({ at: placeAt(at, p) })
  if (faces.length === 0) return bad('cage-empty', 'The cage has no faces.')
  const faceStart = new Int32Array(faces.length + 1)
  for (const [f, { corners }] of faces.entries()) {
    if (corners.length < 3 || new Set(corners).size < corners.length)
      return bad('cage-face', 'A face of the cage comes to one of its points twice.', [
        here(corners[0] ?? 0),
      ])
    faceStart[f + 1] = faceStart[f]! + corners.length
  }
  const corners = Int32Array.from(faces.flatMap((f) => f.corners))
  const cornerEdge = new Int32Array(corners.length)
  const numbers = new Map<string, number>()
  const ways = new Map<number, number[]>()
  for (let f = 0; f < faces.length; f++)
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const [a, b] = [corners[c]!, corners[c + 1 < faceStart[f + 1]! ? c + 1 : faceStart[f]!]!]
      const key = edgeKey(a, b)
      const e = numbers.get(key) ?? numbers.size
      numbers.set(key, e)
      cornerEdge[c] = e
      const from = ways.get(e) ?? []
      from.push(a)
      ways.set(e, from)
    }
  const keys = [...numbers.keys()]
  const wrong = [...ways].flatMap(([e, from]) =>
    from.length > 2 || (from.length === 2 && from[0] === from[1]) ? [{ e, many: from.length }] : [],
  )
  if (wrong.length > 0) return offEdges(wrong, keys, here)
  const stray = [...layout.creases.keys()].filter((k) => !numbers.has(k))
  if (stray.length > 0)
    return bad(
      'cage-crease',
      'A crease lies where the cage has no edge.',
      stray.map((k) => here(edgeOfKey(k)[0])),
    )
  const twisted: number[] = []
  const table = ringed(
    { points, edges: keys.length, faceStart, corners, cornerEdge },
    (e) => layout.creases.get(keys[e]!) ?? 0,
    (p) => layout.peaks.get(p) ?? 0,
    (p) => twisted.push(p),
  )
  if (twisted.length > 0)
    return bad(
      'cage-pinch',
      'Faces of the cage meet only in a point here; weld or part them.',
      twisted.map(here),
    )
  const loose = Array.from({ length: points }, (_, p) => p).filter(
    (p) => table.faceRing[p] === table.faceRing[p + 1],
  )
  if (loose.length > 0)
    return bad('cage-loose', 'A point of the cage belongs to no face.', loose.map(here))
  return good(table)
}

function offEdges(
  wrong: readonly { e: number; many: number }[],
  keys: readonly string[],
  here: (p: number) => { at: P3 },
): { ok: false; diagnosis: Diagnosis } {
  const places = wrong.map(({ e }) => here(edgeOfKey(keys[e]!)[0]))
  return wrong.some((w) => w.many > 2)
    ? bad('cage-edge', 'Three or more faces of the cage meet in one edge here.', places)
    : bad('cage-turned', 'Faces of the cage that meet here look to different sides.', places)
}
