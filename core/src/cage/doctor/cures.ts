import { dot3, mean3, norm3, type P3, placeAt, scale3, sub3 } from '../../math'
import { creaseLines } from '../creases'
import { pointNormals, type Turning } from '../edit'
import { type Cage, ENDLESS, edgeOfKey, neighbours } from '../layout'

/** Something that can be tried on a cage to make its limit more even. */
export type Cure =
  | { kind: 'crease'; edges: readonly (readonly [number, number])[] }
  | { kind: 'rotate'; edge: readonly [number, number]; way: Turning }
  | { kind: 'dissolve'; edge: readonly [number, number] }
  | { kind: 'move'; point: number; by: P3 }
  | { kind: 'relax'; points: readonly number[] }
  | { kind: 'loop'; edge: readonly [number, number] }

/** A cure with how unevenly the form bends where it would be tried. */
interface Scored {
  cure: Cure
  score: number
}
const best = (of: Scored[]): Cure[] => of.sort((x, y) => y.score - x.score).map((c) => c.cure)

/** The points that a cure is about. */
export const pointsOf = (c: Cure): readonly number[] => {
  switch (c.kind) {
    case 'crease':
      return [...new Set(c.edges.flat())]
    case 'rotate':
    case 'dissolve':
    case 'loop':
      return c.edge
    case 'move':
      return [c.point]
    case 'relax':
      return c.points
  }
}

/** How many edges meet in each point, and whether it lies on a border or a crease that never smooths out. */
export interface Stars {
  count: number[]
  held: boolean[]
}
export function starsOf({ layout }: Cage, at: ReadonlyMap<string, readonly number[]>): Stars {
  const count = layout.points.map(() => 0)
  const held = layout.points.map(() => false)
  for (const [key, faces] of at) {
    const sharp = faces.length < 2 || (layout.creases.get(key) ?? 0) >= ENDLESS
    for (const p of edgeOfKey(key)) {
      count[p]!++
      if (sharp) held[p] = true
    }
  }
  return { count, held }
}
/** How far points are from four edges each; on borders and creases nothing is asked. */
const starred = ({ count, held }: Stars, points: readonly number[], change = 0): number =>
  points.reduce((sum, p) => sum + (held[p] ? 0 : (count[p]! + change - 4) ** 2), 0)

/**
 * Creases that look stray: lines that end in the middle of a face's surroundings, not on a border, in a corner, or where creases meet.
 */
export function strayCreases({ layout }: Cage, at: ReadonlyMap<string, readonly number[]>): Cure[] {
  const all = [...layout.creases].map(([key, sharp]) => {
    const [a, b] = edgeOfKey(key)
    return { a, b, sharp }
  })
  const meets = new Map<number, number>()
  for (const { a, b } of all) for (const p of [a, b]) meets.set(p, (meets.get(p) ?? 0) + 1)
  const border = new Set(
    [...at].flatMap(([key, faces]) => (faces.length < 2 ? edgeOfKey(key) : [])),
  )
  const loose = (p: number) => meets.get(p) === 1 && !border.has(p) && !layout.peaks.has(p)
  return creaseLines(all).flatMap((line): Cure[] =>
    line.edges.some(({ a, b }) => loose(a) || loose(b))
      ? [{ kind: 'crease', edges: line.edges.map(({ a, b }) => [a, b] as const) }]
      : [],
  )
}

/** Edges that could be turned, or taken out of two triangles, so that fewer points are met by other than four edges. */
export function edgeCures(
  cage: Cage,
  at: ReadonlyMap<string, readonly number[]>,
  stars: Stars,
  score: Float64Array,
): Cure[] {
  const { faces } = cage.layout
  const out: Scored[] = []
  for (const [key, [f, g]] of at) {
    if (f === undefined || g === undefined || cage.layout.creases.has(key)) continue
    const [a, b] = edgeOfKey(key)
    const own = score[f]! + score[g]!
    const [m, n] = [faces[f]!.corners.length, faces[g]!.corners.length]
    if (m === 3 && n === 3) {
      out.push({ cure: { kind: 'dissolve', edge: [a, b] }, score: own })
      continue
    }
    const off = Math.abs(m - 4) + Math.abs(n - 4)
    for (const way of ['on', 'back'] as const) {
      const [p, q] = endsTurned(faces[f]!.corners, faces[g]!.corners, a, b, way)
      const before = starred(stars, [a, b]) + starred(stars, [p, q])
      const after = starred(stars, [a, b], -1) + starred(stars, [p, q], 1)
      if (after < before || (off > 0 && after === before))
        out.push({ cure: { kind: 'rotate', edge: [a, b], way }, score: own })
    }
  }
  return best(out)
}

