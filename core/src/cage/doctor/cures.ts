import { norm3, placeAt, sub3 } from '../../math'
import { creaseLines } from '../creases'
import type { Turning } from '../edit'
import { type Cage, edgeOfKey } from '../layout'
import { best, type Cure, type Scored } from './cure'
import { type Stars, starred } from './stars'

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

/** Faces this much longer than they are wide, and than most faces are, could do with a line across. */
const LONG = 2.5

/** Lines of points across long faces. */
export function loopCures({ layout, at }: Cage, score: Float64Array): Cure[] {
  const far = (a: number, b: number) => norm3(sub3(placeAt(at, a), placeAt(at, b)))
  const quads = [...layout.faces.entries()].flatMap(([f, { corners: c }]) => {
    if (c.length !== 4) return []
    const [a, b] = [far(c[0]!, c[1]!) + far(c[2]!, c[3]!), far(c[1]!, c[2]!) + far(c[3]!, c[0]!)]
    const edge: [number, number] = a > b ? [c[0]!, c[1]!] : [c[1]!, c[2]!]
    return [
      { cure: { kind: 'loop', edge } as Cure, score: score[f]!, long: Math.max(a / b, b / a) },
    ]
  })
  const usual = quads.map((q) => q.long).sort((a, b) => a - b)[quads.length >> 1] ?? 1
  return best(quads.filter((q) => q.long > LONG * usual))
}
