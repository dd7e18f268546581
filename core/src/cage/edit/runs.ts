import { add3, bad, good, lerp3, mean3, type Outcome, type P3, scale3 } from '../../math'
import { type Cage, edgeKey } from '../layout'
import { openEdges } from './holes'
import { Loose } from './loose'
import { pointNormals } from './places'

/** Edges at an opening that follow each other, running so that a face put onto them looks out. */
export interface Run {
  points: number[]
  /** Whether the last goes on to the first. */
  closed: boolean
}

/** The runs that some edges make where they have one face only; the others are passed over. */
export function openRuns(
  cage: Pick<Cage, 'layout'>,
  edges: readonly (readonly [number, number])[],
): Run[] {
  const chosen = new Set(edges.map(([a, b]) => edgeKey(a, b)))
  const next = new Map([...openEdges(cage)].filter(([p, q]) => chosen.has(edgeKey(p, q))))
  const ends = new Set(next.values())
  const starts = [...next.keys()].sort((a, b) => Number(ends.has(a)) - Number(ends.has(b)))
  return starts.flatMap((start): Run[] => {
    if (!next.has(start)) return []
    const points = [start]
    for (let p = start; next.has(p); ) {
      const q = next.get(p)!
      next.delete(p)
      if (q === start) return [{ points, closed: true }]
      points.push(q)
      p = q
    }
    return [{ points, closed: false }]
  })
}

/** Pairs of points along a run. */
const steps = ({ points, closed }: Run): [number, number][] =>
  points.flatMap((p, k): [number, number][] => {
    const q = points[k + 1] ?? (closed ? points[0] : undefined)
    return q === undefined ? [] : [[p, q]]
  })

/** Open edges carried out along the normals of the form by `by` mm, drawn together to `size` about the middle of each run: a face each. */
export function extrudeRuns(
  cage: Cage,
  runs: readonly Run[],
  by: number,
  size: number,
  name: string,
): Cage {
  const loose = new Loose(cage)
  const normals = pointNormals({ faces: cage.layout.faces, at: cage.at })
  for (const run of runs) {
    const middle = mean3(run.points.map((p) => loose.at[p]!))
    const now = new Map(
      run.points.map((p) => {
        const out = scale3(normals[p]!, by)
        const to: P3 = lerp3(add3(middle, out), add3(loose.at[p]!, out), size)
        return [p, loose.point(`${name}:${loose.points[p]}`, to)]
      }),
    )
    for (const [p, q] of steps(run))
      loose.faces.push({
        name: `${name}:${loose.points[p]}~${loose.points[q]}`,
        corners: [p, q, now.get(q)!, now.get(p)!],
      })
  }
  return loose.cage()
}

/** Quads between two runs of as many edges, with so many rows of points between, evenly. */
export function bridgedRuns(
  cage: Cage,
  one: Run,
  other: Run,
  rows: number,
  name: string,
): Outcome<Cage> {
  const loose = new Loose(cage)
  const places = [one, other].map((r) => ({ at: loose.at[r.points[0]!]! }))
  const [n, m] = [one, other].map((r) => r.points.length - 1) as [number, number]
  if (n !== m)
    return bad(
      'cage-bridge',
      `A bridge joins runs of as many edges; one has ${n} and the other ${m}.`,
      places,
    )
  if (one.points.some((p) => other.points.includes(p)))
    return bad(
      'cage-bridge',
      'The runs touch each other: a bridge would have faces of no width.',
      places,
    )
  // Both run so that a face on them looks out: across a bridge they run against each other.
  const far = [...other.points].reverse()
  let before = one.points
  for (let row = 1; row <= rows + 1; row++) {
    const share = row / (rows + 1)
    const line =
      row > rows
        ? far
        : one.points.map((p, k) =>
            loose.point(
              `${name}:${loose.points[p]}/${row}`,
              lerp3(loose.at[p]!, loose.at[far[k]!]!, share),
            ),
          )
    for (let k = 0; k < n; k++)
      loose.faces.push({
        name: `${name}:${loose.points[one.points[k]!]}~${loose.points[one.points[k + 1]!]}${rows > 0 ? `/${row}` : ''}`,
        corners: [before[k]!, before[k + 1]!, line[k + 1]!, line[k]!],
      })
    before = line
  }
  return good(loose.cage())
}
