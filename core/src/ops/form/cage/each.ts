import { bridgedRuns, type Cage, edgeKey, mirrored, type Orbits, type Run } from '../../../cage'
import { good } from '../../../math'
import type { CageEdit } from './inputs'
import { type Made, only } from './made'

/** What points about those chosen count, without those of which a copy counts more: they go as its copies. */
export function onesOwn(
  counts: ReadonlyMap<number, number>,
  { points }: Orbits,
): Map<number, number> {
  const most = new Map<number, number>()
  for (const [p, w] of counts)
    for (const of of points) most.set(of[p]!, Math.max(w, most.get(of[p]!) ?? 0))
  return new Map([...counts].filter(([p, w]) => w > most.get(p)! * (1 - 1e-9)))
}

/** Groups of points on each copy, those with the same points once. */
export function copiesEach(points: readonly number[], { points: permuted }: Orbits): number[][] {
  const out = new Map<string, number[]>()
  for (const of of permuted) {
    const moved = points.map((p) => of[p]!)
    out.set([...moved].sort((a, b) => a - b).join(' '), moved)
  }
  return [...out.values()]
}
export const unlike = (pairs: [number, number][]): [number, number][] => [
  ...new Map(pairs.map((p) => [edgeKey(p[0], p[1]), p])).values(),
]

/** Faces that are carried out together: all, those of each copy (copies that share a face as one), or each. */
export function listsOf(
  each: 'together' | 'copy' | 'face',
  chosen: readonly number[],
  all: readonly number[],
  { faces }: Orbits,
): number[][] {
  if (each === 'together') return [[...all]]
  if (each === 'face') return all.map((f) => [f])
  const lists: Set<number>[] = []
  for (const of of faces) {
    const own = new Set(chosen.map((f) => of[f]!))
    const shared = lists.filter((l) => [...own].some((f) => l.has(f)))
    for (const l of shared) {
      lists.splice(lists.indexOf(l), 1)
      for (const f of l) own.add(f)
    }
    lists.push(own)
  }
  return lists.map((l) => [...l])
}

/** A bridge between two runs of open edges, on each copy. */
export function bridgesOf(
  cage: Cage,
  [one, other]: [Run, Run],
  { rows, id }: Extract<CageEdit, { kind: 'bridge' }>,
  { points, motions }: Orbits,
): Made {
  let now = cage
  const made = new Set<string>()
  for (const [k, of] of points.entries()) {
    const moved = (r: Run): Run => {
      const line = r.points.map((p) => of[p]!)
      // A mirrored one runs the other way.
      return { points: mirrored(motions[k]!) ? line.reverse() : line, closed: false }
    }
    const key = [...one.points, ...other.points]
      .map((p) => of[p]!)
      .sort((a, b) => a - b)
      .join()
    if (made.has(key)) continue
    const next = bridgedRuns(
      now,
      moved(one),
      moved(other),
      rows,
      made.size ? `${id}/${made.size}` : id,
    )
    if (!next.ok) return next
    made.add(key)
    now = next.value
  }
  return only(good(now))
}
