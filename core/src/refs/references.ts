import { z } from 'zod'
import { rounded } from '../math'

/** Where the thing was when it was picked ([r, z] of a turned body, else in space, mm), and which of how many of that name. */
const witness = {
  at: z
    .union([
      z.tuple([z.number(), z.number()]).readonly(),
      z.tuple([z.number(), z.number(), z.number()]).readonly(),
    ])
    .optional(),
  index: z.number().int().nonnegative().optional(),
  of: z.number().int().positive().optional(),
}
/** A face by the name its provenance gives it, such as `turn1:e4`. */
export const faceRefSchema = z.object({ face: z.string().min(1), ...witness })
/** An edge as the meeting of two faces. */
export const edgeRefSchema = z.object({
  edge: z.tuple([z.string().min(1), z.string().min(1)]),
  ...witness,
})
/** A corner by the faces that meet in it, sorted. */
export const vertexRefSchema = z.object({
  vertex: z.array(z.string().min(1)).min(3).max(40),
  ...witness,
})
export type VertexRef = z.infer<typeof vertexRefSchema>
export type FaceRef = z.infer<typeof faceRefSchema>
export type EdgeRef = z.infer<typeof edgeRefSchema>
export type Witness = Pick<FaceRef, 'at' | 'index' | 'of'>

/**
 * How a reference was resolved: for sure; by its likeness only; not clear which of those that bear the
 * name is meant; or nothing bears the name.
 */
export type Resolved<T> =
  | { state: 'found'; item: T }
  | { state: 'likeness'; item: T }
  | { state: 'unclear'; candidates: T[] }
  | { state: 'lost'; candidates: T[] }

/** A place as it is stored: to 0.1 µm. */
export const stored = <P extends readonly number[]>(p: P): P =>
  p.map((x) => rounded(x, 4)) as readonly number[] as P

/** A thing this near to where the lost one was (share of the body's size) passes for its likeness. */
const LIKE = 0.08
/** A thing is where the reference says when it is this near, mm: stored places are rounded. */
const RIGHT = 1e-3

/**
 * Name, place and number have to agree. A right place decides; without one the number does where as many
 * bear the name as then; what is left is a likeness to be confirmed, or a question. `away` gives the
 * distance of a thing from the stored place, `size` that of the body, mm; `at` is the place where it can
 * be compared.
 */
export function resolve<T>(
  all: T[],
  ref: Omit<Witness, 'at'>,
  at: readonly number[] | undefined,
  named: (x: T) => boolean,
  away: (x: T) => number,
  size: number,
): Resolved<T> {
  const same = all.filter(named)
  const { index, of } = ref
  if (same.length === 0) {
    const alike = at && likest(all, away, size)
    if (alike) return { state: 'likeness', item: alike }
    return { state: 'lost', candidates: at ? nearestFirst(all, away).slice(0, 4) : all }
  }
  const counted = (of ?? same.length) === same.length ? index : undefined
  const placed = at ? same.filter((x) => away(x) <= RIGHT) : []
  if (placed.length === 1) {
    const [item] = placed
    const contradicted = counted !== undefined && same[counted] !== item
    return contradicted ? { state: 'unclear', candidates: same } : { state: 'found', item: item! }
  }
  if (counted !== undefined)
    return same[counted]
      ? { state: 'found', item: same[counted] }
      : { state: 'unclear', candidates: same }
  if (same.length === 1 && (of ?? 1) === 1) return { state: 'found', item: same[0]! }
  const alike = at && likest(same, away, size)
  if (alike) return { state: 'likeness', item: alike }
  return { state: 'unclear', candidates: at ? nearestFirst(same, away) : same }
}

const nearestFirst = <T>(all: T[], away: (x: T) => number): T[] =>
  [...all].sort((p, q) => away(p) - away(q))

/** The one thing near the place, where no other is about as near. */
function likest<T>(all: T[], away: (x: T) => number, size: number): T | null {
  const [first, second] = nearestFirst(all, away)
  if (!first || away(first) >= LIKE * size) return null
  return !second || away(second) > 2 * away(first) + 1e-6 ? first : null
}
