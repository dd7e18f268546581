import { bad, good, mean3, type Outcome, type P3 } from '../../math'
import { type Cage, edgeKey } from '../layout'
import { Loose } from './loose'

/** Of each point at which an edge with one face begins, the one at which it ends, as a face put onto it runs. */
export function openEdges({ layout: { faces } }: Pick<Cage, 'layout'>): Map<number, number> {
  const there = new Set<string>()
  for (const { corners } of faces)
    for (const [i, p] of corners.entries()) there.add(`${p} ${corners[(i + 1) % corners.length]}`)
  const next = new Map<number, number>()
  for (const way of there) {
    const [p, q] = way.split(' ').map(Number) as [number, number]
    if (!there.has(`${q} ${p}`)) next.set(q, p)
  }
  return next
}

/** Loops of open edges, each running so that a face which fills it looks out. */
export function openLoops(cage: Pick<Cage, 'layout'>): number[][] {
  const next = openEdges(cage)
  const out: number[][] = []
  while (next.size > 0) {
    const loop: number[] = []
    for (let p = next.keys().next().value; p !== undefined && next.has(p); ) {
      loop.push(p)
      const q: number = next.get(p)!
      next.delete(p)
      p = q
    }
    out.push(loop)
  }
  return out
}

export type Filling = 'shut' | 'fan' | 'grid'

/** A hole filled: by one face, by a fan of faces about a new point, or by a grid of quads between its two halves. */
export function filled(
  cage: Cage,
  loop: readonly number[],
  how: Filling,
  name: string,
): Outcome<Cage> {
  const loose = new Loose(cage)
  const n = loop.length
  if (how === 'shut') loose.faces.push({ name, corners: loop })
  else if (how === 'fan') {
    const middle = mean3(loop.map((p) => loose.at[p]!))
    const c = loose.point(`${name}:middle`, middle)
    const pairs = n % 2 === 0 && n > 4
    for (let k = 0; k < n; k += pairs ? 2 : 1) {
      const at = (i: number) => loop[(k + i) % n]!
      loose.faces.push({
        name: `${name}:${loose.points[at(0)]}`,
        corners: pairs ? [at(0), at(1), at(2), c] : [at(0), at(1), c],
      })
    }
  } else {
    if (n % 2 === 1 || n < 4)
      return bad('cage-grid', `A grid fills holes of an even number of edges; this has ${n}.`, [
        { at: loose.at[loop[0]!]! },
      ])
    const across = Math.floor(n / 4)
    const along = n / 2 - across
    gridded(loose, loop, along, across, name)
  }
  return good(loose.cage())
}

/** Quads over a loop whose sides count `m`, `k`, `m` and `k` edges; inner points by what their rows and columns say (Coons). */
function gridded(loose: Loose, loop: readonly number[], m: number, k: number, name: string): void {
  const side = (i: number, j: number): number | null => {
    if (j === 0) return loop[i]!
    if (i === m) return loop[m + j]!
    if (j === k) return loop[m + k + (m - i)]!
    return i === 0 ? loop[(2 * m + k + (k - j)) % loop.length]! : null
  }
  const grid: number[][] = []
  for (let j = 0; j <= k; j++)
    grid.push(
      Array.from({ length: m + 1 }, (_, i) => {
        const own = side(i, j)
        if (own !== null) return own
        const [u, v] = [i / m, j / k]
        const at = (a: number, b: number) => loose.at[side(a, b)!]!
        const place = [0, 1, 2].map(
          (d) =>
            (1 - v) * at(i, 0)[d]! +
            v * at(i, k)[d]! +
            (1 - u) * at(0, j)[d]! +
            u * at(m, j)[d]! -
            (1 - u) * (1 - v) * at(0, 0)[d]! -
            u * (1 - v) * at(m, 0)[d]! -
            u * v * at(m, k)[d]! -
            (1 - u) * v * at(0, k)[d]!,
        ) as unknown as P3
        return loose.point(`${name}:${i}.${j}`, place)
      }),
    )
  for (let j = 0; j < k; j++)
    for (let i = 0; i < m; i++)
      loose.faces.push({
        name: `${name}:f${i}.${j}`,
        corners: [grid[j]![i]!, grid[j]![i + 1]!, grid[j + 1]![i + 1]!, grid[j + 1]![i]!],
      })
}

/** Quads between two holes of as many edges, matched where they lie nearest. */
export function bridged(
  cage: Cage,
  one: readonly number[],
  other: readonly number[],
  name: string,
): Outcome<Cage> {
  const loose = new Loose(cage)
  const n = one.length
  if (other.length !== n)
    return bad(
      'cage-bridge',
      `A bridge joins holes of as many edges; one has ${n} and the other ${other.length}.`,
      [{ at: loose.at[one[0]!]! }, { at: loose.at[other[0]!]! }],
    )
  // Both run so that a face in them looks out: across a bridge they run against each other.
  const across = (k: number, shift: number) => other[(((shift - k) % n) + n) % n]!
  let [best, least] = [0, Number.POSITIVE_INFINITY]
  for (let shift = 0; shift < n; shift++) {
    let sum = 0
    for (let k = 0; k < n; k++) {
      const [p, q] = [loose.at[one[k]!]!, loose.at[across(k, shift)]!]
      sum += (p[0] - q[0]) ** 2 + (p[1] - q[1]) ** 2 + (p[2] - q[2]) ** 2
    }
    if (sum < least) [best, least] = [shift, sum]
  }
  for (let k = 0; k < n; k++) {
    const [a, b] = [one[k]!, one[(k + 1) % n]!]
    loose.faces.push({
      name: `${name}:${loose.points[a]}`,
      corners: [a, b, across(k + 1, best), across(k, best)],
    })
  }
  return good(loose.cage())
}

/** The cage without some faces. */
export function without(cage: Cage, faces: ReadonlySet<number>): Cage {
  const loose = new Loose(cage)
  loose.faces = loose.faces.filter((_, f) => !faces.has(f))
  return loose.cage()
}

/** The cage with edges gone: the two faces beside each become one, points that then join only two edges go too. */
export function dissolved(cage: Cage, edges: readonly (readonly [number, number])[]): Cage {
  const loose = new Loose(cage)
  for (const [a, b] of edges) {
    const [ahead, back] = [loose.faceAlong(a, b), loose.faceAlong(b, a)]
    if (ahead === -1 || back === -1 || ahead === back) continue
    const corners = loose.roundBoth(ahead, back, a, b)
    if (new Set(corners).size < corners.length) continue
    loose.faces[ahead] = { name: loose.faces[ahead]!.name, corners }
    loose.faces.splice(back, 1)
    loose.creases.delete(edgeKey(a, b))
  }
  const ends = new Set(edges.flat())
  for (const p of ends) {
    const at = loose.faces.filter((f) => f.corners.includes(p))
    if (at.length !== 2 || at.some((f) => f.corners.length < 4)) continue
    loose.faces = loose.faces.map(({ name, corners }) => ({
      name,
      corners: corners.filter((q) => q !== p),
    }))
  }
  return loose.cage()
}
