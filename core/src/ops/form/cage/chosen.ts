import { type Cage, edgeKey, edgesAlike, edgesOf, type Orbits, withCopies } from '../../../cage'

/** What an edit's words mean on the cage as it stands. */
export interface Chosen {
  points: number[]
  edges: [number, number][]
  faces: number[]
  /** Words that mean nothing there. */
  lost: string[]
}

const SPLIT = '~'

/** The points, edges and faces that words name. */
export function chosenOn(cage: Cage, words: readonly string[]): Chosen {
  const { layout } = cage
  const points = new Map(layout.points.map((name, p) => [name, p]))
  const faces = new Map(layout.faces.map((f, i) => [f.name, i]))
  const edges = edgesOf(layout.faces)
  const found = {
    points: new Set<number>(),
    edges: new Map<string, [number, number]>(),
    faces: new Set<number>(),
  }
  const lost: string[] = []
  const addEdge = (a: number, b: number): boolean => {
    const key = edgeKey(a, b)
    if (!edges.has(key)) return false
    found.edges.set(key, [a, b])
    found.points.add(a)
    found.points.add(b)
    return true
  }
  const addFaces = (of: number[]): boolean => {
    for (const f of of) {
      found.faces.add(f)
      for (const p of layout.faces[f]!.corners) found.points.add(p)
    }
    return of.length > 0
  }
  const within = (of: ReadonlySet<number>) => {
    for (const p of of) found.points.add(p)
    for (const [a, b] of edges.values()) if (of.has(a) && of.has(b)) addEdge(a, b)
    return of.size > 0
  }
  const word = (w: string): boolean => {
    if (w === 'all') {
      addFaces(layout.faces.map((_, f) => f))
      return within(new Set(layout.points.keys()))
    }
    const [first, rest] = [w.slice(0, w.indexOf(' ')), w.slice(w.indexOf(' ') + 1)]
    if (first === 'row') {
      const row = layout.rows.find((r) => r.name === rest)
      return row !== undefined && within(new Set(row.points))
    }
    if (first === 'column') {
      const ends = (name: string) => name.endsWith(`.${rest}`)
      // The faces after it are meant where faces are worked on; their points are not all its own.
      for (const [i, f] of layout.faces.entries())
        if (f.name.includes('f') && ends(f.name)) found.faces.add(i)
      return within(new Set(layout.points.flatMap((name, p) => (ends(name) ? [p] : []))))
    }
    if (first === 'band')
      return addFaces(layout.faces.flatMap((f, i) => (f.name.startsWith(`f${rest}.`) ? [i] : [])))
    const point = points.get(w)
    if (point !== undefined) {
      found.points.add(point)
      return true
    }
    const face = faces.get(w)
    if (face !== undefined) return addFaces([face])
    // Names of points may themselves hold the sign between them.
    for (let i = w.indexOf(SPLIT); i !== -1; i = w.indexOf(SPLIT, i + 1)) {
      const [a, b] = [points.get(w.slice(0, i)), points.get(w.slice(i + 1))]
      if (a !== undefined && b !== undefined) return addEdge(a, b)
    }
    return false
  }
  for (const w of words) if (!word(w)) lost.push(w)
  return {
    points: [...found.points],
    edges: [...found.edges.values()],
    faces: [...found.faces],
    lost,
  }
}

/** All copies of what was chosen. */
export function copiesOf({ points, edges, faces }: Chosen, orbits: Orbits) {
  return {
    points: withCopies(orbits.points, points),
    edges: edgesAlike(edges, orbits),
    faces: withCopies(orbits.faces, faces),
  }
}
