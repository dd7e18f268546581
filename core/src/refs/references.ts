import { z } from 'zod'
import { rounded } from '../math'

/**
 * Where the thing was when it was picked ([r, z] of a turned body, else in space, mm), and which of how many of that name. Of bodies
 * that are not turned also what stood beside it, how many of that name had the same beside them (`like`, 1 when absent), and which of
 * those it was (`rank`, from 0) in their order along the axis of the faces that bear the name `along`.
 */
const witness = {
  at: z
    .union([
      z.tuple([z.number(), z.number()]).readonly(),
      z.tuple([z.number(), z.number(), z.number()]).readonly(),
    ])
    .optional(),
  index: z.number().int().nonnegative().optional(),
  of: z.number().int().positive().optional(),
  beside: z.array(z.string()).max(80).optional(),
  like: z.number().int().positive().optional(),
  rank: z.number().int().nonnegative().optional(),
  along: z.string().optional(),
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
export type Witness = Pick<FaceRef, 'at' | 'index' | 'of' | 'beside' | 'like' | 'rank' | 'along'>

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

/** How the things of a body are told apart. */
export interface Signs<T> {
  all: T[]
  /** Whether it bears the name. */
  named(x: T): boolean
  /** Distance from the stored place, mm; asked only where there is one that can be compared. */
  away(x: T): number
  /** Size of the body, mm. */
  size: number
  /** What stands beside it. */
  beside?(x: T): string[] | undefined
  /** Several in the order along the axis of faces of a name; null where they have none. */
  ordered?(list: readonly T[], along: string): T[] | null
  /** The things that are one with it, itself among them; all of them have the same beside them. */
  whole?(x: T): readonly T[]
}

/**
 * Name, place and number of a thing on a half-section have to agree, where the number is the order of the outline. A right place
 * decides; without one the number does where as many bear the name as then; what is left is a likeness to be confirmed, or a question.
 */
export function resolve<T>(
  ref: Omit<Witness, 'at'>,
  at: readonly number[] | undefined,
  { all, named, away, size }: Signs<T>,
): Resolved<T> {
  const same = all.filter(named)
  const { index, of } = ref
  if (same.length === 0) return unnamed(at, { all, away, size })
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
  return byPlace(same, at, { away, size })
}

/**
 * The same in space, where the number is the kernel's and says nothing. What stands beside a thing decides between those that bear
 * its name, then their order along the axis of what made them, then its place. Signs that disagree are a question.
 */
export function resolveInSpace<T>(
  ref: Omit<Witness, 'at'>,
  at: readonly number[] | undefined,
  signs: Signs<T>,
): Resolved<T> {
  const { all, named, away, size } = signs
  const same = all.filter(named)
  if (same.length === 0) return unnamed(at, { all, away, size })
  const whole = signs.whole ?? ((x: T) => [x])
  const firsts = (list: readonly T[]) => [...new Set(list.map((x) => whole(x)[0]!))]
  /** Of what is one with it the thing that is nearest to the place. */
  const nearest = (x: T) => (at ? nearestFirst([...whole(x)], away)[0]! : x)
  const placed = at ? same.filter((x) => away(x) <= RIGHT) : []
  const right = firsts(placed).length === 1 ? whole(placed[0]!)[0]! : undefined
  const { beside, like = 1, rank, along, of } = ref
  const alike = beside ? firsts(same.filter((x) => equal(signs.beside?.(x), beside))) : []
  const meant =
    alike.length !== like
      ? undefined
      : like === 1
        ? alike[0]
        : rank === undefined || along === undefined
          ? undefined
          : signs.ordered?.(alike, along)?.[rank]
  if (meant !== undefined) {
    // A right place says so too, or says nothing.
    if (right !== undefined && right !== meant) return { state: 'unclear', candidates: same }
    return { state: 'found', item: nearest(meant) }
  }
  if (right !== undefined && (alike.length === 0 || alike.includes(right))) {
    // What stood alone and lies in pieces now, or the other way round, may go on in any of them; so may what others are as like.
    const asMany =
      beside === undefined ||
      alike.length > 0 ||
      ((of ?? same.length) === same.length &&
        same.every(
          (x) =>
            x === right || share(signs.beside?.(x), beside) < share(signs.beside?.(right), beside),
        ))
    return { state: asMany ? 'found' : 'likeness', item: nearest(right) }
  }
  if (firsts(same).length === 1 && (of ?? 1) === 1)
    return { state: 'found', item: nearest(same[0]!) }
  return byPlace(alike.length > 0 ? alike : same, at, { away, size })
}

const equal = (a: readonly string[] | undefined, b: readonly string[]): boolean =>
  a !== undefined && a.length === b.length && a.every((x, i) => x === b[i])

/** How much of what stood beside a thing then (or stands beside it now) is the same, from 0 to 1. */
function share(now: readonly string[] | undefined, then: readonly string[]): number {
  if (!now) return 0
  const left = [...then]
  for (const word of now) {
    const i = left.indexOf(word)
    if (i >= 0) left.splice(i, 1)
  }
  return (then.length - left.length) / Math.max(then.length, now.length, 1)
}

/** Where nothing bears the name any more. */
function unnamed<T>(
  at: readonly number[] | undefined,
  { all, away, size }: Pick<Signs<T>, 'all' | 'away' | 'size'>,
): Resolved<T> {
  const alike = at && likest(all, away, size)
  if (alike) return { state: 'likeness', item: alike }
  return { state: 'lost', candidates: at ? nearestFirst(all, away).slice(0, 4) : all }
}

/** The one that is near the place where it was, as a likeness; else which of them is a question. */
function byPlace<T>(
  list: T[],
  at: readonly number[] | undefined,
  { away, size }: Pick<Signs<T>, 'away' | 'size'>,
): Resolved<T> {
  const alike = at && likest(list, away, size)
  if (alike) return { state: 'likeness', item: alike }
  return { state: 'unclear', candidates: at ? nearestFirst(list, away) : list }
}

const nearestFirst = <T>(all: T[], away: (x: T) => number): T[] =>
  [...all].sort((p, q) => away(p) - away(q))

/** The one thing near the place, where no other is about as near. */
function likest<T>(all: T[], away: (x: T) => number, size: number): T | null {
  const [first, second] = nearestFirst(all, away)
  if (!first || away(first) >= LIKE * size) return null
  return !second || away(second) > 2 * away(first) + 1e-6 ? first : null
}
