import { bad, good, mean3, type Outcome } from '../../math'
import { type Cage, edgeKey } from '../layout'
import { Loose } from './loose'

/** Edges, and points, given a sharpness; 0 takes it away. */
export function creased(
  cage: Cage,
  edges: readonly (readonly [number, number])[],
  points: readonly number[],
  sharpness: number,
): Cage {
  const loose = new Loose(cage)
  for (const [a, b] of edges) loose.creases.set(edgeKey(a, b), sharpness)
  for (const p of points) loose.peaks.set(p, sharpness)
  return loose.cage()
}

/** Points made one, at their middle; the first gives the name. */
export function welded(cage: Cage, groups: readonly (readonly number[])[]): Outcome<Cage> {
  const loose = new Loose(cage)
  const into = new Map<number, number>()
  for (const points of groups) {
    const middle = mean3(points.map((p) => loose.at[p]!))
    loose.at[points[0]!] = middle
    for (const p of points) into.set(p, points[0]!)
  }
  const torn = loose.faces.find(({ corners }) => {
    const now = corners
      .map((p) => into.get(p) ?? p)
      .filter((p, i, all) => p !== all[(i + 1) % all.length])
    return new Set(now).size < now.length
  })
  if (torn)
    return bad('cage-weld', 'Points over from each other in a face are not welded; cut it first.', [
      { at: loose.at[torn.corners[0]!]! },
    ])
  loose.merge(into)
  return good(loose.cage())
}

/** Edges drawn across faces, each between two points of one. */
export function cutAcross(
  cage: Cage,
  edges: readonly (readonly [number, number])[],
  name: string,
): Outcome<Cage> {
  const loose = new Loose(cage)
  for (const [a, b] of edges) {
    const f = loose.faces.findIndex(
      ({ corners: c }) =>
        c.includes(a) &&
        c.includes(b) &&
        Math.abs(c.indexOf(a) - c.indexOf(b)) % (c.length - 1) > 1,
    )
    if (f === -1)
      return bad(
        'cage-cut',
        'An edge goes across a face between two of its points that are not side by side.',
        [{ at: loose.at[a]! }, { at: loose.at[b]! }],
      )
    const { name: own, corners: c } = loose.faces[f]!
    const [i, j] = [c.indexOf(a), c.indexOf(b)].sort((x, y) => x - y) as [number, number]
    loose.faces[f] = { name: own, corners: [...c.slice(0, i + 1), ...c.slice(j)] }
    loose.faces.push({ name: `${name}:${own}`, corners: c.slice(i, j + 1) })
  }
  return good(loose.cage())
}
