import { bad, good, type Outcome, placeAt } from '../../math'
import { type Cage, edgeKey } from '../layout'
import { mirrored, type Orbits } from '../symmetry'
import { Loose } from './loose'

/** Which way an edge turns in the two faces beside it, seen from outside. */
export type Turning = 'on' | 'back'

/**
 * Edges turned in the two faces beside each: both ends go one corner on round them (against the clock), or back. A crease on it goes.
 * Refused where an end would come beside its other end twice.
 */
export function rotated(
  cage: Cage,
  edges: readonly { edge: readonly [number, number]; way: Turning }[],
): Outcome<Cage> {
  const loose = new Loose(cage)
  for (const { edge, way } of edges) {
    const [a, b] = edge
    const [ahead, back] = [loose.faceAlong(a, b), loose.faceAlong(b, a)]
    const places = [{ at: loose.at[a]! }, { at: loose.at[b]! }]
    if (ahead === -1 || back === -1)
      return bad(
        'cage-turn-edge',
        'An edge turns between two faces; this one lies on a border.',
        places,
      )
    const round = loose.roundBoth(ahead, back, a, b)
    const m = loose.faces[ahead]!.corners.length - 1
    const n = round.length
    const [i, j] = way === 'on' ? [1, m + 1] : [n - 1, m - 1]
    const between = (from: number, to: number) => {
      const out = [round[from % n]!]
      for (let k = from; k % n !== to % n; ) out.push(round[++k % n]!)
      return out
    }
    const [p, q] = [round[i % n]!, round[j % n]!]
    const one = between(i, j)
    const other = between(j, i)
    const beside = loose.faces.some(
      ({ corners: c }, f) =>
        f !== ahead &&
        f !== back &&
        c.includes(p) &&
        c.includes(q) &&
        [1, c.length - 1].includes(Math.abs(c.indexOf(p) - c.indexOf(q))),
    )
    if (new Set(round).size < n || one.length < 3 || other.length < 3 || beside)
      return bad('cage-turn-edge', 'Turned so, this edge would lie on another one.', places)
    loose.faces[ahead] = { name: loose.faces[ahead]!.name, corners: one }
    loose.faces[back] = { name: loose.faces[back]!.name, corners: other }
    loose.creases.delete(edgeKey(a, b))
  }
  return good(loose.cage())
}

/** Edges with their copies, each with the way it turns: mirrored ones the other way; refused where the symmetry asks for both. */
export function turnedAlike(
  cage: Cage,
  edges: readonly (readonly [number, number])[],
  way: Turning,
  { motions, points }: Orbits,
): Outcome<Cage> {
  const out = new Map<string, { edge: [number, number]; way: Turning }>()
  for (const [k, of] of points.entries()) {
    const over = mirrored(motions[k]!)
    for (const [a, b] of edges) {
      const edge: [number, number] = [of[a]!, of[b]!]
      const key = edgeKey(...edge)
      const turned = over === (way === 'on') ? 'back' : 'on'
      if ((out.get(key)?.way ?? turned) !== turned)
        return bad(
          'cage-turn-edge',
          'Its copies ask for this edge to be turned both ways.',
          edge.map((p) => ({ at: placeAt(cage.at, p) })),
        )
      out.set(key, { edge, way: turned })
    }
  }
  return rotated(cage, [...out.values()])
}