/** Where the ends of an edge come when it is turned in its two faces. */
function endsTurned(
  one: readonly number[],
  other: readonly number[],
  a: number,
  b: number,
  way: Turning,
): [number, number] {
  const runs = (c: readonly number[]) => c[(c.indexOf(a) + 1) % c.length] === b
  const [ahead, back] = runs(one) ? [one, other] : [other, one]
  const step = (c: readonly number[], p: number, by: number) =>
    c[(c.indexOf(p) + by + c.length) % c.length]!
  return way === 'on'
    ? [step(ahead, b, 1), step(back, a, 1)]
    : [step(back, b, -1), step(ahead, a, -1)]
}

/** Faces this much longer than they are wide could do with a line across. */
const LONG = 2.5

/** Points drawn towards their neighbours, each with those about it, and lines of points across long faces. */
export function spreadCures(
  cage: Cage,
  { held }: Stars,
  score: Float64Array,
  scoreAt: (p: number) => number,
): { relax: Cure[]; loops: Cure[] } {
  const around = neighbours(cage)
  const far = (a: number, b: number) => norm3(sub3(placeAt(cage.at, a), placeAt(cage.at, b)))
  const relax = around.flatMap((ring, p) => {
    const points = [p, ...ring].filter((q) => !held[q])
    return held[p] || points.length < 3
      ? []
      : [{ cure: { kind: 'relax', points } as Cure, score: scoreAt(p) }]
  })
  const loops = cage.layout.faces.flatMap(({ corners: c }, f) => {
    if (c.length !== 4) return []
    const [a, b] = [far(c[0]!, c[1]!) + far(c[2]!, c[3]!), far(c[1]!, c[2]!) + far(c[3]!, c[0]!)]
    if (Math.max(a, b) < LONG * Math.min(a, b)) return []
    const edge: [number, number] = a > b ? [c[0]!, c[1]!] : [c[1]!, c[2]!]
    return [{ cure: { kind: 'loop', edge } as Cure, score: score[f]! }]
  })
  return { relax: best(relax), loops: best(loops) }
}

/** Moves shorter than this share of the edges about a point are none. */
const TINY = 0.004

/**
 * Points moved along their normals to where they stand off the middle of their neighbours as those stand off theirs: what a single
 * point that was pulled goes back by.
 */
export function moveCures(cage: Cage, { held }: Stars, score: (p: number) => number): Cure[] {
  const around = neighbours(cage)
  const place = (p: number) => placeAt(cage.at, p)
  const off = (p: number): P3 => sub3(mean3(around[p]!.map(place)), place(p))
  const normals = pointNormals({ faces: cage.layout.faces, at: cage.at })
  const out: Scored[] = []
  for (const [p, ring] of around.entries()) {
    const free = ring.filter((q) => !held[q])
    if (held[p] || free.length < 2) continue
    const other = mean3(free.map(off))
    const share = free.reduce((sum, q) => sum + 1 / around[q]!.length, 0) / free.length
    const far = dot3(sub3(off(p), other), normals[p]!) / (1 + share)
    const size = Math.sqrt(
      ring.reduce((sum, q) => sum + dot3(sub3(place(q), place(p)), sub3(place(q), place(p))), 0) /
        ring.length,
    )
    if (Math.abs(far) > TINY * size)
      out.push({
        cure: { kind: 'move', point: p, by: scale3(normals[p]!, far) },
        score: score(p),
      })
  }
  return best(out)
}
