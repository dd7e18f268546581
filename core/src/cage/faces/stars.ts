import { type Level, refinedLevel } from '../limit/refine'
import { ringed, type Table } from '../limit/table'

/** A cage about one star, and of each corner at the star in a first table, that corner there. */
export interface About {
  readonly level: Level
  readonly corners: ReadonlyMap<number, number>
}

/** Faces that touch those at point p, with all they need to be refined there. */
function cutOut({ level: { table: t, at }, corners }: About): About {
  const p = t.corners[corners.values().next().value!]!
  const ring = new Set<number>()
  const facesAt = (q: number) => t.pointFaces.subarray(t.faceRing[q]!, t.faceRing[q + 1]!)
  for (const f of facesAt(p))
    for (const q of t.corners.subarray(t.faceStart[f]!, t.faceStart[f + 1]!)) ring.add(q)
  const faces = [...new Set([...ring].flatMap((q) => [...facesAt(q)]))]
  const points = new Map<number, number>()
  const edges = new Map<number, number>()
  const numbered = (of: Map<number, number>, k: number) => {
    const n = of.get(k) ?? of.size
    of.set(k, n)
    return n
  }
  const given: number[] = []
  const givenEdges: number[] = []
  const cornersNow = new Map<number, number>()
  for (const f of faces)
    for (let c = t.faceStart[f]!; c < t.faceStart[f + 1]!; c++) {
      cornersNow.set(c, given.length)
      given.push(numbered(points, t.corners[c]!))
      givenEdges.push(numbered(edges, t.cornerEdge[c]!))
    }
  const [pointsBack, edgesBack] = [[...points.keys()], [...edges.keys()]]
  const table: Table = ringed(
    {
      points: points.size,
      edges: edges.size,
      faceStart: Int32Array.from({ length: faces.length + 1 }, (_, f) => 4 * f),
      corners: Int32Array.from(given),
      cornerEdge: Int32Array.from(givenEdges),
    },
    (e) => t.edgeSharp[edgesBack[e]!]!,
    (q) => t.pointSharp[pointsBack[q]!]!,
  )
  const places = new Float64Array(3 * points.size)
  for (const [k, q] of pointsBack.entries()) places.set(at.subarray(3 * q, 3 * q + 3), 3 * k)
  return {
    level: { table, at: places },
    corners: new Map([...corners].map(([first, c]) => [first, cornersNow.get(c)!])),
  }
}

/** One refinement farther in: where a star's corners begin is where their first child does. */
const nearer = ({ level, corners }: About): About => ({
  level: refinedLevel(level),
  corners: new Map([...corners].map(([first, c]) => [first, 4 * c])),
})

/** Ever finer cages about stars of a table of quads, each worked out when it is first asked for. */
export class Stars {
  readonly base: Level
  /** All of it, refined once: no quad has two stars there. */
  readonly once: Level
  private readonly chains = new Map<number, About[]>()

  constructor(base: Level) {
    this.base = base
    this.once = refinedLevel(base)
  }

  /** The cage about the star at corner c of the base, refined so many times, 1 or more. */
  about(c: number, level: number): { level: Level; corner: number } {
    const t = this.base.table
    const p = t.corners[c]!
    let chain = this.chains.get(p)
    if (!chain) {
      const corners = new Map<number, number>()
      for (const f of t.pointFaces.subarray(t.faceRing[p]!, t.faceRing[p + 1]!))
        for (let k = 4 * f; k < 4 * f + 4; k++) if (t.corners[k] === p) corners.set(k, k)
      chain = [nearer(cutOut({ level: this.base, corners }))]
      this.chains.set(p, chain)
    }
    while (chain.length < level) chain.push(nearer(cutOut(chain[chain.length - 1]!)))
    const found = chain[level - 1]!
    return { level: found.level, corner: found.corners.get(c)! }
  }
}
